// A small grid of typed cells: it grows, takes pasted cells, and can be read and filled as rows of texts.

const rowsOf = (table) => [...table.tBodies[0].rows];
const fieldAt = (table, row, column) => rowsOf(table)[row]?.cells[column]?.querySelector("input");

export const readCells = (table) => rowsOf(table).map((row) => [...row.cells].map((cell) => cell.querySelector("input").value));

export function fillCells(table, rows) {
  table.tBodies[0].replaceChildren();
  rows.forEach((row, number) => {
    const line = table.tBodies[0].insertRow();
    row.forEach((text, column) => addCell(line, number, column).value = text);
  });
}

function addCell(row, number, column) {
  const cell = document.createElement(number ? "td" : "th");
  if (!number) cell.scope = "col";
  const input = document.createElement("input");
  input.setAttribute("aria-label", number ? `Row ${number}, column ${column + 1}` : `Name of column ${column + 1}`);
  cell.append(input);
  row.append(cell);
  return input;
}

function addRow(table) {
  const row = table.tBodies[0].insertRow();
  for (let column = 0; column < rowsOf(table)[0].cells.length; column += 1) addCell(row, row.rowIndex, column);
}

function addColumn(table) {
  const column = rowsOf(table)[0].cells.length;
  rowsOf(table).forEach((row, number) => addCell(row, number, column));
}

function paste(table, text, top, left) {
  text.replace(/\r/g, "").replace(/\n$/, "").split("\n").forEach((line, down) => {
    line.split("\t").forEach((value, right) => {
      while (top + down >= rowsOf(table).length) addRow(table);
      while (left + right >= rowsOf(table)[0].cells.length) addColumn(table);
      fieldAt(table, top + down, left + right).value = value;
    });
  });
}

const placeOf = (input) => [input.closest("tr").rowIndex, input.closest("td, th").cellIndex];

// Binds every grid inside ``root``, also those that come later; ``onChange`` is told of what typing does not tell.
export function bindCells(root, onChange = () => {}) {
  root.addEventListener("keydown", (event) => {
    const table = event.target.closest(".typed-rows");
    const moves = { ArrowDown: 1, ArrowUp: -1, Enter: 1 };
    if (!table || !(event.key in moves)) return;
    event.preventDefault();
    const [row, column] = placeOf(event.target);
    if (row + 1 === rowsOf(table).length && moves[event.key] > 0) addRow(table);
    fieldAt(table, row + moves[event.key], column)?.focus();
  });
  root.addEventListener("paste", (event) => {
    const table = event.target.closest(".typed-rows");
    const text = event.clipboardData.getData("text/plain");
    if (!table || !/[\t\n]/.test(text.trim())) return;
    event.preventDefault();
    paste(table, text, ...placeOf(event.target));
    onChange(table);
  });
  root.addEventListener("click", (event) => {
    const more = event.target.closest("[data-more]");
    if (!more) return;
    const table = more.closest("[data-cells]").querySelector(".typed-rows");
    if (more.dataset.more === "row") addRow(table);
    else addColumn(table);
    const last = rowsOf(table).at(more.dataset.more === "row" ? -1 : 0);
    last.cells[more.dataset.more === "row" ? 0 : last.cells.length - 1].querySelector("input").focus();
  });
}
