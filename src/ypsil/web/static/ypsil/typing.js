// Rows typed by hand: a small grid that grows, takes pasted cells, and is sent as a list of rows.

const form = document.querySelector("form.take-in");
const body = form.querySelector(".typed-rows tbody");

const rows = () => [...body.rows];
const field = (row, column) => rows()[row]?.cells[column]?.querySelector("input");

function placeOf(input) {
  const cell = input.closest("td, th");
  return [cell.parentElement.rowIndex, cell.cellIndex];
}

function addRow() {
  const row = body.insertRow();
  const number = body.rows.length - 1;
  for (let column = 0; column < body.rows[0].cells.length; column += 1) addCell(row, `Row ${number}, column ${column + 1}`);
}

function addCell(row, label, tag = "td") {
  const cell = document.createElement(tag);
  if (tag === "th") cell.scope = "col";
  const input = document.createElement("input");
  input.setAttribute("aria-label", label);
  cell.append(input);
  row.append(cell);
}

function addColumn() {
  const column = body.rows[0].cells.length + 1;
  rows().forEach((row, number) => {
    if (number) addCell(row, `Row ${number}, column ${column}`);
    else addCell(row, `Name of column ${column}`, "th");
  });
}

body.addEventListener("keydown", (event) => {
  const moves = { ArrowDown: 1, ArrowUp: -1, Enter: 1 };
  if (!(event.key in moves)) return;
  event.preventDefault();
  const [row, column] = placeOf(event.target);
  if (row + 1 === body.rows.length && moves[event.key] > 0) addRow();
  field(row + moves[event.key], column)?.focus();
});

body.addEventListener("paste", (event) => {
  const text = event.clipboardData.getData("text/plain");
  if (!/[\t\n]/.test(text.trim())) return;
  event.preventDefault();
  const [top, left] = placeOf(event.target);
  text.replace(/\r/g, "").replace(/\n$/, "").split("\n").forEach((line, down) => {
    line.split("\t").forEach((value, right) => {
      while (top + down >= body.rows.length) addRow();
      while (left + right >= body.rows[0].cells.length) addColumn();
      field(top + down, left + right).value = value;
    });
  });
});

form.addEventListener("click", (event) => {
  const more = event.target.closest("[data-more]");
  if (!more) return;
  if (more.dataset.more === "row") addRow();
  else addColumn();
});

form.addEventListener("submit", () => {
  const cells = rows().map((row) => [...row.cells].map((cell) => cell.querySelector("input").value));
  form.querySelector("[name=cells]").value = JSON.stringify(cells);
});

function showWay() {
  const way = form.querySelector("[name=way]:checked").value;
  for (const section of form.querySelectorAll("[data-way]")) section.hidden = section.dataset.way !== way;
}

form.addEventListener("change", (event) => event.target.name === "way" && showWay());
showWay();
