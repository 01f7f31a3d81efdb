// The script that archetyp live adds to pages: edited style sheets take effect, elements are outlined and asked about,
// and the design is laid over. It changes nothing of the page itself but its links to style sheets.
(() => {
  'use strict';
  if (window.top !== window) return;
  const at = '/-archetyp/';

  // Style sheets
  const names = p => p.replace(/^\/+|\/+$/g, '').split('/');
  const sameEnd = (a, b) => {
    const x = names(a), y = names(b);
    let n = 0;
    while (n < x.length && n < y.length && x[x.length - 1 - n] === y[y.length - 1 - n]) n++;
    return n;
  };
  const imports = sheet => {
    const out = [];
    try {
      for (const r of sheet.cssRules) if (r.styleSheet) out.push(r.styleSheet, ...imports(r.styleSheet));
    } catch { /* of another host */ }
    return out;
  };
  let seen = 0;
  const again = (file, n) => {
    const found = [];
    for (const link of document.querySelectorAll('link[rel~=stylesheet]')) {
      if (!link.sheet || link.dataset.archetypGone) continue;
      for (const s of [link.sheet, ...imports(link.sheet)]) {
        if (!s.href) continue;
        const u = new URL(s.href);
        if (u.origin === location.origin) found.push([sameEnd(u.pathname, file), link]);
      }
    }
    const most = Math.max(0, ...found.map(f => f[0]));
    if (!most) return;
    for (const link of new Set(found.filter(f => f[0] === most).map(f => f[1]))) {
      const fresh = link.cloneNode();
      const u = new URL(link.href);
      u.searchParams.set('archetyp', `${n}-${++seen}`);
      fresh.href = u.href;
      link.dataset.archetypGone = '1';
      const over = () => {
        link.remove();
        window.dispatchEvent(new CustomEvent('archetyp:styled'));
        draw();
      };
      fresh.addEventListener('load', over, {once: true});
      fresh.addEventListener('error', () => { fresh.remove(); delete link.dataset.archetypGone; }, {once: true});
      link.after(fresh);
    }
  };

  // What is shown above the page
  let host, root, frames, panel, picture;
  const build = () => {
    if (host) return;
    host = document.createElement('archetyp-live');
    host.style.cssText = 'all:initial;position:absolute;left:0;top:0;width:0;height:0;z-index:2147483647';
    root = host.attachShadow({mode: 'closed'});
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(`
      .frame{position:absolute;box-sizing:border-box;border:2px solid #e4572e;background:rgb(228 87 46/.1);pointer-events:none}
      .panel{position:fixed;right:12px;bottom:12px;width:min(440px,calc(100vw - 24px));max-height:min(60vh,640px);overflow:auto;box-sizing:border-box;padding:14px 16px;border-radius:10px;
        background:#14232e;color:#e9eff4;font:13px/1.45 system-ui,sans-serif;box-shadow:0 8px 32px rgb(0 0 0/.35)}
      .panel h2{margin:0 0 2px;font-size:14px}.panel h3{margin:12px 0 4px;font-size:11px;letter-spacing:.06em;text-transform:uppercase;color:#a9bac8}
      .panel p{margin:2px 0;color:#a9bac8}
      .panel table{border-collapse:collapse;width:100%;font:12px/1.4 ui-monospace,monospace}.panel td{padding:1px 8px 1px 0;vertical-align:top;overflow-wrap:anywhere}
      .panel td:first-child{color:#a9bac8;white-space:nowrap}.panel .off td{color:#ffb59e}
      .panel pre{margin:4px 0;font:12px/1.4 ui-monospace,monospace;white-space:pre-wrap;overflow-wrap:anywhere}
      .panel .place{color:#7fc4dc;font:11px ui-monospace,monospace}
      .panel button{float:right;border:0;background:none;color:inherit;font:16px/1 system-ui;cursor:pointer}
      .picture{position:absolute;left:0;top:0;opacity:.5;pointer-events:none}
      .sw{display:inline-block;width:.8em;height:.8em;margin-right:.4em;border-radius:2px;box-shadow:0 0 0 1px rgb(255 255 255/.3)}`);
    root.adoptedStyleSheets = [sheet];
    frames = document.createElement('div');
    root.append(frames);
    document.documentElement.append(host);
  };
  let outlined = '';
  const draw = () => {
    if (!host && !outlined) return;
    build();
    frames.textContent = '';
    let list = [];
    try {
      if (outlined) list = [...document.querySelectorAll(outlined)].slice(0, 200);
    } catch { /* no selector yet: it is being typed */ }
    for (const e of list) {
      const b = e.getBoundingClientRect();
      if (!b.width && !b.height) continue;
      const f = document.createElement('div');
      f.className = 'frame';
      f.style.cssText = `left:${b.left + scrollX}px;top:${b.top + scrollY}px;width:${b.width}px;height:${b.height}px`;
      frames.append(f);
    }
  };
  addEventListener('resize', draw);

  // Asking about an element: Alt and a click
  const selectorOf = e => {
    const parts = [];
    for (; e && e.nodeType === 1; e = e.parentElement) {
      if (e.id && document.querySelectorAll('#' + CSS.escape(e.id)).length === 1) {
        parts.unshift('#' + CSS.escape(e.id));
        break;
      }
      const name = e.localName;
      parts.unshift(e.parentElement ? `${name}:nth-child(${[...e.parentElement.children].indexOf(e) + 1})` : name);
    }
    return parts.join(' > ');
  };
  const cell = (tr, text, colour) => {
    const td = tr.insertCell();
    if (colour && /^(#|rgb|hsl|ok|color\()/.test(text) && !/ \S+px/.test(text)) {
      const sw = document.createElement('span');
      sw.className = 'sw';
      sw.style.background = text;
      td.append(sw);
    }
    td.append(text);
  };
  const show = a => {
    build();
    panel?.remove();
    panel = document.createElement('div');
    panel.className = 'panel';
    const add = (name, text, cls) => {
      const e = document.createElement(name);
      e.textContent = text;
      if (cls) e.className = cls;
      panel.append(e);
      return e;
    };
    const close = add('button', '×');
    close.setAttribute('aria-label', 'Close');
    close.onclick = () => { panel.remove(); panel = null; outlined = ''; draw(); };
    if (a.error) {
      add('p', a.error);
    } else {
      add('h2', a.element);
      add('p', a.design ? `${a.design} · ${a.why}` : 'It has no partner in the design.');
      if (a.facts?.length) {
        add('h3', 'Design and site');
        const t = document.createElement('table');
        for (const f of a.facts) {
          const tr = t.insertRow();
          cell(tr, f.property);
          cell(tr, f.design, true);
          cell(tr, f.site, true);
          if (f.differs) tr.className = 'off';
        }
        panel.append(t);
      }
      if (a.rules?.length) add('h3', 'Rules');
      for (const r of a.rules || []) {
        add('div', r.place, 'place');
        add('pre', r.text);
      }
    }
    root.append(panel);
  };
  const ask = async e => {
    const selector = selectorOf(e);
    outlined = selector;
    draw();
    const answer = await fetch(at + 'element', {method: 'POST', headers: {'Content-Type': 'application/json'}, body: JSON.stringify({page: location.pathname, selector, width: innerWidth})});
    show(await answer.json());
  };
  addEventListener('click', ev => {
    if (!ev.altKey || ev.button || ev.composedPath().includes(host)) return;
    ev.preventDefault();
    ev.stopImmediatePropagation();
    ask(ev.target.nodeType === 1 ? ev.target : ev.target.parentElement);
  }, true);

  // The design above the page: Alt and D
  addEventListener('keydown', ev => {
    if (ev.altKey && ev.code === 'KeyD') {
      ev.preventDefault();
      build();
      if (picture) {
        picture.remove();
        picture = null;
        return;
      }
      picture = document.createElement('img');
      picture.className = 'picture';
      picture.alt = '';
      picture.onerror = () => { picture?.remove(); picture = null; show({error: 'No screen of the design is this page.'}); };
      picture.onload = () => { picture.style.width = picture.naturalWidth / 2 + 'px'; };
      picture.src = `${at}picture?page=${encodeURIComponent(location.pathname)}&width=${innerWidth}`;
      root.prepend(picture);
    } else if (ev.code === 'Escape' && panel) {
      panel.remove();
      panel = null;
      outlined = '';
      draw();
    }
  }, true);

  const events = new EventSource(at + 'events');
  events.onmessage = ev => {
    const e = JSON.parse(ev.data);
    if (e.sheet) again(e.sheet, e.n);
    if ('outline' in e) { outlined = e.outline; draw(); }
  };
})();
