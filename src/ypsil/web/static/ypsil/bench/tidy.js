// Tidying a band at one press: first it is shown where everything would stand, then it is done.

import { measures, rectIn } from "./geometry.js";
import { piece } from "./guides.js";

export function bindTidy({ view, stage, url, send }) {
  const layer = stage.querySelector("[data-guides]");
  const bar = document.querySelector("[data-tidy-bar]");
  let band = null;

  async function open(id) {
    const response = await fetch(`${url}bands/${id}/tidy/`, { headers: { Accept: "application/json" } }).catch(() => null);
    if (!response?.ok) return;
    const { frames, moves } = await response.json();
    band = id;
    show(id, frames);
    bar.querySelector("[data-tidy-said]").textContent = moves ? `Tidied, the tiles would stand as outlined: ${moves} of ${frames.length} change.` : "The band is tidy already.";
    bar.querySelector("[data-tidy-do]").hidden = !moves;
    bar.hidden = false;
    bar.querySelector(moves ? "[data-tidy-do]" : "[data-tidy-leave]").focus();
  }

  function show(id, frames) {
    const section = view.page.querySelector(`[data-band="${CSS.escape(id)}"]`);
    const { scale, pitch, row, gutter } = measures(view.page);
    const grid = rectIn(stage, section.querySelector(".grid"));
    const head = Number(section.dataset.head || 0);
    layer.replaceChildren(
      ...frames.map((frame) =>
        piece("would-be", {
          left: grid.left + frame.column * pitch * scale,
          top: grid.top + (frame.row + head) * row * scale,
          width: (frame.width * pitch - gutter) * scale,
          height: frame.height * row * scale,
        }),
      ),
    );
    section.scrollIntoView({ block: "nearest" });
  }

  // The keyboard goes back to the band.
  function close() {
    bar.hidden = true;
    layer.replaceChildren();
    view.ladder.querySelector(`[data-go="${CSS.escape(band)}"]`)?.focus();
  }

  bar.addEventListener("click", (event) => {
    if (event.target.closest("[data-tidy-do]")) send({ type: "tidy_band", band });
    if (event.target.closest("[data-tidy-do], [data-tidy-leave]")) close();
  });
  bar.addEventListener("keydown", (event) => {
    if (event.key !== "Escape") return;
    event.stopPropagation();
    close();
  });
  document.addEventListener("tidy-band", (event) => open(event.detail));
  return { open };
}
