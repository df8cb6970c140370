// The keyboard on the page: moving, resizing and all that is done by a single key.

import { measures, placeOf, spoken } from "./geometry.js";

const PAUSE_MS = 260;
const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

export function bindKeys({ view, saver, send, say, commands, isBusy }) {
  let pending = null;
  let timer = 0;

  // Steps that follow each other are one edit.
  function flush() {
    clearTimeout(timer);
    if (!pending) return;
    const { kind, ids, x, y } = pending;
    pending = null;
    if (kind === "resize") send({ type: "resize_tiles", tiles: ids, right: x, foot: y });
    else if (kind === "px") send({ type: "move_tiles", tiles: ids, px: [x, y] });
    else send({ type: "move_tiles", tiles: ids, columns: x, rows: y });
  }

  function step(kind, [x, y]) {
    const tiles = view.chosenTiles();
    if (tiles.some((tile) => "locked" in tile.dataset)) return say("This is locked");
    if (pending && (pending.kind !== kind || String(pending.ids) !== String(view.several))) flush();
    pending ??= { kind, ids: [...view.several], x: 0, y: 0 };
    pending.x += x;
    pending.y += y;
    const { scale, pitch, row } = measures(view.page);
    const place = placeOf(tiles[0]);
    if (kind === "resize") {
      place.width += pending.x;
      place.height += pending.y;
    } else {
      const by = kind === "px" ? [pending.x * scale, pending.y * scale] : [pending.x * pitch * scale, pending.y * row * scale];
      view.hold(tiles);
      for (const tile of tiles) {
        tile.style.translate = `${by[0]}px ${by[1]}px`;
      }
      view.frame();
      if (kind !== "px") Object.assign(place, { column: place.column + pending.x, row: place.row + pending.y });
    }
    say(kind === "px" ? `${pending.x} px across, ${pending.y} px down` : spoken(place));
    clearTimeout(timer);
    timer = setTimeout(flush, PAUSE_MS);
  }

  document.addEventListener("keydown", (event) => {
    const typing = event.target.closest("input, textarea, select, [contenteditable=true], .writing-bar, .figure-panel");
    const isCommand = event.ctrlKey || event.metaKey;
    const key = event.key.toLowerCase();
    if (isCommand && key === "z" && !typing) {
      event.preventDefault();
      flush();
      return saver.step(event.shiftKey ? "redo" : "undo");
    }
    if (isCommand && key === "k") {
      event.preventDefault();
      return commands.open();
    }
    if (typing || isBusy()) return;
    const arrow = ARROWS[event.key];
    // Arrows move what is chosen where the keyboard is on the page, and scroll elsewhere.
    const isOnPage = document.activeElement === document.body || view.stage.contains(document.activeElement);
    if (arrow && view.several.length && isOnPage && !event.altKey) {
      event.preventDefault();
      return step(isCommand ? "px" : event.shiftKey ? "resize" : "move", arrow);
    }
    const found = commands.byKey(event, view.stage.contains(document.activeElement) || view.ladder.contains(document.activeElement));
    if (!found) return;
    event.preventDefault();
    flush();
    found.run();
  });
  return { flush };
}
