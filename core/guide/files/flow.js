// The map of screens: zoom it, move it, and play it by clicking through the pictures.
"use strict";
(() => {
  const { el } = guide, by = id => document.getElementById(id), map = by("map"), inner = by("map-of");
  const wide = parseFloat(inner.style.width), high = parseFloat(inner.style.height);
  let zoom = Math.min(1, Math.max(0.3, (map.clientWidth - 8) / wide));

  function set(z) {
    zoom = Math.min(3, Math.max(0.1, z));
    inner.style.transform = `scale(${zoom})`;
    inner.style.marginRight = wide * (zoom - 1) + "px";
    inner.style.marginBottom = high * (zoom - 1) + "px";
    by("map-zoom").textContent = Math.round(zoom * 100) + " %";
  }
  set(zoom);
  by("map-in").onclick = () => set(zoom * 1.25);
  by("map-out").onclick = () => set(zoom / 1.25);
  map.addEventListener("wheel", ev => { if (ev.ctrlKey) { ev.preventDefault(); set(zoom * (ev.deltaY < 0 ? 1.1 : 0.9)); } }, { passive: false });
  map.addEventListener("keydown", ev => {
    if (ev.key === "+" || ev.key === "=") set(zoom * 1.25);
    if (ev.key === "-") set(zoom / 1.25);
  });
  let down = null;
  map.addEventListener("pointerdown", ev => { if (ev.target.closest("a")) return; down = [ev.clientX + map.scrollLeft, ev.clientY + map.scrollTop]; });
  addEventListener("pointermove", ev => { if (down) { map.scrollLeft = down[0] - ev.clientX; map.scrollTop = down[1] - ev.clientY; } });
  addEventListener("pointerup", () => { down = null; });

  // play shows one screen with the places that lead on; the way back is kept.
  let dialog, screens, way = [];
  async function play() {
    try { screens ||= await guide.load("flows"); } catch (err) { return guide.say(err.message); }
    if (!dialog) {
      dialog = el("dialog", { id: "player", "aria-label": "The screens, played" }, el("div", { class: "tools" }, el("button", { id: "back" }, "← back"), el("strong", { id: "playing-name" }), el("button", { id: "stop" }, "close")), el("div", { class: "playing", id: "playing" }));
      document.body.append(dialog);
      by("back").onclick = () => { if (way.length > 1) { way.pop(); show(); } };
      by("stop").onclick = () => dialog.close();
    }
    way = [0];
    dialog.showModal();
    show();
  }
  function show() {
    const s = screens[way.at(-1)], scale = Math.min(1, (innerWidth * 0.9 - 40) / s.w, (innerHeight * 0.94 - 110) / s.h);
    const of = by("playing"), fits = v => v * scale + "px";
    of.style.width = fits(s.w);
    of.style.height = fits(s.h);
    by("playing-name").textContent = s.name;
    by("back").disabled = way.length < 2;
    of.replaceChildren(el("img", { src: s.picture, alt: s.name }), ...s.leads.map(l => el("button", { "aria-label": `${l.n}, leads to ${l.to < 0 ? "a screen that does not exist" : screens[l.to].name}`, disabled: l.to < 0,
      style: `left: ${fits(l.b[0])}; top: ${fits(l.b[1])}; width: ${fits(l.b[2])}; height: ${fits(l.b[3])}`, onclick: () => { way.push(l.to); show(); of.querySelector("button")?.focus(); } })));
    const calm = matchMedia("(prefers-reduced-motion: reduce)").matches;
    if (!calm && of.animate) of.animate([{ opacity: 0.4 }, { opacity: 1 }], 160);
  }
  by("play").onclick = play;
})();
