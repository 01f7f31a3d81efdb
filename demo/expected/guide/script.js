// Copy buttons, the scheme switch, and the facts of what is pointed at on a screen.
(function () {
  var root = document.documentElement;
  try { var kept = localStorage.getItem("scheme"); if (kept) root.dataset.scheme = kept; } catch (e) { /* from disk */ }

  function copy(text, done) {
    function fallback() {
      var area = document.createElement("textarea");
      area.value = text;
      document.body.appendChild(area);
      area.select();
      try { document.execCommand("copy"); } catch (e) { /* nothing more can be done */ }
      area.remove();
      done();
    }
    if (navigator.clipboard && window.isSecureContext) navigator.clipboard.writeText(text).then(done, fallback);
    else fallback();
  }

  document.addEventListener("click", function (ev) {
    var b = ev.target.closest("button");
    if (!b) return;
    if (b.dataset.copy !== undefined) {
      var was = b.textContent;
      copy(b.dataset.copy, function () { b.textContent = "copied"; setTimeout(function () { b.textContent = was; }, 1200); });
    } else if (b.id === "scheme") {
      var dark = root.dataset.scheme ? root.dataset.scheme === "dark" : matchMedia("(prefers-color-scheme: dark)").matches;
      root.dataset.scheme = dark ? "light" : "dark";
      try { localStorage.setItem("scheme", root.dataset.scheme); } catch (e) { /* from disk */ }
    } else if (b.classList.contains("spot")) {
      show(b);
      try { history.replaceState(null, "", "#" + encodeURIComponent(b.dataset.path)); } catch (e) { /* from disk */ }
    }
  });

  function show(spot) {
    document.querySelectorAll(".spot.on").forEach(function (s) { s.classList.remove("on"); });
    spot.classList.add("on");
    document.getElementById("facts").replaceChildren(document.getElementById(spot.dataset.facts).content.cloneNode(true));
  }

  // The address names the element whose facts show, so that a link can be shared.
  function open() {
    var path = "";
    try { path = decodeURIComponent(location.hash.slice(1)); } catch (e) { /* not one of ours */ }
    document.querySelectorAll(".spot").forEach(function (s) { if (s.dataset.path === path) show(s); });
  }
  addEventListener("hashchange", open);
  open();
})();
