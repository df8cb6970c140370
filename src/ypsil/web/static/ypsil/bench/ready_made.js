// Ready-made bands: shown with one's own tables, put below the band that is chosen.

export function bindReadyMade({ dialog, list, url, view, page }) {
  let shown = false;
  dialog.addEventListener("shown.bs.modal", () => (shown = true));
  dialog.addEventListener("hidden.bs.modal", () => (shown = false));
  const modal = () => window.bootstrap.Modal.getOrCreateInstance(dialog);

  // Where something is chosen the new band comes below it, else at the foot.
  function index() {
    const bands = [...page.querySelectorAll("[data-band]")];
    const chosen = view.several.length || view.band ? bands.findIndex((band) => band.dataset.band === view.currentBand()) : -1;
    return chosen < 0 ? bands.length : chosen + 1;
  }

  return {
    async open() {
      list.textContent = "Drawing them with your tables …";
      list.setAttribute("aria-busy", "true");
      modal().show();
      const response = await fetch(`${url}arrangements/?index=${index()}`).catch(() => null);
      list.removeAttribute("aria-busy");
      if (response?.ok) list.innerHTML = await response.text();
      else list.textContent = "The bands cannot be loaded. Try again in a moment.";
    },
    close() {
      if (shown) modal().hide();
    },
    isOpen: () => shown,
  };
}
