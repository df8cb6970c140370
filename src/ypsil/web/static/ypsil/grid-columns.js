// The grid's columns: how each is headed, and how its cells are shown.

export const ROW_HEAD = {
  title: "Row",
  field: "n",
  width: 76,
  frozen: true,
  headerSort: false,
  resizable: false,
  cssClass: "row-number",
  formatter: (cell) => cell.getValue().toLocaleString("en"),
};

export function columnsOf(heads, first, { editable, onColumn }) {
  return heads.map((head, index) => ({
    title: head.name,
    field: `c${first + index}`,
    hozAlign: head.number ? "right" : "left",
    cssClass: head.number ? "number" : "",
    titleFormatter: () => heading(head, onColumn),
    formatter: shown,
    headerFilter: head.plain ? false : "input",
    headerFilterPlaceholder: "filter",
    headerFilterParams: {
      elementAttributes: { "aria-label": `Filter ${head.name}`, title: "Text to find, or a comparison such as > 100, or missing" },
    },
    headerSort: !head.plain,
    editor: editable && !head.plain ? "input" : false,
  }));
}

function heading(head, onColumn) {
  const box = document.createElement("div");
  box.className = "head";
  const name = document.createElement(head.plain ? "span" : "button");
  name.className = "name";
  if (!head.plain) {
    name.type = "button";
    name.title = "Look at this column closely";
    name.addEventListener("click", (event) => {
      event.stopPropagation();
      onColumn(head.name);
    });
  }
  const sign = document.createElement("span");
  sign.className = `kind kind-${head.kind}`;
  sign.setAttribute("aria-hidden", "true");
  sign.textContent = head.sign || "";
  name.append(sign, ` ${head.name}`);
  const facts = document.createElement("small");
  facts.textContent = [head.kind_word, head.unit && `in ${head.unit}`, head.missing && `${head.missing.toLocaleString("en")} missing`].filter(Boolean).join(" · ");
  box.append(name, facts);
  if (head.svg) box.insertAdjacentHTML("beforeend", head.svg);
  return box;
}

function shown(cell) {
  const value = cell.getValue();
  if (value !== null) {
    const text = document.createElement("span");
    text.dir = "auto";
    text.textContent = value;
    return text;
  }
  const missing = document.createElement("span");
  missing.className = "missing";
  missing.textContent = "missing";
  return missing;
}
