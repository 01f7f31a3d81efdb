// The site over a screen: its page as a browser shows it, laid over the picture with a slider, side by side, blinking, or as
// their difference.
"use strict";
(() => {
  const { el, ask } = guide;
  const canvas = document.querySelector("#canvas"), tools = document.querySelector(".tools");
  if (!canvas || !tools || !guide.screen) return;
  const source = document.querySelector(".title code").textContent, screen = document.querySelector(".title h1").textContent;
  let img = null, timer = 0;
  const about = el("p", { class: "soft", role: "status" });
  const how = el("select", { "aria-label": "How the site is laid over" }, ...["over", "split", "blink", "difference"].map(h => el("option", {}, h)));
  const share = el("input", { type: "range", min: 0, max: 100, value: 50, "aria-label": "How much of the site shows" });
  const controls = el("p", { class: "controls", hidden: true }, how, share, el("span", { class: "soft" }, "keys: S the site, [ and ] how much of it"));
  tools.after(controls, about);
  const draw = () => {
    if (!img) return;
    clearInterval(timer);
    const n = share.value / 100;
    img.style.cssText = `position:absolute;left:0;top:0;width:100%;height:auto;pointer-events:none;opacity:${how.value === "over" ? n : 1};` +
      (how.value === "split" ? `clip-path:inset(0 0 0 ${100 - share.value}%);` : "") + (how.value === "difference" ? "mix-blend-mode:difference;" : "");
    if (how.value === "blink") timer = setInterval(() => { img.style.visibility = img.style.visibility ? "" : "hidden"; }, 600);
  };
  how.addEventListener("change", draw);
  share.addEventListener("input", draw);
  const button = el("button", { "aria-pressed": "false", title: "Lay the site over the picture (S)" }, "site");
  async function toggle() {
    if (img) {
      clearInterval(timer);
      img.remove();
      img = null;
      controls.hidden = true;
      about.textContent = "";
      button.setAttribute("aria-pressed", "false");
      return;
    }
    about.textContent = "Looking at the site …";
    button.disabled = true;
    try {
      const a = await ask("site", { source, screen });
      img = el("img", { src: a.picture, alt: `${a.page}, as a browser shows it`, draggable: "false" });
      canvas.append(img);
      controls.hidden = false;
      button.setAttribute("aria-pressed", "true");
      const places = a.worst.map(w => `${w.element} ${Math.round(100 * w.likeness)} %` + (w.x || w.y ? `, ${w.x > 0 ? "+" : ""}${w.x} ${w.y > 0 ? "+" : ""}${w.y} px` : ""));
      about.textContent = `${a.page}: ${Math.round(100 * a.likeness)} % like the drawing. Least like: ${places.join("; ")}.`;
      draw();
    } catch (e) { about.textContent = e.message; }
    button.disabled = false;
  }
  button.addEventListener("click", toggle);
  tools.append(button);
  document.addEventListener("keydown", ev => {
    if (ev.ctrlKey || ev.metaKey || ev.altKey || /^(INPUT|SELECT|TEXTAREA)$/.test(ev.target.tagName)) return;
    if (ev.key === "s" || ev.key === "S") toggle();
    else if (img && (ev.key === "[" || ev.key === "]")) {
      share.value = +share.value + (ev.key === "]" ? 10 : -10);
      draw();
    }
  });
})();
