(() => {
  // The page as it is now, as text that parses to the same tree: every element has a number, shadow roots are templates,
  // rules that scripts added are in a style element. Frames that may be looked into are read in the same way.
  const voids = new Set('area base br col embed hr img input link meta source track wbr param'.split(' '));
  const raws = new Set('script style xmp iframe noembed noframes plaintext'.split(' '));
  const esc = s => s.replace(/&/g, '&amp;').replace(/\u00a0/g, '&nbsp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');
  const escA = s => s.replace(/&/g, '&amp;').replace(/\u00a0/g, '&nbsp;').replace(/"/g, '&quot;');
  const round = v => Math.round(v * 10000) / 10000;
  const unit = [1, 0, 0, 1];
  const times = (m, n) => [m[0] * n[0] + m[2] * n[1], m[1] * n[0] + m[3] * n[1], m[0] * n[2] + m[2] * n[3], m[1] * n[2] + m[3] * n[3]];
  const linear = cs => {
    let m = unit;
    if (cs.rotate !== 'none' || cs.scale !== 'none') {
      const d = new DOMMatrix((cs.rotate !== 'none' && !/[xyz]/.test(cs.rotate) ? 'rotate(' + cs.rotate + ')' : '') +
        (cs.scale !== 'none' ? ' scale(' + cs.scale.split(' ').join(',') + ')' : ''));
      m = [d.a, d.b, d.c, d.d];
    }
    if (cs.transform !== 'none') {
      const d = new DOMMatrix(cs.transform);
      m = times(m, [d.a, d.b, d.c, d.d]);
    }
    return m;
  };
  const isTurned = m => Math.abs(m[1]) > 1e-6 || Math.abs(m[2]) > 1e-6 || Math.abs(m[0] - 1) > 1e-6 || Math.abs(m[3] - 1) > 1e-6;
  const pixels = (cs, list) => list.reduce((s, p) => s + (parseFloat(cs[p]) || 0), 0);
  const text = s => { try { return [...s.cssRules].map(r => r.cssText).join('\n').replace(/<\/style/gi, '<\\/style'); } catch { return ''; } };
  const scripted = e => e.textContent.trim() === '' && e.sheet.cssRules.length > 0;
  const sheets = (root, html) => { for (const s of root.adoptedStyleSheets || []) html.push('<style>', text(s), '</style>'); };

  // read takes a document whose own corner is at x, y of the page.
  const read = (document, x, y, depth) => {
    const window = document.defaultView, boxes = [], texts = [], names = [], frames = [], html = [];
    const flat = r => [round(r.x + x), round(r.y + y), round(r.width), round(r.height)];
    const element = (e, above) => {
      const n = boxes.length, cs = window.getComputedStyle(e), name = e.localName, svg = e instanceof window.SVGElement;
      const m = cs.transform === 'none' && cs.rotate === 'none' && cs.scale === 'none' ? above : times(above, linear(cs));
      const box = e.getClientRects().length ? flat(e.getBoundingClientRect()) : null;
      boxes.push(box);
      names.push(name);
      if (box && isTurned(m) && !(svg && name !== 'svg')) {
        let w = parseFloat(cs.width), h = parseFloat(cs.height);
        if (!isNaN(w) && !isNaN(h)) {
          if (cs.boxSizing !== 'border-box') {
            w += pixels(cs, ['paddingLeft', 'paddingRight', 'borderLeftWidth', 'borderRightWidth']);
            h += pixels(cs, ['paddingTop', 'paddingBottom', 'borderTopWidth', 'borderBottomWidth']);
          }
          boxes[n] = box.concat(m.map(v => Math.round(v * 1e8) / 1e8), round(w), round(h));
        }
      }
      html.push('<', name, ' archetyp-box="', n, '"');
      for (const a of e.attributes) html.push(' ', a.name, '="', escA(a.value), '"');
      if (name === 'input' && e.value && !e.hasAttribute('value') && e.type !== 'file' && e.type !== 'password') html.push(' value="', escA(e.value), '"');
      html.push('>');
      if (voids.has(name)) return;
      if (e.shadowRoot) {
        html.push('<template shadowrootmode="open">');
        sheets(e.shadowRoot, html);
        children(e.shadowRoot, m, -1);
        html.push('</template>');
      }
      if (name === 'head') sheets(document, html);
      if (name === 'template') html.push(e.innerHTML);
      else if (raws.has(name) && !svg) {
        if (name === 'style' && e.sheet && scripted(e)) html.push(text(e.sheet)); else if (name !== 'script') html.push(e.textContent);
        if (name === 'iframe' && box && !isTurned(m) && depth < 4) frame(e, cs, n);
      } else children(e, m, n);
      html.push('</', name, '>');
    };
    const frame = (e, cs, n) => {
      let inner = null;
      try { inner = e.contentDocument; } catch { }
      if (!inner || !inner.documentElement || !inner.defaultView) return;
      const r = e.getBoundingClientRect(), at = side => pixels(cs, ['border' + side + 'Width', 'padding' + side]);
      frames.push({Of: n, Page: read(inner, r.x + x + at('Left'), r.y + y + at('Top'), depth + 1)});
    };
    // Comments are left out, so that texts on both sides of one are one text there.
    const children = (e, m, n) => {
      let run = [], runs = 0;
      const end = () => {
        const words = run.map(t => t.data).join('');
        if (/\S/.test(words)) {
          const list = [];
          for (const t of run) {
            const r = document.createRange();
            r.selectNodeContents(t);
            for (const q of r.getClientRects()) if (q.width > 0 && q.height > 0 && list.length < 200) list.push(flat(q));
          }
          if (list.length && n >= 0) texts.push({Of: n, Run: runs, Lines: list});
          runs++;
        }
        run = [];
      };
      for (const c of e.childNodes) {
        if (c.nodeType === 3) {
          if (e.localName === 'noscript') continue;
          html.push(esc(c.data));
          run.push(c);
        } else if (c.nodeType === 1) {
          end();
          element(c, m);
        }
      }
      end();
    };
    if (document.doctype) html.push('<!DOCTYPE ', document.doctype.name, document.doctype.publicId ? ' PUBLIC "' + document.doctype.publicId + '" "' + document.doctype.systemId + '"' : '', '>');
    element(document.documentElement, unit);
    const d = document.documentElement;
    return {HTML: html.join(''), URL: document.URL, Width: Math.max(d.scrollWidth, window.innerWidth), Height: Math.max(d.scrollHeight, window.innerHeight),
      Window: [window.innerWidth, window.innerHeight], Boxes: boxes, Texts: texts, Names: names, Frames: frames};
  };
  return JSON.stringify(read(document, scrollX, scrollY, 0));
})()
