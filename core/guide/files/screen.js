// A screen one can measure: point, select, walk, drag an area, zoom. The elements come from the screen's data file.
"use strict";
(() => {
  const { el, num, length } = guide, m = guide.measure;
  const by = id => document.getElementById(id);
  const bench = by("bench"), canvas = by("canvas"), viewport = by("viewport");
  const W = +canvas.dataset.w, H = +canvas.dataset.h;
  let all = [], strings = [], children = new Map(), areas = [];
  let selected = -1, pointed = -1, pinned = -1, area = null, gapsOn = false, also = [], zoom = 0;

  const state = guide.screen = { get all() { return all; }, get selected() { return selected; }, get pointed() { return pointed; }, hidden: new Set(), select, by, canvas, W, H, children: i => children.get(i) || [], draw, at: i => strings[i] };

  guide.load(bench.dataset.data).then(d => {
    ({ elements: all, strings } = d);
    all.forEach((e, i) => {
      if (!children.has(e.p)) children.set(e.p, []);
      children.get(e.p).push(i);
      areas[i] = e.b[2] * e.b[3];
    });
    open();
    document.dispatchEvent(new Event("elements"));
  }, err => guide.say(err.message));

  // chain is an element with the groups around it, the outermost first. Groups that hold the whole screen say nothing.
  function chain(i) {
    const out = [];
    for (; i >= 0; i = all[i].p) out.unshift(i);
    while (out.length > 1 && all[out[0]].k === "group" && all[out[0]].b[2] >= W && all[out[0]].b[3] >= H) out.shift();
    return out;
  }

  // hit is the innermost element at a point: the one painted last.
  function hit(x, y) {
    for (let i = all.length - 1; i >= 0; i--) {
      const e = all[i], pad = e.b[2] < 4 || e.b[3] < 4 ? 2 : 0;
      if (e.k === "group" || e.v === "hidden" || state.hidden.has(i)) continue;
      if (x >= e.b[0] - pad && x <= e.b[0] + e.b[2] + pad && y >= e.b[1] - pad && y <= e.b[1] + e.b[3] + pad) return i;
    }
    return -1;
  }

  // target is what a click at a point selects: beside the selected element where it has the same group, one deeper
  // where the point lies in it, the innermost where deep.
  function target(x, y, deep) {
    const i = hit(x, y);
    if (i < 0 || deep) return i;
    const path = chain(i), here = path.indexOf(selected);
    if (here >= 0) return path[Math.min(here + 1, path.length - 1)];
    const around = selected < 0 ? [] : chain(selected);
    let k = 0;
    while (k < path.length - 1 && around[k] === path[k]) k++;
    return path[k];
  }

  const point = ev => {
    const r = canvas.getBoundingClientRect();
    return [(ev.clientX - r.left) / r.width * W, (ev.clientY - r.top) / r.height * H];
  };

  function draw() {
    const marks = [];
    also.forEach(i => all[i] && marks.push(m.mark("also", all[i].b, W, H)));
    const from = pinned >= 0 ? pinned : selected, to = pinned >= 0 ? selected : pointed;
    if (from >= 0) marks.push(m.mark("on", all[from].b, W, H, to < 0 || to === from ? size(all[from].b) : ""));
    if (to >= 0 && to !== from) marks.push(m.mark("", all[to].b, W, H, size(all[to].b)));
    if (from >= 0 && to >= 0 && to !== from) m.lines(all[from].b, all[to].b).forEach(g => marks.push(m.gap(g, W, H)));
    if (area) marks.push(m.mark("area", area, W, H, size(area)));
    if (gapsOn) gaps().forEach(g => marks.push(m.gap(g, W, H)));
    canvas.querySelectorAll(":scope > i:not(.cross)").forEach(e => e.remove());
    canvas.append(...marks);
  }
  const size = b => `${length(b[2])} × ${length(b[3])}`;

  // gaps are those of the container: of what is selected, or of the group it is in.
  function gaps() {
    let group = selected;
    if (group >= 0 && !children.has(group)) group = all[group].p;
    const list = state.children(group).filter(i => all[i].v !== "hidden" && all[i].b[2] > 0 && all[i].b[3] > 0);
    return m.spaces(list.map(i => all[i].b), group >= 0 ? all[group].b : [0, 0, W, H]);
  }

  const copyable = (text, attrs) => el("button", { class: "copy", "data-copy": text, ...attrs }, text);
  const row = (name, ...cells) => el("tr", {}, el("th", { scope: "row" }, name), ...cells.map(c => el("td", {}, c)));

  function select(i, o = {}) {
    selected = i;
    if (!o.keepPoint) pointed = -1;
    area = null;
    facts();
    distance();
    draw();
    if (i >= 0 && !o.quiet) { try { history.replaceState(null, "", "#" + encodeURIComponent(all[i].a)); } catch { /* from disk */ } }
    if (i >= 0 && o.reveal !== false) reveal(all[i].b);
    document.dispatchEvent(new Event("selected"));
  }

  // reveal scrolls the picture so far that a box is in view, whole where it fits.
  function reveal(b) {
    const scale = canvas.clientWidth / W, v = viewport;
    const to = (from, size, top, room) => size > room || from < top ? from - Math.min(24, room / 8) : Math.max(top, from + size + 24 - room);
    const y = b[1] * scale + canvas.offsetTop, x = b[0] * scale + canvas.offsetLeft, h = b[3] * scale, w = b[2] * scale;
    if (y < v.scrollTop || y + h > v.scrollTop + v.clientHeight) v.scrollTop = to(y, h, v.scrollTop, v.clientHeight);
    if (x < v.scrollLeft || x + w > v.scrollLeft + v.clientWidth) v.scrollLeft = to(x, w, v.scrollLeft, v.clientWidth);
  }

  function facts() {
    const about = by("about");
    if (selected < 0) {
      by("selected").textContent = "Select an element in the picture for its facts; point at another for the distance.";
      about.replaceChildren();
      return;
    }
    const e = all[selected], out = e.i >= 0 ? all[e.i].b : [0, 0, W, H], i = m.insets(e.b, out);
    by("selected").replaceChildren(el("strong", {}, e.n || "(unnamed)"), ` ${e.k}${e.v ? ", " + e.v : ""}, ${size(e.b)} `,
      e.m ? el("a", { href: document.body.dataset.root + e.g }, e.m) : "", e.o ? el("a", { href: document.body.dataset.root + e.q }, " " + e.o) : "");
    const rows = [["x", e.b[0]], ["y", e.b[1]], ["width", e.b[2], out[2]], ["height", e.b[3], out[3]], ["inset top", i.top, out[3]], ["inset right", i.right, out[2]], ["inset bottom", i.bottom, out[3]], ["inset left", i.left, out[2]]]
      .map(([name, px, of]) => row(name, copyable(length(px)), of ? m.percent(px, of) : ""));
    const table = [];
    for (let k = 0; k < (e.f || []).length; k += 5) {
      const [name, value, known, token, from] = e.f.slice(k, k + 5).map(n => strings[n]);
      const color = /^(#|rgb|hsl|ok|color\()/.test(value) && !value.includes("gradient");
      table.push(row(name, [color ? el("span", { class: "dot", style: "--c: " + value }) : null, copyable(value), token ? copyable(token, { class: "copy soft" }) : null], el("span", { class: "soft", title: from }, known)));
    }
    const words = e.t ? [el("h2", {}, "Words"), el("button", { class: "copy words", "data-copy": e.t }, e.t)] : [];
    const text = e.x && by("texts").querySelector(`[data-text="${e.x - 1}"]`);
    if (text) words.push(...[...text.querySelectorAll("[lang]")].filter(b => b.dataset.copy).map(b => el("p", { class: "soft" }, b.lang + " ", el("button", { class: "copy words", lang: b.lang, dir: b.dir || null, "data-copy": b.dataset.copy }, b.dataset.copy))));
    about.replaceChildren(el("table", { class: "facts" }, el("tbody", {}, rows)), ...words, el("h2", {}, "Facts"), el("table", { class: "facts" }, el("tbody", {}, table)),
      ...(e.c ? [el("h2", {}, "CSS"), el("div", { class: "code" }, el("button", { class: "copy over", "data-copy": e.c, "aria-label": "Copy the CSS" }, "copy"), el("pre", { tabindex: 0 }, e.c))] : []),
      el("p", { class: "soft" }, "selector ", copyable(e.s)));
  }

  function distance() {
    const from = pinned >= 0 ? pinned : selected, to = pinned >= 0 ? selected : pointed;
    if (from < 0 || to < 0 || from === to) { by("distance").replaceChildren(); return; }
    const a = all[from], b = all[to], d = m.between(a.b, b.b), out = a.i >= 0 ? all[a.i].b : [0, 0, W, H];
    const line = ([k, px, of]) => row(k, copyable(length(px), { "data-px": px }), m.percent(px, of));
    const gaps = [["gap across", d.across, out[2]], ["gap down", d.down, out[3]]];
    if (m.holds(a.b, b.b) || m.holds(b.b, a.b)) {
      const i = m.holds(a.b, b.b) ? m.insets(b.b, a.b) : m.insets(a.b, b.b);
      gaps.unshift(...Object.entries(i).map(([k, v]) => ["inset " + k, v, k === "left" || k === "right" ? out[2] : out[3]]));
    }
    const offsets = Object.entries(d.offsets).map(([k, v]) => ["offset " + k, v, /left|right|across/.test(k) ? out[2] : out[3]]);
    const open = by("distance").querySelector("details")?.open;
    by("distance").replaceChildren(el("h2", {}, `From ${a.n || a.k} to ${b.n || b.k}`), el("table", { class: "facts", "data-from": a.s, "data-to": b.s }, el("tbody", {}, gaps.map(line))),
      el("p", { class: "soft" }, d.aligned.length ? "aligned: " + d.aligned.join(", ") : "not aligned"),
      el("details", { open }, el("summary", {}, "offsets of edges and centres"), el("table", { class: "facts" }, el("tbody", {}, offsets.map(line)))));
  }

  function setArea(b) {
    area = b;
    const f = by("area").elements;
    ["x", "y", "w", "h"].forEach((k, i) => { f[k].value = num(b[i]); });
    const inside = all.filter(e => e.k !== "group" && e.v !== "hidden" && m.holds(b, e.b)).length;
    by("distance").replaceChildren(el("p", {}, "area ", copyable(size(b)), ` at ${length(b[0])}, ${length(b[1])}; ${inside} inside`));
    draw();
  }

  // walk goes to the element beside, the group around, or the first inside.
  function walk(key) {
    if (selected < 0) {
      let first = state.children(-1);
      while (first.length === 1 && children.has(first[0])) first = children.get(first[0]);
      return select(first[0] ?? -1);
    }
    const e = all[selected], beside = state.children(e.p), at = beside.indexOf(selected);
    if (key === "Escape") return select(chain(selected)[0] === selected ? -1 : e.p);
    if (key === "Enter") return select(state.children(selected)[0] ?? selected);
    select(beside[(at + (key === "ArrowRight" || key === "ArrowDown" ? 1 : -1) + beside.length) % beside.length]);
  }

  // setZoom shows the picture so many times as large; 0 fits it into the window. The point under the pointer stays.
  function setZoom(z, at) {
    const old = canvas.getBoundingClientRect(), view = viewport.getBoundingClientRect();
    const [px, py] = at || [view.left + view.width / 2, view.top + view.height / 2];
    const share = [(px - old.left) / old.width, (py - old.top) / old.height];
    zoom = z && Math.min(32, Math.max(0.05, z));
    canvas.style.width = zoom ? W * zoom + "px" : "";
    canvas.classList.toggle("near", zoom >= 4);
    const now = canvas.getBoundingClientRect();
    viewport.scrollLeft += now.left + share[0] * now.width - px;
    viewport.scrollTop += now.top + share[1] * now.height - py;
    by("zoom").textContent = Math.round(now.width / W * 100) + " %";
  }
  const scale = () => canvas.clientWidth / W;

  let down = null, frame = 0, space = false;
  canvas.addEventListener("pointermove", ev => {
    if (down?.pan) { viewport.scrollLeft = down.left - (ev.clientX - down.x); viewport.scrollTop = down.top - (ev.clientY - down.y); return; }
    cancelAnimationFrame(frame);
    frame = requestAnimationFrame(() => {
      const [x, y] = point(ev);
      if (down && ev.pointerType !== "touch" && Math.hypot(ev.clientX - down.x, ev.clientY - down.y) > 4) {
        const a = down.at, r = v => Math.round(v * 2) / 2;
        setArea([r(Math.min(a[0], x)), r(Math.min(a[1], y)), r(Math.abs(x - a[0])), r(Math.abs(y - a[1]))]);
        return;
      }
      const i = target(x, y, ev.ctrlKey || ev.metaKey);
      if (i === pointed || area) return;
      pointed = i;
      distance();
      draw();
    });
  });
  canvas.addEventListener("pointerdown", ev => {
    if (state.picking || ev.button > 1) return;
    down = { x: ev.clientX, y: ev.clientY, at: point(ev), pan: space || ev.button === 1, left: viewport.scrollLeft, top: viewport.scrollTop };
    if (ev.pointerType !== "touch") canvas.setPointerCapture(ev.pointerId);
    if (down.pan) ev.preventDefault();
  });
  canvas.addEventListener("pointerup", ev => {
    const was = down;
    down = null;
    if (!was || was.pan || Math.hypot(ev.clientX - was.x, ev.clientY - was.y) > 4) return;
    cancelAnimationFrame(frame);
    select(target(...point(ev), ev.ctrlKey || ev.metaKey), { reveal: false });
  });
  canvas.addEventListener("pointercancel", () => { down = null; });
  canvas.addEventListener("pointerleave", () => { if (!down && pointed >= 0) { cancelAnimationFrame(frame); pointed = -1; distance(); draw(); } });
  viewport.addEventListener("wheel", ev => {
    if (!ev.ctrlKey) return;
    ev.preventDefault();
    setZoom(scale() * (ev.deltaY < 0 ? 1.25 : 0.8), [ev.clientX, ev.clientY]);
  }, { passive: false });

  by("area").addEventListener("submit", ev => {
    ev.preventDefault();
    const b = ["x", "y", "w", "h"].map(k => parseFloat(ev.target.elements[k].value));
    if (b.every(Number.isFinite) && b[2] > 0 && b[3] > 0) setArea(b); else guide.say("Give x, y, width and height in px");
  });
  const press = (id, on) => by(id).setAttribute("aria-pressed", on);
  const acts = {
    "+": () => setZoom(scale() * 1.25), "=": () => setZoom(scale() * 1.25), "-": () => setZoom(scale() * 0.8), 0: () => setZoom(0), 1: () => setZoom(1),
    m: () => { pinned = pinned >= 0 ? -1 : selected; press("pin", pinned >= 0); distance(); draw(); },
    h: () => selected >= 0 && state.toggle?.(selected),
    c: () => state.pick?.(),
  };
  const setGaps = on => { gapsOn = on; press("gaps", on); draw(); };
  by("zoom-in").onclick = acts["+"]; by("zoom-out").onclick = acts["-"]; by("zoom-fit").onclick = acts[0]; by("zoom-true").onclick = acts[1];
  by("pin").onclick = acts.m; by("pick").onclick = acts.c; by("gaps").onclick = () => setGaps(!gapsOn);
  by("keys").onclick = ev => ev.currentTarget.setAttribute("aria-expanded", !(by("keys-list").hidden = !by("keys-list").hidden));
  canvas.addEventListener("keydown", ev => {
    if (ev.ctrlKey || ev.metaKey || ev.altKey || state.picking) return;
    if (ev.key === " ") { space = true; ev.preventDefault(); return; }
    if (ev.key.toLowerCase() === "g") { if (!ev.repeat) setGaps(true); ev.preventDefault(); return; }
    if (/^Arrow|^Escape$|^Enter$/.test(ev.key) && !(ev.key === "Escape" && selected < 0)) { ev.preventDefault(); if (all.length) walk(ev.key); return; }
    const act = acts[ev.key.toLowerCase()];
    if (act) { ev.preventDefault(); act(); }
  });
  canvas.addEventListener("keyup", ev => {
    if (ev.key === " ") space = false;
    if (ev.key.toLowerCase() === "g") setGaps(false);
  });
  canvas.addEventListener("mouseenter", () => { if (document.activeElement === document.body) canvas.focus({ preventScroll: true }); });

  // the tabs of the panel
  const tabs = [...document.querySelectorAll("#panel [role=tab]")];
  const tab = state.tab = t => tabs.forEach(x => {
    x.setAttribute("aria-selected", x === t);
    x.tabIndex = x === t ? 0 : -1;
    by(x.getAttribute("aria-controls")).hidden = x !== t;
    if (x === t) document.dispatchEvent(new CustomEvent("tab", { detail: x.id }));
  });
  tabs.forEach((t, i) => {
    t.addEventListener("click", () => tab(t));
    t.addEventListener("keydown", ev => {
      const step = { ArrowRight: 1, ArrowLeft: -1 }[ev.key];
      if (step) { const n = tabs[(i + step + tabs.length) % tabs.length]; tab(n); n.focus(); }
    });
  });
  tab(tabs[0]);
  // pins, and links from elsewhere, open the remarks
  const toRemark = () => { if (location.hash.startsWith("#remark-") && by("tab-remarks")) { tab(by("tab-remarks")); document.querySelector(location.hash)?.scrollIntoView({ block: "nearest" }); } };
  window.addEventListener("hashchange", toRemark);
  document.querySelectorAll(".pin").forEach(p => {
    p.addEventListener("pointerdown", ev => ev.stopPropagation());
    p.addEventListener("click", ev => { ev.stopPropagation(); tab(by("tab-remarks")); });
  });
  toRemark();

  // what the screen uses shows where
  document.querySelectorAll(".spot").forEach(s => s.addEventListener("click", () => {
    const on = s.getAttribute("aria-pressed") !== "true";
    document.querySelectorAll(".spot").forEach(x => x.setAttribute("aria-pressed", x === s && on));
    also = on ? JSON.parse(s.dataset.at) : [];
    draw();
    if (on && all[also[0]]) reveal(all[also[0]].b);
  }));
  by("language")?.addEventListener("change", ev => document.querySelectorAll(".keys-of .copy").forEach(b => {
    b.hidden = (b.lang || by("language").options[0].value) !== ev.target.value;
  }));

  // The address names the element whose facts show, so that a link can be shared.
  function open() {
    let path = "";
    try { path = decodeURIComponent(location.hash.slice(1)); } catch { /* not one of ours */ }
    const i = all.findIndex(e => e.a === path);
    if (i >= 0 && i !== selected) select(i);
  }
  addEventListener("hashchange", toRemark);
  addEventListener("resize", () => { by("zoom").textContent = Math.round(scale() * 100) + " %"; });
  document.addEventListener("unit", () => { if (all.length) { facts(); distance(); draw(); } });
  document.addEventListener("DOMContentLoaded", () => { if (!zoom) by("zoom").textContent = Math.round(scale() * 100) + " %"; });
})();
