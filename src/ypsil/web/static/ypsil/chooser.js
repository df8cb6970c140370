// "What should the reader see?": opens for a band, shows what a purpose offers.

export function bindChooser({ dialog, list, url, view }) {
  let band = null;
  let table = "";
  let instead = "";
  let shown = false;
  dialog.addEventListener("shown.bs.modal", () => (shown = true));
  dialog.addEventListener("hidden.bs.modal", () => (shown = false));
  const modal = () => window.bootstrap.Modal.getOrCreateInstance(dialog);

  // `at` is what the keyboard stands on once the choices are there.
  async function load(purpose, at = ".purpose[aria-current]") {
    list.setAttribute("aria-busy", "true");
    const asked = new URLSearchParams({ purpose, table, instead });
    const response = await fetch(`${url}choose/${band}/?${asked}`).catch(() => null);
    list.removeAttribute("aria-busy");
    if (!response || !response.ok) {
      list.textContent = "The choices cannot be loaded. Try again in a moment.";
      return;
    }
    list.innerHTML = await response.text();
    list.querySelector(at)?.focus();
  }

  list.addEventListener("click", (event) => {
    const purpose = event.target.closest("[data-purpose]");
    if (purpose) load(purpose.dataset.purpose);
  });
  list.addEventListener("change", (event) => {
    if (!event.target.matches("[data-table]")) return;
    table = event.target.value;
    load(list.querySelector(".purpose[aria-current]").dataset.purpose, "[data-table]");
  });

  return {
    async open(id, from = "", { purpose = "", place = "" } = {}) {
      band = id || view.currentBand();
      if (!band) return;
      table = from;
      instead = place;
      await load(purpose);
      modal().show();
    },
    close() {
      if (shown) modal().hide();
    },
    isOpen: () => shown,
  };
}
