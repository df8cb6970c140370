// The page on the bench: choosing a tile, typing straight into a text, showing what the server drew.

import { rectIn, turnOf, union } from "./bench/geometry.js";
import { isUnfinished } from "./numbers.js";
import { applyPatch } from "./patch.js";
import { replaceContent } from "./unfinished.js";

const LOOKED_AT_MS = 1600;

// Edits after which what they put on the page is chosen.
const CHOSEN_AFTER = new Set(["add_tile", "put_instead", "fill_tile", "empty_tile", "paste_tiles", "duplicate_tiles", "connect_tiles"]);

export class PageView {
  constructor({ page, stage, margin, ladder, url, send }) {
    Object.assign(this, { page, stage, margin, ladder, url, send });
    this.several = [];
    this.band = null;
    this.entered = null;
    this.waiting = null;
    this.asked = 0;
    this.frameShown = stage.querySelector("[data-frame]");
    page.addEventListener("click", (event) => {
      const pick = event.target.closest("[data-pick]");
      const band = event.target.closest("[data-band]");
      // Where nothing stands, the band itself is chosen.
      if (!pick && band && !event.target.closest("button, a, input, textarea, summary, .typing")) return this.choose(null, false, band.dataset.band);
      if (!pick) return;
      const tile = pick.closest("[data-tile]");
      if (event.shiftKey || event.ctrlKey || event.metaKey) this.toggle(this.idOf(tile));
      // Words are typed into a form by a second press, or by a key.
      else this.choose(this.idOf(tile), isTypedAtOnce(tile) || event.detail === 0);
    });
    // A second press enters a group: then what stands in it is chosen by itself.
    page.addEventListener("dblclick", (event) => {
      const tile = event.target.closest("[data-tile]");
      if (tile && !isTypedAtOnce(tile) && !tile.dataset.group) this.choose(tile.dataset.tile, true);
      if (!tile?.dataset.group) return;
      this.entered = tile.dataset.group;
      this.choose(tile.dataset.tile, true);
    });
  }

  // What is chosen where it is one thing alone.
  get chosen() {
    return this.several.length === 1 ? this.several[0] : null;
  }

  tiles() {
    return [...this.page.querySelectorAll("[data-tile]:has(> [data-pick])")];
  }

  // A tile is chosen with the group that it stands in, unless somebody is in there.
  idOf(tile) {
    const { group, tile: id } = tile.dataset;
    return group && group !== this.entered ? group : id;
  }

  isChosen(tile) {
    return this.several.includes(this.idOf(tile));
  }

  chosenTiles() {
    return this.tiles().filter((tile) => this.isChosen(tile));
  }

  toggle(id) {
    const without = this.several.filter((one) => one !== id);
    this.choose(without.length < this.several.length ? without : [...this.several, id]);
  }

  isThere(id) {
    const name = CSS.escape(id);
    return this.page.querySelector(`[data-tile="${name}"], [data-group="${name}"]`) !== null;
  }

  // The frame round what is chosen, with the handles that resize it.
  frame() {
    const tiles = this.chosenTiles();
    if (!tiles.length) return this.hideFrame();
    this.showFrame(union(tiles.map((tile) => rectIn(this.stage, tile))), false, tiles.length === 1 ? turnOf(tiles[0]) : 0);
    this.frameShown.classList.toggle("turns", tiles.length === 1 && "turned" in tiles[0].dataset);
    const isLine = tiles.every((tile) => "joins" in tile.dataset);
    this.frameShown.classList.toggle("joins", isLine);
    this.frameShown.classList.toggle("connects", this.several.length === 1 && !isLine);
    this.frameShown.classList.toggle("locked", tiles.some((tile) => "locked" in tile.dataset));
  }

  showFrame(box, isDrawn = false, turn = 0) {
    const { left, top, width, height } = box;
    this.frameShown.hidden = false;
    this.frameShown.classList.toggle("drawn", isDrawn);
    Object.assign(this.frameShown.style, { left: `${left}px`, top: `${top}px`, width: `${width}px`, height: `${height}px`, rotate: turn ? `${turn}deg` : "" });
  }

  hideFrame() {
    this.frameShown.hidden = true;
  }

