// Ways to look at the page: as a skeleton of boxes, or as readers will see it, without any tool.

const VIEWS = ["skeleton", "reading"];

export function bindViews({ view, say }) {
  function set(name) {
    for (const one of VIEWS) {
      const on = one === name && !document.body.classList.contains(one);
      document.body.classList.toggle(one, on);
      for (const button of document.querySelectorAll(`[data-view="${one}"]`)) button.setAttribute("aria-pressed", String(on));
      if (one === name) say(on ? `${one}: on` : `${one}: off`);
    }
    if (document.body.classList.contains("reading")) view.choose(null);
    view.frame();
  }

  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-view]");
    if (button) set(button.dataset.view);
  });
  document.addEventListener("keydown", (event) => {
    if (event.key !== "Escape" || !document.body.classList.contains("reading")) return;
    event.stopImmediatePropagation();
    set("reading");
  }, true);
  return { set };
}
