// A component to try: variant, state and words together, the drawing beside the live thing, and the code of just that.
"use strict";
(() => {
  const { el, length } = guide, m = guide.measure, by = id => document.getElementById(id);
  let parts = [], now = null, language = 0, words = [], gapsOn = false;

  guide.load(document.body.dataset.page).then(list => {
    parts = list;
    const fill = (select, values) => select.replaceChildren(...values.map(v => el("option", { value: v }, v || "the only one")));
    fill(by("variant"), [...new Set(parts.map(p => p.variant))]);
    by("languages").replaceChildren(...parts[0].code.map((c, i) => el("button", { role: "tab", type: "button", id: "language-" + i, "aria-controls": "code-panel", "aria-selected": "false", tabindex: -1, onclick: () => speak(i), onkeydown: ev => {
      const step = { ArrowRight: 1, ArrowLeft: -1 }[ev.key];
      if (step) { const n = (i + step + parts[0].code.length) % parts[0].code.length; speak(n); by("language-" + n).focus(); }
    } }, c.language)));
    by("variant").addEventListener("change", () => { states(); choose(); });
    by("state").addEventListener("change", () => choose());
    open();
    addEventListener("hashchange", open);
  }, err => guide.say(err.message));

  // states offers those of the variant chosen.
  function states() {
    const was = by("state").value, list = parts.filter(p => p.variant === by("variant").value);
    by("state").replaceChildren(...list.map(p => el("option", { value: p.id }, p.state + (p.look ? `, look ${p.look}` : ""))));
    const same = list.find(p => p.id === was) || list.find(p => p.state === now?.state) || list[0];
    by("state").value = same.id;
  }

  function open() {
    let id = "";
    try { id = decodeURIComponent(location.hash.slice(1)); } catch { /* not one of ours */ }
    const p = parts.find(x => x.id === id);
    if (p) by("variant").value = p.variant;
    states();
    if (p) by("state").value = p.id;
    choose();
    if (p) by("try").scrollIntoView();
  }

  function choose() {
    const chosen = parts.find(p => p.id === by("state").value);
    if (!chosen) return;
    now = chosen;
    words = now.words.map(w => w.words);
    by("width").value = now.box[0];
    if (now.dark && !by("ground").dataset.chosen) ground("dark");
    const link = document.querySelector(`#${CSS.escape(now.id)} img`);
    const img = el("img", { src: link.getAttribute("src"), width: now.view[2], height: now.view[3], alt: `${now.variant} ${now.state}` });
    by("drawn").replaceChildren(el("span", { class: "bench-of" }, img));
    frame(by("drawn"), true);
    by("words").replaceChildren(...now.words.map((w, i) => el("label", {}, w.key || "words", el("input", { type: "text", value: w.words, "data-word": i, list: w.others ? "others-" + i : null, oninput: ev => { words[i] = ev.target.value; live(); code(); } }),
      w.others ? el("datalist", { id: "others-" + i }, Object.entries(w.others).map(([l, t]) => el("option", { value: t }, l))) : null)));
    if (!now.words.length) by("words").append(el("p", { class: "soft" }, "It has no words."));
    by("facts").replaceChildren(...now.facts.map(([name, value, known, token]) => el("tr", {}, el("th", { scope: "row" }, name), el("td", {}, el("button", { class: "copy", "data-copy": value }, value), token ? el("button", { class: "copy soft", "data-copy": token }, token) : null), el("td", { class: "soft" }, known))));
    by("live-note").textContent = now.live.free ? `${now.live.free} elements stand free of the flow` : "";
    live();
    gaps();
    speak(language);
    width();
  }

  // withWords puts the words tried in place of those drawn, once each, as the text is written in the language.
  function withWords(text, write) {
    now.words.forEach((w, i) => {
      if (words[i] === w.words) return;
      const from = write(w.words);
      if (text.split(from).length === 2) text = text.replace(from, () => write(words[i]));
    });
    return text;
  }
  const escapeHTML = s => s.replace(/[&<>"]/g, c => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&#34;" })[c]);

  // live shows the part as HTML in a tree of its own, where the page's rules do not reach; custom properties do. It is
  // closed, since what is in it is the design's and not the page's.
  function live() {
    const host = el("div", { class: "live", style: `width: ${by("width").value}px` }), shadow = host.attachShadow({ mode: "closed" });
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(":host { all: initial; display: grid; } :host > * { margin: 0 }" + now.live.css);
    shadow.adoptedStyleSheets = [sheet];
    const parsed = new DOMParser().parseFromString(withWords(now.live.html, escapeHTML), "text/html").body;
    shadow.append(...[...parsed.childNodes].map(n => document.importNode(n, true)));
    shadow.addEventListener("click", ev => { if (ev.target.closest("a, button[type=submit]")) ev.preventDefault(); });
    frame(by("live"), false);
    by("live").replaceChildren(host);
  }
  // frame gives the drawing and the live thing the same room: the box, and all that is painted beyond it.
  function frame(e, drawn) {
    const [x, y, w, h] = now.view, room = [y, now.box[0] - w - x, now.box[1] - h - y, x];
    e.style.padding = room.map(v => Math.max(0, drawn ? v : -v) + "px").join(" ");
  }
  function width() {
    if (!now) return;
    by("width-of").textContent = length(+by("width").value);
    const host = by("live").firstElementChild;
    if (host) host.style.width = by("width").value + "px";
  }
  by("width").addEventListener("input", width);
  by("drawn-width").onclick = () => { if (now) by("width").value = now.box[0]; width(); };
  function ground(name) {
    by("ground").value = name;
    document.querySelectorAll(".ground").forEach(g => { g.className = "ground " + name; });
  }
  by("ground").addEventListener("change", ev => { ev.target.dataset.chosen = "yes"; ground(ev.target.value); });

  // gaps draws the insets and gaps of what the part holds over its picture.
  function gaps() {
    if (!now) return;
    const on = by("drawn").querySelector("span"), [vx, vy, w, h] = now.view;
    on.querySelectorAll("i").forEach(e => e.remove());
    if (!gapsOn) return;
    const box = p => [p.b[0] - vx, p.b[1] - vy, p.b[2], p.b[3]];
    now.parts.forEach((p, i) => {
      if (p.w) on.append(m.place(el("i", { class: "grows", title: "grows" }), box(p), w, h));
      on.append(...m.spaces(now.parts.filter(k => k.p === i).map(box), box(p)).map(g => m.gap(g, w, h)));
    });
    on.querySelectorAll("i").forEach(e => { e.style.position = "absolute"; });
  }
  by("draw-gaps").onclick = ev => { gapsOn = !gapsOn; ev.currentTarget.setAttribute("aria-pressed", gapsOn); gaps(); };

  function speak(i) {
    language = i;
    [...by("languages").children].forEach((t, k) => { t.setAttribute("aria-selected", k === i); t.tabIndex = k === i ? 0 : -1; });
    code();
  }
  function code() {
    const c = now.code[language], text = guide.unit === "rem" && c.rem ? c.rem : c.px;
    const write = c.language === "HTML" || c.language === "JSX" ? escapeHTML : s => JSON.stringify(s).slice(1, -1);
    by("code").textContent = by("copy-code").dataset.copy = withWords(text, write);
    by("copy-code").setAttribute("aria-label", "Copy the " + c.language);
  }
  document.addEventListener("unit", () => { if (now) { code(); width(); gaps(); } });
})();
