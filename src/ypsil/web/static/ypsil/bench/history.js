// What was done, as a list: each line can be gone back to.

export function bindHistory({ dialog, list, url, saver }) {
  let shown = false;
  dialog.addEventListener("shown.bs.modal", () => (shown = true));
  dialog.addEventListener("hidden.bs.modal", () => (shown = false));
  const modal = () => window.bootstrap.Modal.getOrCreateInstance(dialog);

  list.addEventListener("click", (event) => {
    const button = event.target.closest("[data-back]");
    if (!button) return;
    modal().hide();
    saver.step("undo", Number(button.dataset.back));
  });

  return {
    async open() {
      await saver.flush();
      const response = await fetch(`${url}history/`).catch(() => null);
      list.innerHTML = response?.ok ? await response.text() : "The history cannot be loaded. Try again in a moment.";
      modal().show();
    },
    isOpen: () => shown,
  };
}
