// The list beside a cloud: choosing a word there or in the drawing opens the answers with it.

import { replaceContent } from "./unfinished.js";

// How often somebody pressed something: whoever did since has gone on.
let presses = 0;
for (const kind of ["pointerdown", "keydown"]) document.addEventListener(kind, () => (presses += 1), true);

export function bindTerms({ view, url, saver }) {
  let asked = 0;

  async function open(term, by = "after") {
    const panel = view.margin.querySelector("[data-term-panel]");
    if (!panel) return;
    const mine = ++asked;
    const before = presses;
    const query = new URLSearchParams({ term, by });
    const reply = await fetch(`${url}tiles/${panel.dataset.of}/words/?${query}`).catch(() => null);
    if (mine !== asked || !panel.isConnected) return;
    if (!reply || reply.status >= 500) panel.textContent = "The answers cannot be reached now; try again in a moment.";
    else replaceContent(panel, await reply.text());
    // Whoever went on with something else meanwhile stays there: nothing moves under the pointer.
    if (presses !== before) return;
    panel.querySelector("#chosen-term")?.focus({ preventScroll: true });
    panel.scrollIntoView({ block: "nearest" });
  }

  async function put(tile) {
    const ticked = [...view.margin.querySelectorAll("[data-tick]:checked")].map((one) => one.value);
    const theme = view.margin.querySelector("#its-theme").value;
    await saver.flush();
    const reply = await saver.post(`tiles/${tile}/themes/`, { theme, terms: ticked });
    if (!reply) saver.onNotice("The server cannot be reached. Try again in a moment.");
    else if (reply.data.arrival) location.assign(reply.data.arrival);
    else if (reply.data.page === undefined) saver.onNotice(reply.data.message || "That could not be kept. Load the page again.");
    else {
      view.margin.querySelector("#its-theme").value = "";
      saver.take({ status: 200, data: reply.data }, null);
      saver.onState(reply.data.said);
    }
  }

  document.addEventListener("keydown", (event) => {
    if (event.key !== "Enter" || event.target.id !== "its-theme") return;
    event.preventDefault();
    put(view.chosen);
  });

  document.addEventListener("click", async (event) => {
    const themed = event.target.closest("[data-put-theme]");
    if (themed) put(themed.dataset.putTheme);
    const button = event.target.closest("[data-term]");
    if (button) open(button.dataset.term, button.dataset.by);
    const pick = event.target.closest("[data-pick]");
    // Pressed by the keyboard, a tile has no place that was meant.
    if (!pick || !event.detail) return;
    const word = wordAt(event.clientX, event.clientY, pick.parentElement);
    if (!word) return;
    await view.ready;
    open(wordOf(word));
  });
}

// The word whose middle is nearest: the boxes of letters reach into the words above and below.
function wordAt(x, y, tile) {
  const under = document.elementsFromPoint(x, y).filter((element) => element.matches("svg text") && tile.contains(element));
  const away = (element) => {
    const { top, height } = element.getBoundingClientRect();
    return Math.abs(top + height / 2 - y) / height;
  };
  return under.sort((one, other) => away(one) - away(other))[0];
}

// The text of a word without the title that says its count.
function wordOf(element) {
  const copy = element.cloneNode(true);
  copy.querySelector("title")?.remove();
  return copy.textContent;
}
