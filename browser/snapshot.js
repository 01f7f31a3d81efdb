(() => {
  // The page as it is now, as text that parses to the same tree: every element has a number, shadow roots are templates,
  // rules that scripts added are in a style element.
  const voids = new Set('area base br col embed hr img input link meta source track wbr param'.split(' '));
  const raws = new Set('script style xmp iframe noembed noframes plaintext'.split(' '));
  const esc = s => s.replace(/&/g, '&amp;').replace(/\u00a0/g, '&nbsp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');
  const escA = s => s.replace(/&/g, '&amp;').replace(/\u00a0/g, '&nbsp;').replace(/"/g, '&quot;');
  const boxes = [], texts = [], names = [], warn = [];
  const round = v => Math.round(v * 10000) / 10000;
  const flat = r => [round(r.x + scrollX), round(r.y + scrollY), round(r.width), round(r.height)];
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
  const pixels = (cs, list) => list.reduce((s, p) => s + (parseFloat(cs[p]) || 0), 0);
  const element = (e, above, html) => {
    const n = boxes.length, cs = getComputedStyle(e), name = e.localName;
    const m = cs.transform === 'none' && cs.rotate === 'none' && cs.scale === 'none' ? above : times(above, linear(cs));
    const turned = Math.abs(m[1]) > 1e-6 || Math.abs(m[2]) > 1e-6 || Math.abs(m[0] - 1) > 1e-6 || Math.abs(m[3] - 1) > 1e-6;
    const box = e.getClientRects().length ? flat(e.getBoundingClientRect()) : null;
    boxes.push(box);
    if (box && turned && !(e instanceof SVGElement && e.localName !== 'svg')) {
      let w = parseFloat(cs.width), h = parseFloat(cs.height);
      if (!isNaN(w) && !isNaN(h)) {
        if (cs.boxSizing !== 'border-box') {
          w += pixels(cs, ['paddingLeft', 'paddingRight', 'borderLeftWidth', 'borderRightWidth']);
          h += pixels(cs, ['paddingTop', 'paddingBottom', 'borderTopWidth', 'borderBottomWidth']);
        }
        boxes[n] = box.concat(m.map(v => Math.round(v * 1e8) / 1e8), round(w), round(h));
      }
    }
    names.push(name);
    html.push('<', name, ' archetyp-box="', n, '"');
    for (const a of e.attributes) html.push(' ', a.name, '="', escA(a.value), '"');
    if ((name === 'input' || name === 'textarea') && e.value && !e.hasAttribute('value') && name === 'input' && e.type !== 'file' && e.type !== 'password') html.push(' value="', escA(e.value), '"');
    html.push('>');
    if (voids.has(name)) return;
    if (e.shadowRoot) {
      html.push('<template shadowrootmode="open">');
      sheets(e.shadowRoot, html);
      for (const c of e.shadowRoot.childNodes) node(c, m, html);
      html.push('</template>');
    }
    if (name === 'head') sheets(document, html);
    if (name === 'template') html.push(e.innerHTML);
    else if (raws.has(name) && !(e instanceof SVGElement)) {
      if (name === 'style' && e.sheet && scripted(e)) html.push(text(e.sheet)); else if (name !== 'script') html.push(e.textContent);
    } else for (const c of e.childNodes) node(c, m, html);
    html.push('</', name, '>');
  };
  const text = s => { try { return [...s.cssRules].map(r => r.cssText).join('\n').replace(/<\/style/gi, '<\\/style'); } catch { return ''; } };
  const scripted = e => { const t = e.textContent.trim(); return t === '' && e.sheet.cssRules.length > 0; };
  const sheets = (root, html) => { for (const s of root.adoptedStyleSheets || []) html.push('<style>', text(s), '</style>'); };
  const node = (n, m, html) => {
    if (n.nodeType === 1) element(n, m, html);
    else if (n.nodeType === 3) {
      html.push(n.parentNode.localName === 'noscript' ? '' : esc(n.data));
      if (/\S/.test(n.data) && n.parentElement) {
        const r = document.createRange();
        r.selectNodeContents(n);
        const list = [...r.getClientRects()].filter(q => q.width > 0 && q.height > 0);
        if (list.length) texts.push([boxes.length - 1, n.data.trim().slice(0, 400), ...list.slice(0, 200).map(flat)]);
      }
    }
  };
  const html = [];
  if (document.doctype) html.push('<!DOCTYPE ', document.doctype.name, document.doctype.publicId ? ' PUBLIC "' + document.doctype.publicId + '" "' + document.doctype.systemId + '"' : '', '>');
  element(document.documentElement, unit, html);
  const d = document.documentElement;
  return JSON.stringify({HTML: html.join(''), URL: document.URL, Width: Math.max(d.scrollWidth, innerWidth), Height: Math.max(d.scrollHeight, innerHeight), Boxes: boxes, Texts: texts, Names: names, Warnings: warn});
})()
