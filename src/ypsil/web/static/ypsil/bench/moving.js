// Moving and resizing by mouse and touch: what is held follows at once, and becomes one edit when it is let go.

import { Guides, snap } from "./guides.js";
import { alongTurned, measures, meets, moved, placeOf, rect, rectIn, spoken, turnOf, union } from "./geometry.js";

const FIRST_PX = 4;
const SCROLL_ZONE_PX = 40;
const SCROLL_STEP_PX = 14;
const EDGE_PX = 0.3;
const NEAR_PX = 900;
const TURN_STEP = 15;
const TURN_NEAR = 3;

export function bindMoving({ view, stage, board, send, say }) {
  const guides = new Guides(stage.querySelector("[data-guides]"));
  const label = stage.querySelector("[data-measure]");
  // While something is held, what lies under it is not looked for, and looks the same.
  const pane = stage.querySelector("[data-holding]");
  let held = null;
  let hasMoved = false;

  stage.addEventListener("pointerdown", (event) => {
    if (event.button || held || event.target.closest("textarea, .typing, .writing-bar, .figure-panel")) return;
    const handle = event.target.closest("[data-edge]");
    const tile = event.target.closest("[data-pick]")?.closest("[data-tile]");
    if (handle) begin(event, resizing(handle.dataset.edge, handle));
    else if (event.target.closest("[data-turning]")) begin(event, turning());
    else if (event.target.closest("[data-connecting]")) begin(event, connecting());
    else if (tile && !event.shiftKey && !(event.ctrlKey || event.metaKey)) {
      // A finger that passes over what is not chosen scrolls the page.
      if (event.pointerType === "touch" && !view.isChosen(tile)) return;
      begin(event, moving(tile));
    } else if (!tile && !event.target.closest("button, a, input, textarea, select, details")) begin(event, framing(event));
  });

  // Pulling what is no button would choose the words of the page: to find them takes longer than to draw it. What the
  // keyboard was in is left all the same.
  stage.addEventListener("mousedown", (event) => {
    if (!held || event.target.closest("[data-pick]")) return;
    event.preventDefault();
    if (!event.target.closest("[data-frame]")) document.activeElement?.blur();
  });

  function begin(event, kind) {
    hasMoved = false;
    if (!kind) return;
    held = { ...kind, pointer: event.pointerId, x: event.clientX, y: event.clientY, scroll: board.scrollTop, last: event, frame: 0 };
  }

  window.addEventListener("pointermove", (event) => {
    if (!held || event.pointerId !== held.pointer) return;
    held.last = event;
    if (!hasMoved) {
      if (Math.hypot(event.clientX - held.x, event.clientY - held.y) < FIRST_PX) return;
      hasMoved = true;
      held.start();
      pane.hidden = false;
      view.held = new Promise((free) => (held.free = free));
    }
    held.frame ||= requestAnimationFrame(follow);
  });

  function follow() {
    if (!held) return;
    held.frame = 0;
    const { clientX: x, clientY: y } = held.last;
    const edge = board.getBoundingClientRect();
    const by = y < edge.top + SCROLL_ZONE_PX ? -SCROLL_STEP_PX : y > edge.bottom - SCROLL_ZONE_PX ? SCROLL_STEP_PX : 0;
    const before = board.scrollTop;
    if (by) board.scrollTop += by;
    held.to(x - held.x, y - held.y + board.scrollTop - held.scroll, held.last);
    if (by && board.scrollTop !== before) held.frame = requestAnimationFrame(follow);
  }

  function clear() {
    guides.clear();
    label.hidden = true;
  }

  // Ends what is held; returns it where it was moved at all.
  function letGo() {
    const kind = held;
    held = null;
    cancelAnimationFrame(kind.frame);
    if (!hasMoved) return null;
    pane.hidden = true;
    kind.free();
    clear();
    return kind;
  }

  const end = (event) => {
    // The press that ends a move is over once its click is told, wherever that was.
    setTimeout(() => (hasMoved = false));
    if (!held || event.pointerId !== held.pointer) return;
    const kind = letGo();
    if (!kind) return;
    if (event.type === "pointercancel") return kind.cancel();
    kind.to(event.clientX - kind.x, event.clientY - kind.y + board.scrollTop - kind.scroll, event);
    clear();
    kind.drop(event);
  };
  window.addEventListener("pointerup", end);
  window.addEventListener("pointercancel", end);
  window.addEventListener("keydown", (event) => {
    if (event.key !== "Escape" || !held || !hasMoved) return;
    event.stopImmediatePropagation();
    letGo().cancel();
  }, true);
  // What was moved is not chosen anew by the press that ends it.
  stage.addEventListener("click", (event) => {
    if (!hasMoved) return;
    event.stopPropagation();
    event.preventDefault();
  }, true);

  function scene(tiles) {
    const taken = new Set(tiles);
    const others = view.tiles().filter((tile) => !taken.has(tile) && !("joins" in tile.dataset)).map((tile) => rectIn(stage, tile));
    const size = measures(view.page);
    const sheet = rectIn(stage, view.page);
    const inner = rect(sheet.left + size.left * size.scale, sheet.top, sheet.width - (size.left + size.right) * size.scale, sheet.height);
    return { size, sheet, inner, place: placeOf(tiles[0]), others: [...others, { ...inner, isPage: true }], box: union(tiles.map((tile) => rectIn(stage, tile))) };
  }

  function measure(said, box) {
    label.textContent = said;
    label.hidden = false;
    Object.assign(label.style, { left: `${box.left}px`, top: `${Math.max(0, box.top - 26)}px` });
  }

  function moving(tile) {
    let here = null;
    let tiles = [];
    let by = { x: 0, y: 0 };
    return {
      start() {
        if (!view.isChosen(tile)) view.choose(view.idOf(tile));
        tiles = view.chosenTiles().filter((one) => !("locked" in one.dataset || "joins" in one.dataset));
        if (!tiles.length) return;
        here = scene(tiles);
        view.hold(tiles);
        view.hideFrame();
      },
      to(x, y, event) {
        if (!here) return;
        const { size, inner, others, box } = here;
        const near = others.filter(isNear(moved(box, x, y)));
        const at = { x, y };
        if (!event.altKey) {
          const free = moved(box, x, y);
          const step = { x: size.pitch * size.scale, y: size.row * size.scale };
          for (const axis of ["x", "y"]) {
            const by = snap(free, near, axis);
            at[axis] = by === null ? Math.round(at[axis] / step[axis]) * step[axis] : at[axis] + by;
          }
        }
        at.x = Math.max(inner.left - box.left, Math.min(inner.right - box.right, at.x));
        by = at;
        for (const one of tiles) one.style.translate = `${at.x}px ${at.y}px`;
        const there = moved(box, at.x, at.y);
        guides.show(there, near, size.scale);
        const { place } = here;
        const [columns, rows] = [Math.round(at.x / size.scale / size.pitch), Math.round(at.y / size.scale / size.row)];
        measure(spoken({ ...place, column: place.column + columns, row: place.row + rows }), there);
      },
      drop(event) {
        if (here) drop(tiles, here, by, event);
      },
      cancel() {
        view.release();
      },
    };
  }

  function drop(tiles, { size, box }, by, event) {
    const page = { x: by.x / size.scale, y: by.y / size.scale };
    const columns = Math.round(page.x / size.pitch);
    const there = moved(box, by.x, by.y);
    const bands = [...view.page.querySelectorAll("[data-band]")];
    const home = tiles[0].closest("[data-band]");
    const pointer = event.clientY;
    const over = bands.find((band) => pointer <= band.getBoundingClientRect().bottom) ?? bands.at(-1);
    const edit = { type: "move_tiles", tiles: [...new Set(tiles.map((one) => view.idOf(one)))], columns };
    const rest = { x: page.x - columns * size.pitch, y: 0 };
    if (over === home || tiles.some((tile) => tile.closest("[data-band]") !== home)) {
      edit.rows = Math.round(page.y / size.row);
      rest.y = page.y - edit.rows * size.row;
    } else {
      const top = Math.min(...tiles.map((tile) => placeOf(tile).row));
      const grid = rectIn(stage, over.querySelector(".grid"));
      const head = Number(over.dataset.head || 0);
      edit.band = over.dataset.band;
      edit.rows = Math.max(0, Math.round((there.top - grid.top) / size.scale / size.row) - head) - top;
    }
    if (Math.abs(rest.x) > EDGE_PX || Math.abs(rest.y) > EDGE_PX) edit.px = [round(rest.x), round(rest.y)];
    if (!edit.columns && !edit.rows && !edit.px && !edit.band) return view.release();
    say(label.textContent);
    send(edit);
  }

  function resizing(edge, handle) {
    let here = null;
    let tiles = [];
    let by = {};
    return {
      start() {
        tiles = view.chosenTiles();
        here = scene(tiles);
        handle.classList.add("held");
      },
      to(x, y, event) {
        const { size, box, others, inner } = here;
        const turn = tiles.length === 1 ? turnOf(tiles[0]) : 0;
        if (turn) [x, y] = alongTurned(x, y, turn);
        const step = { x: size.pitch * size.scale, y: size.row * size.scale };
        const own = { ...box };
        if (edge.includes("w")) own.left = Math.max(inner.left, Math.min(box.right - step.x / 2, box.left + x));
        if (edge.includes("e")) own.right = Math.min(inner.right, Math.max(box.left + step.x / 2, box.right + x));
        if (edge.includes("n")) own.top = Math.min(box.foot - step.y, box.top + y);
        if (edge.includes("s")) own.foot = Math.max(box.top + step.y, box.foot + y);
        const whole = (from, to, length) => Math.round((to - from) / length);
        by = { left: whole(box.left, own.left, step.x), right: whole(box.right, own.right, step.x), top: whole(box.top, own.top, step.y), foot: whole(box.foot, own.foot, step.y) };
        if (event.shiftKey) keepProportions(by, edge, box, step);
        const left = box.left + by.left * step.x;
        const top = box.top + by.top * step.y;
        const there = rect(left, top, box.right + by.right * step.x - left, box.foot + by.foot * step.y - top);
        view.showFrame(there, false, turn);
        if (!turn) guides.show(there, others.filter(isNear(there)), size.scale);
        const { place } = here;
        measure(`${place.width - by.left + by.right} columns, ${place.height - by.top + by.foot} rows`, there);
      },
      drop() {
        handle.classList.remove("held");
        if (!Object.values(by).some(Boolean)) return view.frame();
        say(label.textContent);
        send({ type: "resize_tiles", tiles: view.several, ...by });
      },
      cancel() {
        handle.classList.remove("held");
        view.frame();
      },
    };
  }

  // The handle above a frame turns what is chosen about its middle.
  function turning() {
    let tile = null;
    let from = 0;
    let now = 0;
    return {
      start() {
        [tile] = view.chosenTiles();
        from = now = turnOf(tile);
        view.hold([tile]);
      },
      to(_x, _y, event) {
        const box = tile.getBoundingClientRect();
        const [x, y] = [event.clientX - (box.left + box.right) / 2, event.clientY - (box.top + box.bottom) / 2];
        now = turnedTo((Math.atan2(y, x) * 180) / Math.PI + 90, event);
        tile.style.rotate = `${now}deg`;
        const there = rectIn(stage, tile);
        view.showFrame(there, false, now);
        measure(degrees(now), there);
      },
      drop() {
        if (now === from) return view.release();
        say(`Turned to ${degrees(now)}`);
        send({ type: "turn_tiles", tiles: view.several, by: now - from });
      },
      cancel() {
        view.release();
      },
    };
  }

  // The handle below a frame is pulled to what it is to be connected with.
  function connecting() {
    const from = view.chosen;
    const line = stage.querySelector("[data-pulled]");
    let target = null;
    const aim = (tile) => {
      target?.classList.remove("target");
      target = tile;
      target?.classList.add("target");
    };
    const end = () => {
      line.setAttribute("hidden", "");
      aim(null);
    };
    return {
      start() {
        line.removeAttribute("hidden");
      },
      to(_x, _y, event) {
        const outer = stage.getBoundingClientRect();
        const box = union(view.chosenTiles().map((tile) => rectIn(stage, tile)));
        const ends = { x1: (box.left + box.right) / 2, y1: (box.top + box.foot) / 2, x2: event.clientX - outer.left, y2: event.clientY - outer.top };
        for (const [name, value] of Object.entries(ends)) line.firstElementChild.setAttribute(name, value);
        const under = document.elementsFromPoint(event.clientX, event.clientY).map((one) => one.closest("[data-tile]:not([data-joins])"));
        aim(under.find((tile) => tile && view.page.contains(tile) && view.idOf(tile) !== from) ?? null);
      },
      drop() {
        const to = target && view.idOf(target);
        end();
        if (to) send({ type: "connect_tiles", tiles: [from, to] });
      },
      cancel: end,
    };
  }

  // A frame drawn over the page chooses what it meets.
  function framing(event) {
    const outer = stage.getBoundingClientRect();
    const from = { x: event.clientX - outer.left, y: event.clientY - outer.top };
    let box = null;
    return {
      start() {},
      to(x, y) {
        box = rect(Math.min(from.x, from.x + x), Math.min(from.y, from.y + y), Math.abs(x), Math.abs(y));
        view.showFrame(box, true);
      },
      drop() {
        const met = view.tiles().filter((tile) => meets(rectIn(stage, tile), box));
        view.choose([...new Set(met.map((tile) => view.idOf(tile)))]);
      },
      cancel() {
        view.frame();
      },
    };
  }
}

function keepProportions(by, edge, box, step) {
  const ratio = box.height / box.width;
  const wider = by.right - by.left;
  if (edge === "n" || edge === "s") {
    by.right = Math.round(((by.foot - by.top) * step.y) / ratio / step.x);
    return;
  }
  const rows = Math.round((wider * step.x * ratio) / step.y);
  if (edge.includes("n")) by.top = -rows;
  else by.foot = rows;
}

// What is far above or below is lined up with by nobody.
const isNear = (box) => (other) => other.isPage || (other.top < box.foot + NEAR_PX && other.foot > box.top - NEAR_PX);

// Near a step it stands on it, unless Alt holds that off; with Shift only steps are taken.
function turnedTo(free, { altKey, shiftKey }) {
  const step = Math.round(free / TURN_STEP) * TURN_STEP;
  const found = altKey ? free : shiftKey || Math.abs(free - step) <= TURN_NEAR ? step : free;
  const whole = Math.round(found) % 360;
  return whole > 180 ? whole - 360 : whole;
}

const degrees = (turn) => `${turn}°`;

const round = (px) => Math.round(px * 100) / 100;
