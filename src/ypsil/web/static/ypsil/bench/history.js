// Moments that were kept, and what was done, as a list: all of it can be gone back to.

export function bindHistory({ dialog, list, url, saver, say }) {
  let shown = false;
  dialog.addEventListener("shown.bs.modal", () => (shown = true));
  dialog.addEventListener("hidden.bs.modal", () => (shown = false));
  const modal = () => window.bootstrap.Modal.getOrCreateInstance(dialog);

  list.addEventListener("click", (event) => {
    const button = event.target.closest("[data-back], [data-moment-back], [data-moment-forget]");
    if (!button) return;
    if (button.dataset.momentForget) return void ask(button.dataset.momentForget, {}, "Forgotten");
    modal().hide();
    if (button.dataset.momentBack) saver.step(button.dataset.momentBack);
    else saver.step("undo", Number(button.dataset.back));
  });

  list.addEventListener("submit", (event) => {
    event.preventDefault();
    const form = event.target;
    form.querySelector("button").disabled = true;
    ask(form.dataset.keepMoment, { name: form.querySelector("input").value }, "Kept");
  });

  // Sends something about moments; the list that comes back stands in place of the one before.
  async function ask(to, body, said) {
    await saver.flush();
    const headers = { "Content-Type": "application/json", "X-CSRFToken": saver.csrf };
    const response = await fetch(to, { method: "POST", headers, body: JSON.stringify(body) }).catch(() => null);
    if (!response?.ok) {
      const problem = list.querySelector("[role=alert]");
      problem.textContent = "The server cannot be reached. Try again in a moment.";
      problem.hidden = false;
      for (const button of list.querySelectorAll("form button")) button.disabled = false;
      return;
    }
    list.innerHTML = await response.text();
    if (list.querySelector("[role=alert]").hidden) say(said);
    list.querySelector("#moment-name").focus();
  }

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
