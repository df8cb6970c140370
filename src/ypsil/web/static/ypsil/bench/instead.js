// What could be shown in the place of a visual: drawn once somebody asks for it.

export function bindInstead(margin) {
  // It does not bubble.
  margin.addEventListener("toggle", async ({ target }) => {
    const list = target.matches?.("[data-others]") && target.open ? target.querySelector(".instead") : null;
    if (!list || list.childElementCount) return;
    list.textContent = "Drawing what else there is …";
    const response = await fetch(target.dataset.others).catch(() => null);
    if (response?.ok) list.innerHTML = await response.text();
    else list.textContent = "It cannot be loaded. Try again in a moment.";
  }, true);
}
