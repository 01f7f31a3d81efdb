// Changes from the pages: token values, marks, the focused element. Each is shown before it is written, and written by
// the same calls as the commands, so that git shows it.
"use strict";
(() => {
  const { el, ask } = guide;

  // paint is what a browser makes of a colour: red, green, blue, 0–255.
  function paint(color) {
    const c = el("canvas", { width: 1, height: 1 }), g = c.getContext("2d");
    g.fillStyle = "#fff";
    g.fillRect(0, 0, 1, 1);
    g.fillStyle = color;
    g.fillRect(0, 0, 1, 1);
    return [...g.getImageData(0, 0, 1, 1).data].slice(0, 3);
  }
  // https://www.w3.org/TR/WCAG22/#dfn-contrast-ratio
  const luminance = c => [0.2126, 0.7152, 0.0722].reduce((sum, k, i) => {
    const v = c[i] / 255;
    return sum + k * (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
  }, 0);
  const contrast = (a, b) => { const [x, y] = [luminance(paint(a)), luminance(paint(b))]; return (Math.max(x, y) + 0.05) / (Math.min(x, y) + 0.05); };
  const level = r => r >= 7 ? "AAA" : r >= 4.5 ? "AA" : r >= 3 ? "AA for large text" : "too low";

  // tokenDialog changes a token's value; what it would look like shows on the page at once.
  function tokenDialog(card) {
    const name = card.querySelector(".name").textContent, property = card.querySelector('[data-copy^="var("], [data-copy^="font: var("]').dataset.copy.match(/--[^),]+/)[0];
    const root = document.documentElement, now = getComputedStyle(root).getPropertyValue(property).trim();
    const color = document.body.dataset.page === "colours", error = el("p", { class: "warn", role: "alert" }), seen = el("p", { class: "soft" });
    const where = el("select", { name: "context" }, el("option", { value: "" }, "everywhere"), [...document.querySelectorAll("select.context")].flatMap(s =>
      [...s.options].map(o => el("option", { value: s.parentElement.firstChild.textContent.trim() + "." + o.value }, s.parentElement.firstChild.textContent.trim() + ": " + o.value))));
    const value = el("input", { name: "value", value: card.querySelector(".value .copy, .length")?.dataset.copy || now, autocomplete: "off" });
    const hex = c => "#" + paint(c).map(v => v.toString(16).padStart(2, "0")).join("");
    const picker = color ? el("input", { type: "color", "aria-label": "Pick the colour", value: hex(now), oninput: ev => { value.value = ev.target.value; show(); } }) : null;
    let asked = 0;
    async function show() {
      const turn = ++asked; // answers to what was typed before are late
      error.textContent = "";
      try {
        const r = await ask("token", { token: name, value: value.value, context: where.value });
        if (turn !== asked) return;
        root.style.setProperty(property, r.new);
        if (color) {
          picker.value = hex(r.new);
          seen.textContent = [["white", "#fff"], ["black", "#000"], ["the page", getComputedStyle(document.body).backgroundColor]].map(([n, c]) => {
            const k = contrast(r.new, c);
            return `${k.toFixed(1)} on ${n} (${level(k)})`;
          }).join(", ");
        } else seen.textContent = r.old + " → " + r.new;
      } catch (e) { if (turn === asked) error.textContent = e.message; }
    }
    value.addEventListener("input", show);
    where.addEventListener("change", show);
    const close = () => { root.style.removeProperty(property); dialog.close(); dialog.remove(); };
    const dialog = el("dialog", { class: "edit", "aria-label": "Change " + name, oncancel: close }, el("form", { onsubmit: async ev => {
      ev.preventDefault();
      try {
        const r = await ask("token", { token: name, value: value.value, context: where.value, write: true });
        guide.say(r.written.length ? `${name} is ${r.new}, written into ${r.file}` : name + " has this value already");
        dialog.close();
        dialog.remove();
      } catch (e) { error.textContent = e.message; }
    } }, el("h2", {}, name), el("p", { class: "controls" }, el("label", {}, "value ", value), picker, el("label", {}, "where ", where)), seen, error,
      el("p", { class: "controls" }, el("button", { id: "write" }, "Write"), el("button", { type: "button", onclick: close }, "Cancel"))));
    document.body.append(dialog);
    dialog.showModal();
    value.select();
    show();
  }

  document.querySelectorAll("article[id]").forEach(card => {
    if (!card.querySelector('[data-copy*="var(--"]')) return;
    card.querySelector(".name").after(el("button", { class: "edit-token", "aria-label": "Change " + card.querySelector(".name").textContent, onclick: () => tokenDialog(card) }, "change"));
  });

  // On a screen: elements are gathered, several at once, and marked; or one is made the focused element.
  const s = guide.screen;
  if (!s) return;
  const chosen = new Map(), source = document.querySelector(".title code").textContent;
  const list = el("ul", { class: "used" }), error = el("p", { class: "warn", role: "alert" }), plan = el("pre", { hidden: true, tabindex: 0 });
  const key = el("select", {}, ["asset", "role", "component", "variant", "state", "label", "text", "leads-to", "behaviour"].map(k => el("option", {}, k)));
  const value = el("input", { placeholder: "icons/{name}" });
  const request = write => ({ source, selectors: [...chosen.keys()], marks: { [key.value]: value.value }, write });
  const name = i => s.all[i].n || s.all[i].k;
  // what is gathered outlives the page's loading again
  const kept = "marking " + source;
  function show() {
    sessionStorage.setItem(kept, JSON.stringify([key.value, value.value, [...chosen]]));
    list.replaceChildren(...[...chosen].map(([selector, i]) => el("li", {}, name(i) + " ", el("button", { onclick: () => { chosen.delete(selector); show(); } }, "not this"))));
    write.disabled = true;
    plan.hidden = true;
  }
  const write = el("button", { disabled: true, onclick: async () => {
    try {
      const r = await ask("marks", request(true));
      guide.say(`${r.elements} marked in ${r.file}`);
      chosen.clear();
      show();
    } catch (e) { error.textContent = e.message; }
  } }, "Write");
  const preview = el("button", { onclick: async () => {
    error.textContent = "";
    try {
      const r = await ask("marks", request(false));
      plan.textContent = `into ${r.file}:\n` + r.written.map(w => `${w.select}  ${Object.entries(w.marks).map(([k, v]) => k + ": " + v).join(", ")}  (${w.elements})`).join("\n");
      plan.hidden = false;
      write.disabled = false;
    } catch (e) { error.textContent = e.message; }
  } }, "Show what is written");
  const take = () => { if (s.selected < 0) return guide.say("Select an element first"); chosen.set(s.all[s.selected].s, s.selected); show(); };
  const focus = async () => {
    if (s.selected < 0) return guide.say("Select an element first");
    try { await ask("focus", { source, selector: s.all[s.selected].s }); guide.say(name(s.selected) + " is the focused element"); } catch (e) { guide.say(e.message); }
  };
  [key, value].forEach(e => e.addEventListener("input", show));
  document.getElementById("facts").append(el("details", { id: "marking" }, el("summary", {}, "Mark elements"), el("p", { class: "controls" }, el("button", { id: "take", onclick: take }, "add the selected (X)"), el("button", { id: "focus", onclick: focus }, "make it the focused one (F)")),
    list, el("p", { class: "controls" }, el("label", {}, "mark ", key), el("label", {}, "as ", value)), el("p", { class: "controls" }, preview, write), plan, error));
  const restore = () => {
    const [k, v, of] = JSON.parse(sessionStorage.getItem(kept)) || [key.value, "", []];
    [key.value, value.value] = [k, v];
    of.forEach(([selector]) => { const i = s.all.findIndex(e => e.s === selector); if (i >= 0) chosen.set(selector, i); });
    if (chosen.size) document.getElementById("marking").open = true;
    show();
  };
  if (s.all.length) restore(); else document.addEventListener("elements", restore);
  s.canvas.addEventListener("keydown", ev => {
    if (ev.ctrlKey || ev.metaKey || ev.altKey) return;
    if (ev.key === "x") take();
    if (ev.key === "f") focus();
  });
})();
