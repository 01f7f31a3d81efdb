// Reloads the page when a file it shows was rewritten. The browser keeps the scroll position, the hash the selection.
(() => {
  const own = decodeURI(location.pathname).replace(/\/$/, "/index.html");
  const shown = () => new Set([own, ...[...document.querySelectorAll("[src], link[href]")]
    .map((e) => decodeURI(new URL(e.src || e.href, location).pathname))]);
  let server;
  const changes = new EventSource("/-/changes");
  changes.addEventListener("server", (e) => {
    if (server && server !== e.data) location.reload(); // the server was restarted
    server = e.data;
  });
  changes.addEventListener("written", (e) => {
    const files = JSON.parse(e.data), here = shown();
    if (files.some((f) => here.has(f))) location.reload();
  });
})();
