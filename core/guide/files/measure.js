// Distances between boxes, as "archetyp measure" gives them, and how they are drawn. A box is [x, y, width, height] in px.
"use strict";
guide.measure = (() => {
  const { el, num } = guide;
  const tidy = v => Math.round(v * 1e4) / 1e4 + 0;
  const edges = { left: b => b[0], "centre across": b => b[0] + b[2] / 2, right: b => b[0] + b[2], top: b => b[1], "centre down": b => b[1] + b[3] / 2, bottom: b => b[1] + b[3] };
  const right = b => b[0] + b[2], bottom = b => b[1] + b[3];

  // between measures from a to b: gaps (negative where they overlap), offsets of edges, what is aligned.
  function between(a, b) {
    const d = { across: tidy(Math.max(a[0], b[0]) - Math.min(right(a), right(b))), down: tidy(Math.max(a[1], b[1]) - Math.min(bottom(a), bottom(b))), offsets: {}, aligned: [] };
    for (const [name, of] of Object.entries(edges)) {
      d.offsets[name] = tidy(of(b) - of(a));
      if (Math.abs(of(b) - of(a)) <= 0.05) d.aligned.push(name);
    }
    return d;
  }
  const insets = (b, out) => ({ top: tidy(b[1] - out[1]), right: tidy(right(out) - right(b)), bottom: tidy(bottom(out) - bottom(b)), left: tidy(b[0] - out[0]) });
  const holds = (out, b) => b[0] >= out[0] - 0.05 && b[1] >= out[1] - 0.05 && right(b) <= right(out) + 0.05 && bottom(b) <= bottom(out) + 0.05;

  // gapsOf lists the clear spaces beside and below each of several boxes, up to the next one that faces it.
  function gapsOf(list) {
    const out = [];
    for (const a of list) for (const [i, size, j, other] of [[0, 2, 1, 3], [1, 3, 0, 2]]) {
      let next = null;
      for (const b of list) {
        const facing = Math.min(a[j] + a[other], b[j] + b[other]) - Math.max(a[j], b[j]);
        if (b !== a && facing > 0.05 && b[i] >= a[i] + a[size] - 0.05 && (!next || b[i] < next[i])) next = b;
      }
      if (!next) continue;
      const from = a[i] + a[size], lo = Math.max(a[j], next[j]), hi = Math.min(a[j] + a[other], next[j] + next[other]);
      const px = tidy(next[i] - from);
      if (px > 0) out.push({ px, box: i ? [lo, from, hi - lo, px] : [from, lo, px, hi - lo] });
    }
    return out;
  }

  // place puts a mark at a box, in a share of the picture so that it follows its size.
  function place(e, b, w, h) {
    e.style.left = b[0] / w * 100 + "%";
    e.style.top = b[1] / h * 100 + "%";
    e.style.width = b[2] / w * 100 + "%";
    e.style.height = b[3] / h * 100 + "%";
    return e;
  }
  const mark = (kind, b, w, h, label) => {
    const up = bottom(b) > h - 16 ? " up" : "", side = b[0] > w * 0.7 ? " left" : "";
    return place(el("i", { class: "mark " + kind + up + side }, label ? el("b", {}, label) : null), b, w, h);
  };
  const gap = (g, w, h) => place(el("i", { class: "gap" }, el("b", {}, guide.length(g.px))), g.box, w, h);

  // insetsOf are the spaces between a box and the one around it.
  function insetsOf(b, out) {
    const i = insets(b, out), midX = b[0] + b[2] / 2, midY = b[1] + b[3] / 2, thin = 1;
    return [[i.top, [midX, out[1], thin, i.top]], [i.bottom, [midX, bottom(b), thin, i.bottom]], [i.left, [out[0], midY, i.left, thin]], [i.right, [right(b), midY, i.right, thin]]]
      .filter(([px]) => px > 0).map(([px, box]) => ({ px, box }));
  }

  // spaces are the gaps between boxes, and the insets of them all from the box that holds them: one of them, or out.
  function spaces(boxes, out) {
    const ground = boxes.length > 1 && boxes.find(b => boxes.every(o => holds(b, o)));
    const inner = boxes.filter(b => b !== ground);
    if (!inner.length) return [];
    const x = Math.min(...inner.map(b => b[0])), y = Math.min(...inner.map(b => b[1]));
    const whole = [x, y, Math.max(...inner.map(right)) - x, Math.max(...inner.map(bottom)) - y];
    return [...gapsOf(inner), ...insetsOf(whole, ground || out)];
  }

  // lines are the distances between two boxes that stand apart, or the insets where one holds the other.
  function lines(a, b) {
    if (holds(a, b)) return insetsOf(b, a);
    if (holds(b, a)) return insetsOf(a, b);
    const d = between(a, b), out = [];
    if (d.across > 0) {
      const y = d.down < 0 ? (Math.max(a[1], b[1]) + Math.min(bottom(a), bottom(b))) / 2 : a[1] + a[3] / 2;
      out.push({ px: d.across, box: [Math.min(right(a), right(b)), y, d.across, 1] });
    }
    if (d.down > 0) {
      const x = d.across < 0 ? (Math.max(a[0], b[0]) + Math.min(right(a), right(b))) / 2 : b[0] + b[2] / 2;
      out.push({ px: d.down, box: [x, Math.min(bottom(a), bottom(b)), 1, d.down] });
    }
    return out;
  }
  const percent = (px, of) => of > 0 ? num(px / of * 100) + " %" : "";
  return { between, insets, holds, spaces, lines, mark, gap, place, percent };
})();
