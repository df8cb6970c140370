// "What should the reader see?": opens for a band, shows what a purpose offers.

export function bindChooser({ dialog, list, url, view }) {
  let band = null;
  let shown = false;
  dialog.addEventListener("shown.bs.modal", () => (shown = true));
  dialog.addEventListener("hidden.bs.modal", () => (shown = false));
  const modal = () => window.bootstrap.Modal.getOrCreateInstance(dialog);

  async function load(purpose) {
    list.setAttribute("aria-busy", "true");
    const response = await fetch(`${url}choose/${band}/?purpose=${encodeURIComponent(purpose)}`).catch(() => null);
    list.removeAttribute("aria-busy");
    if (!response || !response.ok) {
      list.textContent = "The choices cannot be loaded. Try again in a moment.";
      return;
    }
    list.innerHTML = await response.text();
    list.querySelector(".purpose[aria-current]")?.focus();
  }

  list.addEventListener("click", (event) => {
    const purpose = event.target.closest("[data-purpose]");
    if (purpose) load(purpose.dataset.purpose);
  });

  return {
    async open(id) {
      band = id || view.currentBand();
      if (!band) return;
      await load("");
      modal().show();
    },
    close() {
      if (shown) modal().hide();
    },
    isOpen: () => shown,
  };
}
