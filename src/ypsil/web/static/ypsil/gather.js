// The table's page: connects the grid with the margin's remarks and steps.

import { bindCalculations } from "./calculation.js";
import { Grid } from "./grid.js";
import { readStep } from "./steps.js";

const page = document.querySelector(".gather");
const url = page.dataset.table;
const isCurrent = page.dataset.current === "yes";
const margin = page.querySelector("[data-margin]");
const panel = page.querySelector("[data-panel]");
const notice = page.querySelector("[data-notice]");
const place = page.querySelector("[data-place]");

const grid = new Grid({
  holder: page.querySelector("#rows"),
  place,
  url,
  version: page.dataset.version,
  editable: isCurrent,
  onShown: (text) => (page.querySelector("[data-shown]").textContent = text),
  onColumn: (name) => openPanel(`column/?${new URLSearchParams({ name, version: page.dataset.version })}`),
  onCorrect: correct,
  onColumns: offerColumns,
});

// A wide table is shown some columns at a time.
function offerColumns(first, shown, all) {
  const choice = page.querySelector("[data-columns]");
  choice.parentElement.hidden = all <= shown;
  if (all <= shown || choice.options.length) return;
  for (let start = 0; start < all; start += shown) {
    choice.add(new Option(`${start + 1} to ${Math.min(all, start + shown)} of ${all}`, start));
  }
  choice.addEventListener("change", () => grid.show("", choice.value));
}

function say(text, bad = false) {
  notice.textContent = text;
  notice.hidden = !text;
  notice.classList.toggle("bad", bad);
}

async function send(change) {
  page.setAttribute("aria-busy", "true");
  const response = await fetch(`${url}recipe/`, {
    method: "POST",
    headers: { "Content-Type": "application/json", Accept: "application/json", "X-CSRFToken": page.dataset.csrf },
    body: JSON.stringify({ ...change, number: Number(page.dataset.number) }),
  }).catch(() => null);
  page.removeAttribute("aria-busy");
  const isJson = response && (response.headers.get("Content-Type") || "").startsWith("application/json");
  if (!isJson) {
    say("The server cannot be reached. Nothing was changed; try again in a moment.", true);
    return null;
  }
  const data = await response.json();
  if (!response.ok && !data.margin) return data;
  if (data.arrival) {
    location.assign(data.arrival);
    return data;
  }
  const steps = [...margin.querySelectorAll("details")].map((one) => one.open);
  margin.innerHTML = data.margin;
  margin.querySelectorAll("details").forEach((one, index) => (one.open = Boolean(steps[index])));
  page.dataset.number = data.number;
  page.querySelector("[data-count]").textContent = data.rows.toLocaleString("en");
  if (data.said) say(`${data.said}.`);
  await grid.show();
  return data;
}

async function change(wanted) {
  const data = await send(wanted);
  if (data && data.message) say(data.message, true);
  return data;
}

async function correct(row, column, cell) {
  const data = await send({ action: "correct", row, column, value: cell.getValue() });
  if (!data || data.message) {
    cell.restoreOldValue();
    if (data) say(data.message, true);
  }
}

async function openPanel(path) {
  const response = await fetch(url + path).catch(() => null);
  if (!response || !response.ok) {
    say("That cannot be opened. Load the page again.", true);
    return;
  }
  panel.innerHTML = await response.text();
  panel.hidden = false;
  panel.scrollIntoView({ block: "nearest" });
  const first = panel.querySelector("[data-input] :is(input, select, textarea), [data-kind]");
  (first || panel.querySelector("button"))?.focus();
}

function closePanel() {
  panel.hidden = true;
  panel.innerHTML = "";
}

page.addEventListener("click", (event) => {
  const target = event.target.closest("[data-change], [data-after], [data-edit-step], [data-close], [data-another], [data-new-step], [data-drop]");
  if (!target || target.type === "checkbox") return;
  const data = target.dataset;
  if (data.change) change(JSON.parse(data.change)).then((done) => done && !done.message && closePanel());
  else if (data.after) showAfter(target);
  else if (data.editStep) openPanel(`step/?at=${data.editStep}`);
  else if ("close" in data) closePanel();
  else if ("another" in data) another(target);
  else if (data.newStep) openPanel(`step/?type=${data.newStep}&${data.given || ""}`);
  else if (data.drop) change({ action: "add", step: { type: "drop_columns", columns: [data.drop] } }).then(closePanel);
});

function showAfter(button) {
  const last = margin.querySelectorAll("[data-after]").length;
  const now = button.getAttribute("aria-pressed") !== "true";
  for (const one of margin.querySelectorAll("[data-after]")) one.setAttribute("aria-pressed", "false");
  button.setAttribute("aria-pressed", String(now));
  const after = now && Number(button.dataset.after) < last ? button.dataset.after : "";
  say(after ? "The table as it is after this step. Press the step again to see it after all of them." : "");
  grid.show(after);
}

function another(button) {
  const rows = button.parentElement.querySelector("[data-rows]");
  const row = rows.lastElementChild.cloneNode(true);
  for (const field of row.querySelectorAll("input, textarea, select")) {
    if (field.type !== "checkbox") field.value = "";
  }
  rows.append(row);
  row.querySelector("input, select").focus();
}

page.addEventListener("change", (event) => {
  const field = event.target;
  if (field.matches("input[type=checkbox][data-change]")) change(JSON.parse(field.dataset.change));
  else if (field.matches("[data-add-step]") && field.value) {
    openPanel(`step/?type=${field.value}`);
    field.value = "";
  } else if (field.dataset.reading) change({ action: "reading", settings: { [field.dataset.reading]: field.value } });
  else if ("kind" in field.dataset) {
    const name = field.closest("[data-column]").dataset.column;
    openPanel(`column/?${new URLSearchParams({ name, kind: field.value, version: page.dataset.version })}`);
  } else if (field.closest("[data-reload]")) {
    const form = field.closest("form");
    const { stepType: type, stepAt: at } = form.dataset;
    const name = field.closest("[data-reload]").dataset.input;
    openPanel(`step/?${new URLSearchParams({ type, at, [name]: field.value })}`);
  }
});

page.addEventListener("submit", async (event) => {
  const form = event.target.closest("[data-step-type]");
  if (!form) return;
  event.preventDefault();
  const at = form.dataset.stepAt;
  const wanted = at ? { action: "replace", at: Number(at), step: readStep(form) } : { action: "add", step: readStep(form) };
  const data = await send(wanted);
  const problem = form.querySelector("[data-problem]");
  if (!data || data.message) {
    problem.textContent = data ? data.message : "The server cannot be reached.";
    problem.hidden = false;
    const typed = form.querySelector(".calculation input");
    if (typed && data && data.place) {
      typed.focus();
      typed.setSelectionRange(...data.place);
    }
  } else closePanel();
});

page.addEventListener("keydown", (event) => {
  // What is being typed is never thrown away by a key.
  const typing = event.target.closest("form.panel")?.contains(event.target) && event.target.matches("input, textarea, select");
  if (event.key === "Escape" && !panel.hidden && !typing) closePanel();
});

let waiting = 0;
page.querySelector("[data-find]").addEventListener("input", (event) => {
  clearTimeout(waiting);
  waiting = setTimeout(() => grid.find(event.target.value), 300);
});
page.querySelector("[data-go]").addEventListener("change", (event) => grid.goTo(Number(event.target.value)));
place.addEventListener("change", () => grid.goTo(Number(place.value)));

bindCalculations({ page, url });
grid.start();
