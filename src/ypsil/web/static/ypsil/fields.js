// Fields that change a tile, a band's message or the report's name when their value is settled.

export function bindFields({ send }) {
  document.addEventListener("change", (event) => {
    const field = event.target;
    const { of, field: name, message } = field.dataset;
    if (name) send({ type: "change_tile", tile: of, changes: { [name]: valueOf(field) } });
    else if (field.dataset.ofBand) send({ type: "change_band", band: of, changes: { [field.dataset.ofBand]: valueOf(field) } });
    else if (field.dataset.ground) sendGround(field, send);
    else if (field.dataset.card !== undefined) sendCard(field, send);
    else if (field.dataset.ofCard) sendOfCard(field, send);
    else if (field.dataset.solid) send({ type: "change_tiles", tiles: JSON.parse(field.dataset.solid), changes: { opacity: Number(field.value) / 100 } });
    else if (field.dataset.manner) sendManner(field, send);
    else if (field.dataset.ofIcons) sendOfIcons(field, send);
    else if (field.dataset.ofStyle) send({ type: "restyle", [field.dataset.ofStyle]: valueOf(field) });
    else if (field.dataset.ofCharts) send({ type: "restyle", charts: { [field.dataset.ofCharts]: valueOf(field) } });
    else if (field.dataset.roleOfStyle) send({ type: "restyle", colours: { [field.dataset.roleOfStyle]: field.value } });
    else if (field.dataset.seriesAt) sendSeries(field, send);
    else if (field.dataset.pageFormat !== undefined) send({ type: "set_format", name: field.value });
    else if (field.dataset.ofReport) send({ type: "change_report", changes: { [field.dataset.ofReport]: field.value } });
    else if (field.dataset.option) sendOption(field, send);
    else if (message) send({ type: "set_message", band: message, message: field.value });
    else if ("rename" in field.dataset && field.value.trim()) send({ type: "rename", title: field.value.trim() });
  });
}

function sendOption(field, send) {
  const holder = field.closest("[data-options]");
  const options = JSON.parse(holder.dataset.options);
  const value = valueOf(field);
  if (options[field.dataset.option] === value) return;
  options[field.dataset.option] = value;
  holder.dataset.options = JSON.stringify(options);
  // Only what was changed here: an older margin does not know what was set in the meantime.
  send({ type: "set_options", tile: holder.dataset.of, options: { [field.dataset.option]: value } });
}

// What a band stands on: its fields say it together.
function sendGround(field, send) {
  const holder = field.closest("[data-ground-of]");
  const said = Object.fromEntries(Array.from(holder.querySelectorAll("[data-ground]"), (one) => [one.dataset.ground, one.value]));
  // A picture is dimmed with a colour, and text on it is made for that.
  if (said.picture && !said.colour) said.colour = "deep";
  const ground = said.colour ? said : null;
  send({ type: "change_band", band: holder.dataset.groundOf, changes: { ground } });
}

// Whether something stands on a card, and in which fill.
function sendCard(field, send) {
  const tiles = JSON.parse(field.dataset.card);
  if (field.value === "none") send({ type: "change_tiles", tiles, changes: { card: null } });
  else send({ type: "change_cards", tiles, changes: { fill: field.value === "usual" ? null : field.value } });
}

// One thing of the cards behind what is chosen; what is left open is as in the whole report.
function sendOfCard(field, send) {
  const { tiles } = field.closest("[data-tiles]").dataset;
  const { ofCard: name, kind } = field.dataset;
  const value = kind === "said" ? JSON.parse(field.value) : valueOf(field);
  send({ type: "change_cards", tiles: JSON.parse(tiles), changes: { [name]: value } });
}

// How all icons of the report are drawn.
function sendOfIcons(field, send) {
  const icons = { ...JSON.parse(field.closest("[data-icon-manner]").dataset.iconManner), [field.dataset.ofIcons]: valueOf(field) };
  send({ type: "change_report", changes: { icons } });
}

// One colour of the series; the first is that of emphasis, too.
function sendSeries(field, send) {
  const palette = JSON.parse(field.closest("[data-series]").dataset.series);
  const place = Number(field.dataset.seriesAt);
  palette[place] = field.value;
  send({ type: "restyle", colours: place ? { palette } : { palette, accent: field.value } });
}

function sendManner(field, send) {
  const holder = field.closest("[data-cards]");
  const cards = { ...JSON.parse(holder.dataset.cards), [field.dataset.manner]: valueOf(field) };
  send({ type: "change_report", changes: { cards } });
}

// The look of one chart for all that are ticked, as one edit.
export function bindLooks({ send }) {
  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-tick-all], [data-give-look]");
    const boxes = [...(button?.closest("[data-looks]").querySelectorAll("[data-look]") ?? [])];
    if (!button) return;
    if ("tickAll" in button.dataset) for (const box of boxes) box.checked = true;
    else {
      const ticked = boxes.filter((box) => box.checked);
      if (!ticked.length) return;
      window.bootstrap.Dropdown.getOrCreateInstance(button.closest(".dropdown").querySelector("[data-bs-toggle]")).hide();
      send({ type: "change_looks", options: Object.fromEntries(ticked.map((box) => [box.dataset.look, JSON.parse(box.dataset.options)])) });
    }
  });
}

// The table of numbers as text that spreadsheets take in.
export async function copyNumbers(button) {
  const rows = [...button.closest("[data-margin], aside, body").querySelectorAll("table.data tr")];
  const text = rows.map((row) => [...row.cells].map((cell) => cell.textContent.trim()).join("\t")).join("\n");
  const done = await navigator.clipboard.writeText(text).then(() => true, () => false);
  button.textContent = done ? "Copied" : "The browser does not let pages copy";
}

// A choice of the sentence with blanks: what is typed goes to its place in the question.
export function filledEdit(group) {
  const edit = JSON.parse(group.dataset.blanks);
  for (const input of group.querySelectorAll("input, select")) {
    if (!input.reportValidity()) return null;
    const path = JSON.parse(input.dataset.path);
    const last = path.pop();
    const holder = path.reduce((inner, key) => inner[key], edit);
    holder[last] = "words" in input.dataset ? wordsIn(input.value) : valueOf(input);
  }
  return edit;
}

const wordsIn = (text) => text.split(",").map((word) => word.trim()).filter(Boolean);

function valueOf(field) {
  if (field.type === "checkbox") return field.checked;
  if (field.value === "" && field.dataset.empty === "null") return null;
  return field.type === "number" ? Number(field.value) : field.value;
}
