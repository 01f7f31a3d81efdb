// What every page needs: what the reader chose (scheme, contexts, unit, notation), copying, data files, the side list.
"use strict";
const guide = (() => {
  const root = document.documentElement;
  root.classList.add("scripted");
  const wanted = new Map(); // data files that are on their way: name → those who wait

  const kept = name => { try { return localStorage.getItem("guide-" + name); } catch { return null; } };
  const keep = (name, value) => { try { localStorage.setItem("guide-" + name, value); } catch { /* not allowed from disk */ } };

  // el makes an element; text stays text.
  function el(tag, attrs, ...kids) {
    const e = document.createElement(tag);
    for (const [k, v] of Object.entries(attrs || {})) {
      if (k.startsWith("on")) e.addEventListener(k.slice(2), v);
      else if (v === true) e.setAttribute(k, "");
      else if (v !== false && v != null) e.setAttribute(k, v);
    }
    e.append(...kids.flat().filter(k => k != null && k !== false));
    return e;
  }

  function say(text) {
    let t = document.getElementById("toast");
    if (!t) document.body.append(t = el("div", { id: "toast", role: "status" }));
    t.textContent = text;
    clearTimeout(say.timer);
    say.timer = setTimeout(() => { t.textContent = ""; }, 2200);
  }

  async function copy(text) {
    try {
      await navigator.clipboard.writeText(text);
    } catch { // not allowed, or no clipboard: the old way
      const was = document.activeElement, area = el("textarea", { "aria-hidden": "true" });
      area.value = text;
      document.body.append(area);
      area.select();
      document.execCommand("copy");
      area.remove();
      was?.focus?.({ preventScroll: true });
    }
    guide.copied = text;
    say("Copied " + (text.length > 120 ? text.slice(0, 120) + "…" : text));
  }

  // load fetches a data file. It is a script that calls give, since pages on disk can load nothing else.
  function load(name) {
    if (guide.data[name] !== undefined) return Promise.resolve(guide.data[name]);
    return new Promise((done, failed) => {
      if (wanted.has(name)) { wanted.get(name).push(done); return; }
      wanted.set(name, [done]);
      document.head.append(el("script", { src: document.body.dataset.root + name + ".js",
        onerror: () => { wanted.delete(name); failed(new Error(name + " cannot be loaded")); } }));
    });
  }
  function give(name, data) {
    guide.data[name] = data;
    (wanted.get(name) || []).forEach(done => done(data));
    wanted.delete(name);
  }

  const num = (v, digits = 2) => String(+v.toFixed(digits));
  const rem = () => +root.dataset.rem || 16;
  const length = px => guide.unit === "rem" ? num(px / rem(), 4) + "rem" : num(px) + "px";

  // show writes values in the unit and notation chosen.
  function show() {
    guide.unit = kept("unit") === "rem" ? "rem" : "px";
    const notation = +kept("notation") || 0;
    document.querySelectorAll("[data-notations]").forEach(b => {
      b.textContent = b.dataset.copy = JSON.parse(b.dataset.notations)[notation];
    });
    document.querySelectorAll("button.length").forEach(b => {
      b.dataset.px ??= /^-?[\d.]+px$/.test(b.dataset.copy) ? parseFloat(b.dataset.copy)
        : /^-?[\d.]+rem$/.test(b.dataset.copy) ? parseFloat(b.dataset.copy) * rem() : "";
      if (b.dataset.px !== "") b.textContent = b.dataset.copy = length(+b.dataset.px);
    });
    document.dispatchEvent(new Event("unit"));
  }

  const scheme = kept("scheme");
  if (scheme) root.dataset.scheme = scheme;

  document.addEventListener("DOMContentLoaded", () => {
    const by = id => document.getElementById(id);
    const choice = (select, value, changed) => {
      if (!select) return;
      if (value != null && [...select.options].some(o => o.value === value)) select.value = value;
      select.addEventListener("change", () => changed(select.value));
      changed(select.value, true);
    };
    choice(by("scheme"), scheme, (v, first) => {
      if (!first) keep("scheme", v);
      if (v) root.dataset.scheme = v; else delete root.dataset.scheme;
    });
    document.querySelectorAll("select.context").forEach(s => {
      const standing = s.value;
      choice(s, kept(s.dataset.attr), (v, first) => {
        if (!first) keep(s.dataset.attr, v);
        if (v === standing) root.removeAttribute(s.dataset.attr); else root.setAttribute(s.dataset.attr, v);
      });
    });
    choice(by("unit"), kept("unit"), (v, first) => { if (!first) { keep("unit", v); show(); } });
    choice(by("notation"), kept("notation"), (v, first) => { if (!first) { keep("notation", v); show(); } });
    show();

    const menu = by("menu");
    menu?.addEventListener("click", () => {
      menu.setAttribute("aria-expanded", document.body.classList.toggle("opened"));
    });
    document.querySelector("#side [aria-current]")?.scrollIntoView({ block: "nearest" });

    by("sample")?.addEventListener("input", ev => document.querySelectorAll(".samples .sample").forEach(s => {
      s.dataset.was ??= s.textContent;
      s.textContent = ev.target.value || s.dataset.was;
    }));
    by("sift")?.addEventListener("input", ev => {
      const word = ev.target.value.toLowerCase();
      document.querySelectorAll(ev.target.dataset.of).forEach(e => {
        e.hidden = !e.textContent.toLowerCase().includes(word) && !(e.dataset.name || "").toLowerCase().includes(word);
      });
    });
    if (document.body.dataset.page === "assets") by("ground").addEventListener("change", ev =>
      document.querySelectorAll(".asset .stage").forEach(s => { s.className = "stage " + ev.target.value; }));
    const filters = [...document.querySelectorAll(".filter")];
    filters.forEach(f => f.addEventListener("click", () => {
      f.setAttribute("aria-pressed", f.getAttribute("aria-pressed") !== "true");
      const on = filters.filter(x => x.getAttribute("aria-pressed") === "true").map(x => x.dataset.filter.split(/=(.*)/s));
      const names = [...new Set(on.map(o => o[0]))];
      document.querySelectorAll(".thumbs li").forEach(li => {
        li.hidden = !names.every(n => on.some(([k, v]) => k === n && li.dataset[n] === v));
      });
    }));
    document.querySelectorAll(".track").forEach(t => t.addEventListener("click", () => play(t)));
  });

  // play moves the ball of a motion token to the other end of its track.
  function play(track) {
    const ball = track.firstElementChild, style = getComputedStyle(track), of = n => style.getPropertyValue(n).trim();
    const to = ball.style.transform ? "" : `translateX(${track.clientWidth - ball.clientWidth - 8}px)`;
    ball.style.transition = of("--transition") ? "transform " + of("--transition")
      : `transform ${of("--duration") || "600ms"} ${of("--curve") || "linear"}`;
    ball.style.transform = to;
  }

  document.addEventListener("click", ev => {
    const b = ev.target.closest?.("[data-copy]");
    if (b) copy(b.dataset.copy);
  });

  return { data: {}, el, say, copy, load, give, kept, keep, num, rem, length, unit: "px" };
})();
