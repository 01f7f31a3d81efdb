// Search over everything, by keyboard: "/" or Ctrl+K opens it. Words may be mistyped.
"use strict";
(() => {
  const { el } = guide, most = 40;
  let dialog, input, list, index, at = 0, found = [];

  // distance counts the letters to change, add, leave out or swap between two words; more than limit is limit + 1.
  function distance(a, b, limit) {
    if (Math.abs(a.length - b.length) > limit) return limit + 1;
    let before, last = Array.from({ length: b.length + 1 }, (_, i) => i);
    for (let i = 1; i <= a.length; i++) {
      const row = [i];
      for (let k = 1; k <= b.length; k++) {
        row[k] = Math.min(last[k] + 1, row[k - 1] + 1, last[k - 1] + (a[i - 1] !== b[k - 1]));
        if (before && a[i - 1] === b[k - 2] && a[i - 2] === b[k - 1]) row[k] = Math.min(row[k], before[k - 2] + 1);
      }
      if (Math.min(...row) > limit) return limit + 1;
      [before, last] = [last, row];
    }
    return last[b.length];
  }

  const fold = s => s.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();

  // rank says how well an entry fits a word: the less the better; Infinity for not at all.
  function rank(entry, word) {
    const name = entry.name;
    if (name === word) return 0;
    if (name.startsWith(word)) return 1;
    if (entry.words.some(w => w.startsWith(word))) return 2;
    if (name.includes(word)) return 3;
    if (entry.about.includes(word)) return 5;
    const limit = word.length < 4 ? 0 : word.length < 8 ? 1 : 2;
    let best = Infinity;
    if (limit) for (const w of entry.words) {
      for (const n of new Set([w.length, word.length - 1, word.length, word.length + 1])) {
        const d = distance(word, w.slice(0, n), limit);
        if (d <= limit) best = Math.min(best, 6 + d);
      }
    }
    return best;
  }

  function search(text) {
    const words = fold(text).split(/\s+/).filter(Boolean);
    if (!words.length) return index.filter(e => e.k === "page");
    return index.map(e => ({ e, r: words.reduce((sum, w) => sum + rank(e, w), 0) })).filter(x => x.r < Infinity)
      .sort((a, b) => a.r - b.r || a.e.n.length - b.e.n.length).slice(0, most).map(x => x.e);
  }

  function choose(i) {
    at = Math.max(0, Math.min(found.length - 1, i));
    [...list.children].forEach((o, k) => o.setAttribute("aria-selected", k === at));
    list.children[at]?.scrollIntoView({ block: "nearest" });
    if (found.length) input.setAttribute("aria-activedescendant", "found-" + at); else input.removeAttribute("aria-activedescendant");
  }

  function show() {
    if (!index) return; // it is on its way, and this is called again
    found = search(input.value);
    list.replaceChildren(...found.map((e, i) => el("li", { role: "option", id: "found-" + i, "aria-selected": "false", onclick: () => go(i) },
      el("span", { class: "name" }, e.c ? el("span", { class: "dot", style: "--c: " + e.c }) : null, e.n), el("span", { class: "soft" }, e.a || ""), el("span", { class: "count" }, e.k))));
    document.getElementById("found-count").textContent = found.length ? `${found.length}${found.length === most ? " or more" : ""} found` : "Nothing found";
    choose(0);
  }

  function go(i) {
    if (!found[i]) return;
    dialog.close();
    location.href = document.body.dataset.root + found[i].p;
  }

  async function open() {
    if (!dialog) {
      input = el("input", { type: "search", role: "combobox", "aria-expanded": "true", "aria-controls": "found", "aria-autocomplete": "list",
        "aria-label": "Search tokens, components, screens, words and assets", placeholder: "Tokens, components, screens, words, assets" });
      list = el("ul", { role: "listbox", id: "found", "aria-label": "Found" });
      dialog = el("dialog", { id: "search", "aria-label": "Search" }, input, list, el("p", { class: "soft", id: "found-count", role: "status" }));
      document.body.append(dialog);
      input.addEventListener("input", show);
      input.addEventListener("keydown", ev => {
        const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[ev.key];
        if (step) { ev.preventDefault(); choose(at + step); }
        if (ev.key === "Enter") { ev.preventDefault(); go(at); }
      });
    }
    dialog.showModal();
    input.select();
    try {
      index ||= (await guide.load("search-index")).map(e => ({ ...e, name: fold(e.n), about: fold(e.a || ""),
        words: fold(e.n + " " + e.k).split(/[^\p{L}\p{N}]+/u).filter(Boolean) }));
      show();
    } catch (err) { guide.say(err.message); }
  }

  document.getElementById("find").addEventListener("click", open);
  document.addEventListener("keydown", ev => {
    const typing = /^(INPUT|TEXTAREA|SELECT)$/.test(ev.target.tagName);
    if (ev.key === "/" && !typing || ev.key === "k" && (ev.ctrlKey || ev.metaKey)) { ev.preventDefault(); open(); }
  });
})();
