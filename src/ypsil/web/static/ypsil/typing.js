// Taking in a table by hand: which way is shown, and the typed cells as a list of rows.

import { bindCells, readCells } from "./cells.js";

const form = document.querySelector("form.take-in");

bindCells(form);

form.addEventListener("submit", () => {
  form.querySelector("[name=cells]").value = JSON.stringify(readCells(form.querySelector(".typed-rows")));
});

function showWay() {
  const way = form.querySelector("[name=way]:checked").value;
  for (const section of form.querySelectorAll("[data-way]")) section.hidden = section.dataset.way !== way;
}

form.addEventListener("change", (event) => event.target.name === "way" && showWay());
showWay();
