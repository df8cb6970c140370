// What a reader chooses is shown at once, and stands in the address. Without this the page's form does the same.

import { page, say, taken } from "./swap.js";

const form = document.getElementById("filters");
const SEEK = ".seek";
let asking = null;
// What a phone would show is asked for only where it is seen: it takes the server half as long again.
const NARROW_PX = 700;
const AGAIN_MS = 5_000;
let lacksNarrow = false;
const isWide = () => page.clientWidth > NARROW_PX;

const query = () => {
  const chosen = [...new FormData(form)].filter(([, value]) => String(value).trim() !== "");
  return new URLSearchParams(chosen).toString();
};

async function load() {
  asking?.abort();
  asking = new AbortController();
  const { signal } = asking;
  page.setAttribute("aria-busy", "true");
  try {
    const told = isWide() ? { "X-Window": "wide" } : {};
    const answer = await fetch(location.href, { cache: "no-cache", headers: { Accept: "text/html", ...told }, signal });
    if (answer.status === 503) {
      // Where many pages are made at once this one waits for its turn.
      setTimeout(() => signal.aborted || load(), AGAIN_MS);
      say("Many are choosing now. What you chose comes in a few seconds.");
      return;
    }
    if (!answer.ok) throw new Error(String(answer.status));
    const newer = new DOMParser().parseFromString(await answer.text(), "text/html");
    await taken(newer, false);
    lacksNarrow = "X-Window" in told;
    const words = [...page.querySelectorAll(".refused, .choose .rows span")].map((one) => one.textContent);
    say([...new Set(words)].join(". "));
    ready();
    document.dispatchEvent(new Event("chosen"));
  } catch (problem) {
    if (problem.name === "AbortError") return;
    say("This could not be shown. What stands here is as it was before.");
  }
  if (!signal.aborted) page.removeAttribute("aria-busy");
}

function go(search) {
  const address = location.pathname + (search ? `?${search}` : "");
  if (address === location.pathname + location.search) return;
  history.pushState(null, "", address);
  load();
}

// Of a period either the last ones are chosen, or a start and an end.
function made(control) {
  const [, key, part] = control.name.match(/^(.*)-(from|to|last)$/) ?? [];
  const others = { last: ["from", "to"], from: ["last"], to: ["last"] }[part] ?? [];
  for (const other of others) {
    const found = document.querySelector(`select[name="${CSS.escape(`${key}-${other}`)}"]`);
    if (found && control.value) found.value = "";
  }
  go(query());
}

document.addEventListener("change", (event) => {
  if (event.target.form === form && !event.target.matches(SEEK)) made(event.target);
});
document.addEventListener("submit", (event) => {
  if (event.target !== form) return;
  event.preventDefault();
  go(query());
});
document.addEventListener("click", (event) => {
  const link = event.target.closest(".choose :is(.head, .rows) a, .numbers td a");
  if (link) {
    event.preventDefault();
    go(new URL(link.href).search.slice(1));
    return;
  }
  // A list that is open closes when somebody goes on elsewhere.
  for (const open of document.querySelectorAll(".choose details[open]")) if (!open.contains(event.target)) open.open = false;
});
document.addEventListener("keydown", (event) => {
  const open = event.key === "Escape" && event.target.closest?.(".choose details[open]");
  if (!open) return;
  open.open = false;
  open.querySelector("summary").focus();
});
document.addEventListener("input", (event) => {
  if (!event.target.matches(SEEK)) return;
  const sought = event.target.value.trim().toLocaleLowerCase();
  for (const one of event.target.parentElement.querySelectorAll(".list label")) one.hidden = !one.textContent.toLocaleLowerCase().includes(sought);
});
// A mark of a drawing stands for what can be chosen at a control.
document.addEventListener("pick", (event) => {
  const key = event.target.closest("[data-chooses]")?.dataset.chooses;
  const group = event.target.dataset.group;
  const control = key && group && document.querySelector(`.choose[data-key="${CSS.escape(key)}"]`);
  if (!control) return;
  const box = [...control.querySelectorAll(".list input")].find((one) => one.value === group);
  const [from, to] = ["from", "to"].map((part) => control.querySelector(`select[name="${CSS.escape(`${key}-${part}`)}"]`));
  const names = from ?? control.querySelector("select");
  const option = names && [...names.options].find((one) => one.value && one.textContent === group);
  if (box) {
    box.checked = !box.checked;
    made(box);
  } else if (option) {
    const isChosen = names.value === option.value && (!to || to.value === option.value);
    names.value = isChosen ? "" : option.value;
    if (to) to.value = names.value;
    made(names);
  }
});

function ready() {
  document.querySelectorAll(SEEK).forEach((one) => (one.hidden = false));
}

if (form && page) {
  document.body.classList.add("choosing");
  addEventListener("popstate", load);
  addEventListener("resize", () => {
    if (lacksNarrow && !isWide()) load();
  });
  ready();
}
