// The page of themes: reading answers by keyboard, giving them themes, grouping words. The server decides all of it.

// What takes longer than this says that it is under way.
const SLOW_MS = 400;

const page = document.querySelector("[data-themes]");
const part = (name) => page.querySelector(`[data-part="${name}"]`);
const notice = document.querySelector("[data-notice]");

function say(text, bad = false) {
  notice.textContent = text;
  notice.hidden = !text;
  notice.classList.toggle("bad", bad);
}

function take({ parts, can_undo: canUndo, can_redo: canRedo }) {
  for (const [name, html] of Object.entries(parts)) part(name).innerHTML = html;
  document.querySelector('[data-step="undo"]').disabled = !canUndo;
  document.querySelector('[data-step="redo"]').disabled = !canRedo;
}

async function ask(url, options) {
  page.setAttribute("aria-busy", "true");
  const slow = setTimeout(() => say("Working on all answers …"), SLOW_MS);
  const response = await fetch(url, options).catch(() => null);
  clearTimeout(slow);
  page.removeAttribute("aria-busy");
  const isJson = response && (response.headers.get("Content-Type") || "").startsWith("application/json");
  const data = isJson ? await response.json() : { message: "The server cannot be reached. Nothing was changed; try again in a moment." };
  if (data.message) say(data.message, true);
  else if (data.arrival) location.assign(data.arrival);
  return data.parts ? data : null;
}

// Changes follow each other: what is pressed while one is on its way is done after it.
let waiting = Promise.resolve();
function send(change) {
  waiting = waiting.then(() => sendNow(change));
  return waiting;
}

async function sendNow(change) {
  const { of, column, show, length, csrf } = page.dataset;
  const body = JSON.stringify({ column, ...(of ? { of } : {}), show, length, key: keyNow(), ...change });
  const headers = { "Content-Type": "application/json", Accept: "application/json", "X-CSRFToken": csrf };
  const data = await ask(page.dataset.themes, { method: "POST", headers, body });
  if (!data) return null;
  page.dataset.of = data.of;
  take(data);
  say(change.do === "read" || change.do === "decide" ? "" : `${data.said}.`);
  return data;
}

const keyNow = () => page.querySelector("[data-answer]")?.dataset.answer || undefined;
const lines = () => [...page.querySelectorAll("[data-key]")];

async function read(query) {
  const { of, column } = page.dataset;
  const asked = new URLSearchParams({ ...(of ? { of } : { column }), show: page.dataset.show, ...query });
  const data = await ask(`${page.dataset.themes}part/?${asked}`, { headers: { Accept: "application/json" } });
  if (!data) return null;
  take(data);
  if (notice.textContent.startsWith("Working")) say("");
  return data;
}

async function choose(line) {
  if (!line) return;
  for (const one of lines()) one.toggleAttribute("aria-current", false);
  line.setAttribute("aria-current", "true");
  if (await read({ key: line.dataset.key })) focusAnswer();
  line.scrollIntoView({ block: "nearest" });
}

function go(by) {
  const all = lines();
  const at = all.findIndex((line) => line.hasAttribute("aria-current"));
  const next = all[at + by];
  if (next) return choose(next);
  const more = page.querySelector("[data-next-page]");
  return by > 0 && more ? show(more.dataset.show, more.dataset.start) : null;
}

async function show(name, start) {
  page.dataset.show = name;
  await read({ show: name, ...(start ? { start } : {}) });
  for (const one of part("lists").querySelectorAll("[data-show]")) one.toggleAttribute("aria-current", one.dataset.show === name);
  focusAnswer();
}

const focusAnswer = () => page.querySelector("[data-answer]").focus({ preventScroll: true });

async function decide(button) {
  const { decide: theme } = button.dataset;
  const wasFocused = button === document.activeElement;
  if (!(await send({ do: "decide", theme, carries: button.getAttribute("aria-pressed") !== "true" }))) return;
  seen();
  if (wasFocused) page.querySelector(`[data-decide="${CSS.escape(theme)}"]`)?.focus({ preventScroll: true });
  else focusAnswer();
}

// The answer stays where it is until the list is asked for again, so that a slip can be put right.
function seen() {
  page.querySelector("[data-key][aria-current]")?.classList.add("seen");
}

async function settle(how) {
  const isDecided = page.querySelector('[data-settle="unread"]');
  if (how === "unread" || !isDecided) {
    if (!(await send({ do: how }))) return;
    seen();
  }
  if (how === "read") await go(1);
  else focusAnswer();
}

async function list(length) {
  page.dataset.length = length;
  if (await read({ words: "", length })) page.querySelector(`[data-length="${length}"]`).focus();
}

async function put() {
  const ticked = [...page.querySelectorAll("[data-word]:checked")].map((one) => one.value);
  const field = page.querySelector("#theme-name");
  if (!ticked.length && field.value) say("Made without words: tick some, or give it to answers by hand.");
  if (await send({ do: "put", theme: field.value, terms: ticked })) page.querySelector("#theme-name").focus();
}

async function more(field) {
  const theme = field.dataset.moreFor;
  if (!field.value.trim()) return;
  if (await send({ do: "put", theme, terms: [field.value] })) page.querySelector(`[data-more-for="${CSS.escape(theme)}"]`)?.focus();
}

document.addEventListener("click", (event) => {
  const target = event.target.closest("button");
  if (!target) return;
  const data = target.dataset;
  if (data.step) send({ do: data.step });
  else if (data.key) choose(target);
  else if (data.decide) decide(target);
  else if (data.settle) settle(data.settle);
  else if (data.go) go(Number(data.go));
  else if (data.show) show(data.show, data.start);
  else if (data.take) send({ do: "take", theme: data.theme, term: data.take });
  else if (data.dropTheme) send({ do: "drop", theme: data.dropTheme });
  else if (data.length) list(data.length);
  else if ("put" in data) put();
});

document.addEventListener("change", (event) => {
  if (event.target.dataset.rename) send({ do: "rename", theme: event.target.dataset.rename, name: event.target.value });
});

document.addEventListener("keydown", (event) => {
  const { target, key } = event;
  if (!page || event.ctrlKey || event.metaKey || event.altKey) return;
  if (target.matches("input:not([type=checkbox])")) {
    if (key !== "Enter") return;
    event.preventDefault();
    if (target.id === "theme-name") put();
    else if (target.dataset.moreFor) more(target);
    else target.blur();
    return;
  }
  // Keys of one letter work only while an answer or the list has the focus.
  if (!target.closest(".to-read")) return;
  const toggle = /^[1-9]$/.test(key) && page.querySelector(`[data-digit="${key}"]`);
  if (toggle) decide(toggle);
  else if (key === "ArrowDown" || key === "ArrowUp") {
    event.preventDefault();
    go(key === "ArrowDown" ? 1 : -1);
  } else if (key === "Enter" && target.matches("[data-answer]") && page.querySelector('[data-settle="read"]')) {
    event.preventDefault();
    settle("read");
  }
});

if (page?.dataset.of) focusAnswer();
