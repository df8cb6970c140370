// A few numbers typed at the tile: drawn with every keystroke, kept when their grid is left.

import { bindCells, fillCells, readCells } from "./cells.js";

const PAUSE_MS = 200;

export const textOf = (table) => readCells(table).map((row) => row.join("\t")).join("\n");

// Whether somebody is at these numbers, or they are not kept yet.
export const isUnfinished = (table) => table.contains(document.activeElement) || textOf(table) !== table.dataset.kept;

export function bindNumbers({ saver, view, chooser, send }) {
  let pause = 0;

  const tableOf = (element) => element.closest("[data-cells]").querySelector(".typed-rows");

  function tell(table, text) {
    const problem = table.closest("[data-cells]").querySelector("[data-few-problem]");
    problem.textContent = text;
    problem.hidden = !text;
  }

  async function ask(path, table, more = {}) {
    const asked = textOf(table);
    const reply = await saver.post(path, { text: asked, ...more });
    // A late reply says nothing about what has been typed since.
    if (asked === textOf(table)) tell(table, reply ? reply.data.message || "" : "The server cannot be reached. Try again in a moment.");
    return reply && reply.status < 400 ? reply.data : null;
  }

  async function draw(table) {
    const id = table.dataset.typed;
    const typed = textOf(table);
    const data = await ask(`tiles/${id}/drawn/`, table);
    const svg = view.tile(id)?.querySelector("svg");
    if (data && svg && typed === textOf(table)) {
      svg.outerHTML = data.svg;
      // Not what is kept.
      view.tile(id).dataset.digest = "";
    }
  }

  function drawSoon(table) {
    if (!table.dataset.typed) return;
    clearTimeout(pause);
    pause = setTimeout(() => draw(table), PAUSE_MS);
  }

  async function keep(table) {
    clearTimeout(pause);
    const typed = textOf(table);
    const data = await ask(`tiles/${table.dataset.typed}/kept/`, table);
    if (!data) return;
    table.dataset.kept = typed;
    saver.take({ status: 200, data }, null);
  }

  async function start(button) {
    const data = await ask(`bands/${button.dataset.few}/numbers/`, tableOf(button), { visual: button.dataset.as ?? "" });
    if (!data) return;
    chooser.close();
    send(data.edit);
  }

  async function turn(button) {
    const table = tableOf(button);
    const data = await ask(`tiles/${button.dataset.turn}/turned/`, table);
    if (!data) return;
    fillCells(table, data.text.split("\n").map((line) => line.split("\t")));
    await keep(table);
  }

  bindCells(document, drawSoon);
  document.addEventListener("input", (event) => {
    const table = event.target.closest(".typed-rows[data-typed]");
    if (table) drawSoon(table);
  });
  document.addEventListener("focusout", (event) => {
    const table = event.target.closest(".typed-rows[data-typed]");
    if (table && !table.contains(event.relatedTarget) && textOf(table) !== table.dataset.kept) keep(table);
  });
  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-few], [data-turn]");
    if (!button) return;
    if (button.dataset.few) start(button);
    else turn(button);
  });
}
