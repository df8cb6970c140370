// Follows a file that is read in the background.

const section = document.querySelector("[data-arrival]");
const EVERY_MS = 700;

async function look() {
  const response = await fetch(section.dataset.arrival, { headers: { Accept: "application/json" } }).catch(() => null);
  if (response && response.ok) {
    const { state, part } = await response.json();
    section.querySelector("progress").value = part;
    if (!["waiting", "reading"].includes(state)) {
      location.reload();
      return;
    }
    const said = state === "waiting" ? "It waits its turn." : `${Math.round(part * 100)}% is done.`;
    section.querySelector("[data-said]").textContent = said;
  }
  setTimeout(look, EVERY_MS);
}

if (section) look();
