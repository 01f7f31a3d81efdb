// How changes show: framed, laid over each other, split at a slider, or in turn.
"use strict";
(() => {
  const all = [...document.querySelectorAll(".compare")], buttons = [...document.querySelectorAll(".showing button")], between = document.getElementById("between");
  let timer;
  function show(how) {
    buttons.forEach(b => b.setAttribute("aria-pressed", b.dataset.show === how));
    all.forEach(c => { c.dataset.show = how; c.classList.remove("turn"); });
    clearInterval(timer);
    if (how === "blink") timer = setInterval(() => all.forEach(c => c.classList.toggle("turn")), 1000);
    between.disabled = how !== "split" && how !== "overlay";
  }
  buttons.forEach(b => b.addEventListener("click", () => show(b.dataset.show)));
  between.addEventListener("input", () => all.forEach(c => { c.style.setProperty("--between", between.value + "%"); c.style.setProperty("--share", between.value / 100); }));
  document.addEventListener("keydown", ev => {
    if (ev.ctrlKey || ev.metaKey || ev.altKey || /^(INPUT|SELECT|TEXTAREA)$/.test(ev.target.tagName) && ev.target !== between) return;
    const b = buttons.find(x => x.title.endsWith(`(${ev.key.toUpperCase()})`));
    if (b) show(b.dataset.show);
  });
  show("difference");
})();
