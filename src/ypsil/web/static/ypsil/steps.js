// From a step's form to the step as data. What the values mean is decided by the server.

const lines = (text) => text.split("\n").map((line) => line.trim()).filter(Boolean);

const READERS = {
  yesno: (box) => box.querySelector("[data-value]").checked,
  number: (box) => (value(box) === "" ? undefined : Number(value(box))),
  columns: (box) => [...box.querySelectorAll("input:checked")].map((tick) => tick.value),
  values: (box) => lines(value(box)),
  other_columns: (box) => [...box.querySelectorAll("input:checked")].map((tick) => tick.value),
  pairs: (box) => rowsOf(box).filter((row) => row.first !== "").map((row) => ({ old: row.first, new: row.second })),
  key: (box) => rowsOf(box).filter((row) => row.first).map((row) => ({ here: row.first, there: row.second })),
  order: (box) => rowsOf(box).filter((row) => row.first).map((row) => ({ column: row.first, descending: row.descending })),
  groups: (box) => rowsOf(box).filter((row) => row.ticked && row.first && lines(row.second).length).map((row) => ({ to: row.first, spellings: lines(row.second) })),
  conditions: (box) => rowsOf(box).filter((row) => row.first).map((row) => ({ column: row.first, test: row.test, values: ["empty", "not_empty"].includes(row.test) ? [] : row.second.split(",").map((part) => part.trim()).filter(Boolean) })),
};

function value(box) {
  return box.querySelector("[data-value]").value;
}

function rowsOf(box) {
  return [...box.querySelectorAll("[data-row]")].map((row) => ({
    first: row.querySelector("[data-first]").value.trim(),
    second: row.querySelector("[data-second]")?.value ?? "",
    test: row.querySelector("[data-test]")?.value,
    descending: row.querySelector("[data-descending]")?.checked ?? false,
    ticked: row.querySelector("[data-ticked]")?.checked ?? true,
  }));
}

export function readStep(form) {
  const step = { type: form.dataset.stepType };
  for (const box of form.querySelectorAll("[data-input]")) {
    const { input: name, inputKind: kind } = box.dataset;
    const read = READERS[kind] ? READERS[kind](box) : value(box);
    const empty = read === undefined || read === "" || (Array.isArray(read) && !read.length);
    if (empty && ("optional" in box.dataset || kind === "number")) continue;
    step[name] = read;
    const chosen = kind === "table" ? box.querySelector("option:checked") : null;
    if (chosen) step.table_name = chosen.dataset.name || "";
  }
  return step;
}