  // Tiles that follow the hand lie over all others, also over those of later bands.
  hold(tiles) {
    for (const tile of tiles) {
      tile.classList.add("moving");
      tile.closest("[data-band]").classList.add("moves");
    }
    const held = new Set(tiles.flatMap((tile) => [tile.dataset.tile, tile.dataset.group]));
    for (const line of this.page.querySelectorAll("[data-joins]")) line.classList.toggle("trails", line.dataset.joins.split(" ").some((id) => held.has(id)));
  }

  // What was moved by hand stands where the layout has it again.
  release() {
    for (const band of this.page.querySelectorAll(".moves")) band.classList.remove("moves");
    for (const line of this.page.querySelectorAll(".trails")) line.classList.remove("trails");
    for (const tile of this.page.querySelectorAll(".moving")) {
      tile.classList.remove("moving");
      tile.style.translate = tile.style.rotate = "";
    }
    this.frame();
  }

  // Shows what an edit changed. A page that is drawn anew as a whole waits while somebody types into a text.
  show(data, edit) {
    if (!data.patch && this.page.querySelector(".typing")) {
      this.waiting = data;
      return;
    }
    this.waiting = null;
    this.latest = data;
    const sheet = this.newSheet(data.layout);
    if (!sheet) return this.draw(data, edit);
    // Tiles are drawn once the style sheet that puts them in their places is there.
    sheet.onload = sheet.onerror = () => {
      if (this.latest === data) this.draw(data, edit);
    };
    document.head.append(sheet);
  }

  // Returns the style sheet of a layout that is not shown yet.
  newSheet(address) {
    const now = document.head.querySelector("[data-layout]:last-of-type");
    if (!address || (now && now.getAttribute("href") === address)) return null;
    const sheet = document.createElement("link");
    sheet.rel = "stylesheet";
    sheet.href = address;
    sheet.dataset.layout = "";
    return sheet;
  }

  draw(data, edit) {
    for (const sheet of document.head.querySelectorAll("[data-layout]")) {
      if (data.layout && sheet.getAttribute("href") !== data.layout) sheet.remove();
    }
    const before = new Set(this.ids());
    const focus = this.remembered || focusKey(document.activeElement);
    this.remembered = null;
    this.page.lang = data.language;
    if (data.patch) applyPatch(this.page, data.patch);
    else this.page.innerHTML = data.page;
    this.drawLadder(data.ladder);
    this.release();
    this.onDrawn?.();
    const added = this.tiles().filter((tile) => !before.has(tile.dataset.tile));
    if (edit && CHOSEN_AFTER.has(edit.type) && added.length) {
      const ids = [...new Set(added.map((tile) => this.idOf(tile)))];
      this.choose(ids, ids.length === 1 && isTypedAtOnce(added[0]));
      added[0].scrollIntoView({ block: "nearest" });
      return;
    }
    if (data.about?.length) this.lookAt(data.about);
    const kept = edit?.type === "group_tiles" ? [edit.id] : this.several;
    this.choose(kept.filter((id) => this.isThere(id)), false, this.band).then(() => restoreFocus(focus));
  }

  // Shows where something was undone: the first of it that is on the page comes into sight, and all of it is marked.
  lookAt(ids) {
    const names = ids.map((id) => CSS.escape(id));
    const found = names.flatMap((id) => [...this.page.querySelectorAll(`[data-tile="${id}"], [data-group="${id}"], [data-band="${id}"]`)]);
    found[0]?.scrollIntoView({ block: "nearest" });
    for (const one of found) {
      one.classList.add("looked-at");
      setTimeout(() => one.classList.remove("looked-at"), LOOKED_AT_MS);
    }
  }

  // Whoever holds a band by the keyboard goes on holding it.
  drawLadder(markup) {
    // What is pressed is not taken away from under the press.
    if (this.ladder.matches(":active")) return addEventListener("pointerup", () => setTimeout(() => this.drawLadder(markup)), { once: true });
    const active = document.activeElement;
    const rung = this.ladder.contains(active) && active.closest("[data-rung]")?.dataset.rung;
    const part = rung && (active.matches("[data-grip]") ? "[data-grip]" : active.matches("[data-go]") ? "[data-go]" : null);
    replaceContent(this.ladder, markup);
    if (part) this.ladder.querySelector(`[data-rung="${CSS.escape(rung)}"] ${part}`)?.focus();
  }

