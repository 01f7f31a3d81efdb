// Remarks from the pages: readers say something about an element or the screen, and answer. The name they give is kept in
// this browser.
"use strict";
(() => {
  const { el, ask } = guide;
  const called = () => localStorage.getItem("reader") || "";
  const who = () => el("input", { name: "by", required: true, autocomplete: "name", maxlength: 80, placeholder: "your name", value: called() });

  // form is a form of words; send gets what was written.
  function form(label, more, buttons, send) {
    const by = who(), words = el("textarea", { name: "words", rows: 3, required: true, "aria-label": "Words", placeholder: "words; @name for somebody" }), error = el("p", { class: "warn", role: "alert" });
    return el("form", { class: "say", "aria-label": label, onsubmit: async ev => {
      ev.preventDefault();
      localStorage.setItem("reader", by.value);
      error.textContent = "";
      try {
        await send(by.value, words.value, ev.submitter?.value || "");
        words.value = "";
        guide.say("Written");
      } catch (e) { error.textContent = e.message; }
    } }, words, el("p", { class: "controls" }, by, more, buttons), error);
  }

  document.querySelectorAll(".thread[data-remark]").forEach(t => {
    if (!t.dataset.remark) return;
    const closed = t.classList.contains("closed");
    const details = el("details", {}, el("summary", {}, "reply"), form("Reply", null,
      [el("button", { value: "" }, "Reply"), el("button", { value: closed ? "reopens" : "closes" }, closed ? "Reply and reopen" : "Reply and close")],
      (by, words, does) => ask("reply", { remark: t.dataset.remark, by, words, does })));
    t.append(details);
  });

  const s = guide.screen;
  if (!s) return;
  const source = document.querySelector(".title code").textContent, screen = document.querySelector(".title h1").textContent;
  const kind = el("select", { "aria-label": "kind" });
  ask("remark-kinds", {}).then(a => kind.append(...a.kinds.map(k => el("option", {}, k))), () => {});
  const about = el("p", { class: "soft" });
  const show = () => { const e = s.all[s.selected]; about.textContent = "about " + (e ? e.n || e.k : "the screen; select an element for a remark about it"); };
  document.addEventListener("selected", show);
  s.canvas.addEventListener("click", () => setTimeout(show));
  s.canvas.addEventListener("keyup", show);
  show();
  const write = el("details", { id: "say" }, el("summary", {}, "Say something"), about, form("A new remark", kind, el("button", {}, "Write"), (by, words) =>
    ask("remark", { source, screen, selector: s.all[s.selected]?.s || "", kind: kind.value, by, words })));
  (document.getElementById("remarks") || document.getElementById("facts")).prepend(write);
})();
