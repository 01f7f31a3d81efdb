// The layers of a screen as a tree, each to be switched off; and colours picked from any pixel. Both use a drawing of the
// screen whose shapes say which element they are of, loaded when it is first needed.
"use strict";
(() => {
  const { el } = guide, s = guide.screen, { by, canvas } = s, tree = by("tree");
  const rows = new Map(); // tree items by element
  let drawing = null;

  // drawn is the drawing of the screen, in place of its picture from now on.
  async function drawn() {
    if (drawing) return drawing;
    const text = await guide.load(by("bench").dataset.data + ".layers");
    const parsed = new DOMParser().parseFromString(text, "image/svg+xml").documentElement;
    drawing = document.importNode(parsed, true);
    drawing.setAttribute("aria-hidden", "true");
    drawing.style.display = "none";
    canvas.querySelector("img").after(drawing);
    return drawing;
  }

  const below = i => [i, ...s.children(i).flatMap(below)];

  async function toggle(i) {
    const svg = await drawn(), off = !s.hidden.has(i);
    for (const k of below(i)) {
      if (off) s.hidden.add(k); else s.hidden.delete(k);
      svg.querySelectorAll(`[data-e="${k}"]`).forEach(e => { e.style.display = off ? "none" : ""; });
      label(k);
    }
    const any = s.hidden.size > 0;
    svg.style.display = any ? "" : "none";
    canvas.querySelector("img").style.visibility = any ? "hidden" : "";
  }
  s.toggle = toggle;
  by("all-on").onclick = async () => { for (const i of [...s.hidden]) if (s.hidden.has(i)) await toggle(i); };

  const label = i => {
    const li = rows.get(i);
    if (!li) return;
    li.classList.toggle("off", s.hidden.has(i));
    li.querySelector(".eye").textContent = s.hidden.has(i) ? "off" : "on";
  };

  function item(i, level) {
    const e = s.all[i], kids = s.children(i);
    const li = el("li", { role: "treeitem", "aria-level": level, tabindex: -1, "aria-selected": i === s.selected, "aria-expanded": kids.length ? "false" : null, "data-i": i },
      el("div", { class: "leaf" }, el("span", { class: "twist", "aria-hidden": "true" }, kids.length ? "▸" : ""), el("span", { class: "label" }, (e.n || "(unnamed)") + " ", el("span", { class: "soft" }, e.k + (e.v ? ", " + e.v : ""))), el("span", { class: "eye soft", "aria-hidden": "true" }, "on")));
    rows.set(i, li);
    label(i);
    return li;
  }

  function expand(li, open) {
    const kids = s.children(+li.dataset.i);
    if (!kids.length) return;
    li.setAttribute("aria-expanded", open);
    li.querySelector(".twist").textContent = open ? "▾" : "▸";
    let ul = li.querySelector(":scope > ul");
    if (open && !ul) li.append(ul = el("ul", { role: "group" }, kids.map(k => item(k, +li.getAttribute("aria-level") + 1))));
    if (ul) ul.hidden = !open;
  }

  function grow() {
    if (tree.firstChild || !s.all.length) return;
    tree.append(...s.children(-1).map(i => item(i, 1)));
    if (tree.firstChild) tree.firstChild.tabIndex = 0;
    if (tree.children.length === 1) expand(tree.firstChild, true);
  }

  // show opens the tree down to an element.
  function show(i) {
    const path = [];
    for (let k = i; k >= 0; k = s.all[k].p) path.unshift(k);
    path.slice(0, -1).forEach(k => rows.get(k) && expand(rows.get(k), true));
    tree.querySelectorAll("[aria-selected=true]").forEach(x => x.setAttribute("aria-selected", "false"));
    const li = rows.get(i);
    if (!li) return;
    li.setAttribute("aria-selected", "true");
    focusable(li);
    li.firstElementChild.scrollIntoView({ block: "nearest" });
  }
  const focusable = li => { tree.querySelectorAll("[tabindex='0']").forEach(x => { x.tabIndex = -1; }); li.tabIndex = 0; };

  document.addEventListener("tab", ev => { if (ev.detail === "tab-layers") { grow(); if (s.selected >= 0) show(s.selected); } });
  document.addEventListener("selected", () => { if (!by("layers").hidden && s.selected >= 0) { grow(); show(s.selected); } });
  document.addEventListener("elements", () => { if (!by("layers").hidden) grow(); });

  tree.addEventListener("click", ev => {
    const li = ev.target.closest("[role=treeitem]"), i = +li?.dataset.i;
    if (!li) return;
    if (ev.target.closest(".eye")) return toggle(i);
    if (ev.target.closest(".twist")) return expand(li, li.getAttribute("aria-expanded") !== "true");
    s.select(i);
  });
  tree.addEventListener("keydown", ev => {
    const li = ev.target.closest("[role=treeitem]");
    if (!li) return;
    const seen = [...tree.querySelectorAll("[role=treeitem]")].filter(x => x.offsetParent), at = seen.indexOf(li);
    const to = x => { if (x) { focusable(x); x.focus(); } };
    const open = li.getAttribute("aria-expanded");
    const act = { ArrowDown: () => to(seen[at + 1]), ArrowUp: () => to(seen[at - 1]), Home: () => to(seen[0]), End: () => to(seen.at(-1)),
      ArrowRight: () => open === "false" ? expand(li, true) : to(li.querySelector("[role=treeitem]")),
      ArrowLeft: () => open === "true" ? expand(li, false) : to(li.parentElement.closest("[role=treeitem]")),
      Enter: () => { s.select(+li.dataset.i); to(rows.get(s.selected)); }, " ": () => toggle(+li.dataset.i) }[ev.key];
    if (act) { ev.preventDefault(); act(); }
  });

  // Picking a colour: the drawing is painted into a bitmap of our own, since pixels of files on disk are closed to scripts.
  let pixels = null, at = [0, 0], cross = null;
  async function bitmap() {
    const svg = await drawn(), copy = svg.cloneNode(true), scale = 2;
    copy.style.display = "";
    copy.setAttribute("width", s.W * scale);
    copy.setAttribute("height", s.H * scale);
    copy.setAttribute("viewBox", `0 0 ${s.W} ${s.H}`);
    const image = new Image();
    image.src = "data:image/svg+xml," + encodeURIComponent(new XMLSerializer().serializeToString(copy));
    await image.decode();
    const c = el("canvas", { width: s.W * scale, height: s.H * scale });
    const g = c.getContext("2d", { willReadFrequently: true });
    g.drawImage(image, 0, 0);
    return (x, y) => [...g.getImageData(Math.min(x, s.W - 1) * scale, Math.min(y, s.H - 1) * scale, 1, 1).data];
  }
  const hex = ([r, g, b, a]) => "#" + [r, g, b, ...(a < 255 ? [a] : [])].map(v => v.toString(16).padStart(2, "0")).join("");
  function aim(x, y) {
    at = [Math.max(0, Math.min(s.W - 1, x)), Math.max(0, Math.min(s.H - 1, y))];
    if (!cross) canvas.append(cross = el("i", { class: "cross" }));
    cross.style.left = at[0] / s.W * 100 + "%";
    cross.style.top = at[1] / s.H * 100 + "%";
    const color = hex(pixels(...at.map(Math.floor)));
    by("distance").replaceChildren(el("p", {}, el("span", { class: "dot", style: "--c: " + color }), el("button", { class: "copy", id: "picked", "data-copy": color }, color), ` at ${at.map(v => guide.num(v)).join(", ")}`));
    return color;
  }
  s.pick = async () => {
    s.picking = !s.picking;
    by("pick").setAttribute("aria-pressed", s.picking);
    canvas.classList.toggle("picking", s.picking);
    if (!s.picking) { cross?.remove(); cross = null; return; }
    try { pixels = await bitmap(); } catch (err) { s.picking = false; return guide.say("The colour cannot be read: " + err.message); }
    s.tab(by("tab-facts"));
    const e = s.all[s.selected];
    aim(...(e ? [e.b[0] + e.b[2] / 2, e.b[1] + e.b[3] / 2] : [s.W / 2, s.H / 2]));
    canvas.focus({ preventScroll: true });
  };
  canvas.addEventListener("click", ev => {
    if (!s.picking || !pixels) return;
    const r = canvas.getBoundingClientRect();
    guide.copy(aim((ev.clientX - r.left) / r.width * s.W, (ev.clientY - r.top) / r.height * s.H));
  });
  canvas.addEventListener("keydown", ev => {
    if (!s.picking || !pixels) return;
    const step = ev.shiftKey ? 10 : 1, move = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[ev.key];
    if (move) aim(at[0] + move[0], at[1] + move[1]);
    else if (ev.key === "Enter") guide.copy(aim(...at));
    else if (ev.key === "Escape" || ev.key === "c") s.pick();
    else return;
    ev.preventDefault();
    ev.stopImmediatePropagation();
  }, true);
})();