  // Notes where the keyboard is when an edit begins: the menu it was made in closes before the page is redrawn.
  remember(element) {
    this.remembered = focusKey(element);
    // The margin's words hold whole questions: until it is drawn anew, another word would undo this one.
    if (this.margin.contains(element)) this.margin.inert = true;
  }

  // The tiles that are shown, each with the digest of what it shows.
  digests() {
    return Object.fromEntries(Array.from(this.page.querySelectorAll("[data-tile]"), (tile) => [tile.dataset.tile, tile.dataset.digest]));
  }

  ids() {
    return Array.from(this.page.querySelectorAll("[data-tile]"), (tile) => tile.dataset.tile);
  }

  tile(id) {
    return id && this.page.querySelector(`[data-tile="${CSS.escape(id)}"]`);
  }

  currentBand() {
    const chosen = this.chosenTiles()[0]?.closest("[data-band]");
    if (chosen) return chosen.dataset.band;
    return this.band ?? this.page.querySelector("[data-band]")?.dataset.band;
  }

  lastBand() {
    return [...this.page.querySelectorAll("[data-band]")].at(-1)?.dataset.band;
  }

  addressOf(ids, band) {
    if (ids.length > 1) return `several/?${new URLSearchParams(ids.map((id) => ["tile", id]))}`;
    if (ids.length) return `tiles/${ids[0]}/`;
    return band ? `bands/${band}/` : "margin/";
  }

  // Chooses tiles and groups by their ids, or a band, or (null) the report. `ready` is there once the margin is.
  choose(ids, type = false, band = null) {
    this.ready = this.chooseNow(ids, type, band);
    return this.ready;
  }

  async chooseNow(ids, type, band) {
    const chosen = ids === null ? [] : [ids].flat();
    this.several = chosen;
    this.band = chosen.length ? null : band;
    if (this.entered && !chosen.some((id) => this.tile(id)?.dataset.group === this.entered)) this.entered = null;
    const turn = ++this.asked;
    for (const tile of this.tiles()) tile.classList.toggle("chosen", this.isChosen(tile));
    for (const one of this.page.querySelectorAll("[data-band]")) one.classList.toggle("chosen", one.dataset.band === this.band);
    this.frame();
    this.onChosen?.();
    const tile = this.tile(this.chosen);
    if (tile && type && "typed" in tile.dataset && !("locked" in tile.dataset)) this.type(tile);
    const response = await fetch(this.url + this.addressOf(chosen, this.band), { headers: { Accept: "text/html" } }).catch(() => null);
    const text = response && response.ok ? await response.text() : null;
    // While something follows the hand, nothing else is drawn.
    await this.held;
    // Replies may overtake each other: an older margin would show, and send again, what was settled before.
    if (turn !== this.asked) return;
    // Numbers that are being typed, or are not kept yet, are never drawn over.
    const typed = this.margin.querySelector("[data-typed]");
    const unfinished = typed && typed.dataset.typed === this.chosen && isUnfinished(typed);
    if (text !== null && !unfinished) replaceContent(this.margin, text);
    this.margin.inert = false;
    // What is told entry by entry is typed beside the page.
    if (type && tile && !("typed" in tile.dataset)) this.margin.querySelector("[data-part=head]")?.focus();
  }

  type(tile) {
    if (!tile.querySelector(".typing")) this.onType?.(tile);
  }
}

// Where the keyboard was, in terms that outlive a redrawn page.
function focusKey(active) {
  if (!active || active === document.body) return null;
  if (active.closest("[data-term-panel], .settled, .terms, .its-themes")) return "#its-words";
  if (active.id) return `#${CSS.escape(active.id)}`;
  const word = active.closest(".dropdown")?.querySelector(".word");
  if (word) return { word: Array.from(document.querySelectorAll("#margin .word")).indexOf(word) };
  const tile = active.closest("[data-tile]");
  if (tile) return `[data-tile="${tile.dataset.tile}"] [data-pick]`;
  return null;
}

function restoreFocus(key) {
  if (!key || (document.activeElement && document.activeElement !== document.body)) return;
  if (typeof key === "string") document.querySelector(key)?.focus();
  else document.querySelectorAll("#margin .word")[key.word]?.focus();
}

// Into a form words are typed only by a second press: most stand without any.
const isTypedAtOnce = (tile) => tile.dataset.typed !== "later";
