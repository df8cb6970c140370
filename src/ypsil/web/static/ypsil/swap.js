// Puts a newer drawing of an open page in the place of the one that is shown: what changed, and nothing else.

export const page = document.querySelector("main.page");
const SIGN_MS = 8_000;

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

// Returns how many parts changed; each has a quiet sign where `isSigned`.
export async function taken(newer, isSigned) {
  await placed(newer);
  const body = newer.querySelector("main.page");
  const ids = (root) => [...root.querySelectorAll(".band, .tile")].map((one) => one.id).join(" ");
  document.title = newer.title;
  if (ids(page) !== ids(body)) {
    page.replaceChildren(...body.childNodes);
    drawn(page);
    return page.querySelectorAll(".tile").length;
  }
  let changed = 0;
  for (const tile of body.querySelectorAll(".tile")) {
    const before = document.getElementById(tile.id);
    if (before.isEqualNode(tile)) continue;
    if (isSameControl(before, tile)) {
      followed(before, tile);
      continue;
    }
    const isOpen = [...before.querySelectorAll("details")].map((one) => one.open);
    const hadFocus = before.contains(document.activeElement);
    before.replaceWith(tile);
    tile.querySelectorAll("details").forEach((one, place) => (one.open = Boolean(isOpen[place])));
    if (hadFocus) tile.querySelector("[tabindex], summary, a")?.focus({ preventScroll: true });
    if (isSigned) sign(tile);
    drawn(tile);
    changed += 1;
  }
  return changed;
}

const PRESSED = "[form=filters]";
const offered = (tile) => [...tile.querySelectorAll(PRESSED)].map((one) => `${one.name}=${one.type === "checkbox" ? one.value : one.options?.length}`).join("&");

function isSameControl(before, tile) {
  return Boolean(before.querySelector(".choose") && tile.querySelector(".choose")) && offered(before) === offered(tile);
}

// A control stays where somebody is using it; only what it says follows.
function followed(before, tile) {
  const now = [...tile.querySelectorAll(PRESSED)];
  before.querySelectorAll(PRESSED).forEach((one, place) => {
    one.checked = now[place].checked;
    if (one.type === "checkbox" || one.type === "radio") return;
    [...(one.options ?? [])].forEach((option, at) => (option.textContent = now[place].options[at].textContent));
    one.value = now[place].value;
  });
  for (const part of [".head", ".now", ".rows", ".bars"]) {
    const [old, next] = [before.querySelector(part), tile.querySelector(part)];
    if (!old || !next || old.isEqualNode(next)) continue;
    const hadFocus = old.contains(document.activeElement);
    old.replaceWith(next);
    if (hadFocus) before.querySelector("summary, select, input")?.focus({ preventScroll: true });
    drawn(next);
  }
  before.querySelectorAll(".refused").forEach((one) => one.remove());
  before.querySelector(".rows")?.before(...tile.querySelectorAll(".refused"));
}

// A quiet sign at what changed, for a while.
function sign(tile) {
  tile.classList.add("newer");
  setTimeout(() => tile.classList.remove("newer"), SIGN_MS);
}

function drawn(root) {
  root.dispatchEvent(new CustomEvent("drawn", { bubbles: true }));
}

const said = document.createElement("p");
said.className = "visually-hidden";
said.lang = "en";
said.setAttribute("role", "status");
document.body.append(said);

export function say(words) {
  said.textContent = words;
}
