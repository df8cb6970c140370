// Keeps an open report at its newest numbers: told by the server, or, where that cannot be, by asking now and then.

const page = document.querySelector("main[data-live]");
const ASK_MS = 20_000;
const SIGN_MS = 8_000;
let shown = page ? Number(page.dataset.release) : 0;
let isAsking = false;

const said = document.createElement("p");
said.className = "visually-hidden";
said.setAttribute("role", "status");
document.body.append(said);

async function refresh() {
  if (isAsking) return;
  isAsking = true;
  const answer = await fetch(location.href, { cache: "no-cache", headers: { Accept: "text/html" } }).catch(() => null);
  isAsking = false;
  if (!answer || !answer.ok) return;
  const newer = new DOMParser().parseFromString(await answer.text(), "text/html");
  const body = newer.querySelector("main[data-live]");
  if (!body || Number(body.dataset.release) === shown) return;
  shown = Number(body.dataset.release);
  await placed(newer);
  const changed = swapped(body);
  document.title = newer.title;
  if (changed) said.textContent = changed === 1 ? "One part of this page has newer numbers." : `${changed} parts of this page have newer numbers.`;
}

// The style sheet of the newer page is there before its tiles are.
async function placed(newer) {
  const sheet = document.querySelector("link[data-layout]");
  const wanted = newer.querySelector("link[data-layout]");
  if (!sheet || !wanted || sheet.getAttribute("href") === wanted.getAttribute("href")) return;
  const next = document.importNode(wanted);
  await new Promise((done) => {
    next.onload = next.onerror = done;
    sheet.after(next);
  });
  sheet.remove();
}

function swapped(body) {
  const ids = (root) => [...root.querySelectorAll(".band, .tile")].map((one) => one.id).join(" ");
  if (ids(page) !== ids(body)) {
    page.replaceChildren(...body.childNodes);
    drawn(page);
    return page.querySelectorAll(".tile").length;
  }
  let changed = 0;
  for (const tile of body.querySelectorAll(".tile")) {
    const before = document.getElementById(tile.id);
    if (before.isEqualNode(tile)) continue;
    const isOpen = [...before.querySelectorAll("details")].map((one) => one.open);
    const hadFocus = before.contains(document.activeElement);
    before.replaceWith(tile);
    tile.querySelectorAll("details").forEach((one, place) => (one.open = Boolean(isOpen[place])));
    if (hadFocus) tile.querySelector("[tabindex], summary, a")?.focus({ preventScroll: true });
    sign(tile);
    drawn(tile);
    changed += 1;
  }
  return changed;
}

// A quiet sign at what changed, for a while.
function sign(tile) {
  tile.classList.add("newer");
  setTimeout(() => tile.classList.remove("newer"), SIGN_MS);
}

function drawn(root) {
  root.dispatchEvent(new CustomEvent("drawn", { bubbles: true }));
}

function listen() {
  const events = new EventSource(page.dataset.live);
  events.onmessage = (event) => {
    const { release } = JSON.parse(event.data);
    if (release === null) events.close();
    else if (release !== shown) refresh();
  };
  events.onerror = () => {
    // The browser asks again by itself, unless it was refused.
    if (events.readyState === EventSource.CLOSED) setInterval(refresh, ASK_MS);
  };
}

if (page) {
  if ("EventSource" in window) listen();
  else setInterval(refresh, ASK_MS);
}
