// The page on the bench: choosing a tile, typing straight into a text, showing what the server drew.

import { isUnfinished } from "./numbers.js";
import { applyPatch, drawPending } from "./patch.js";
import { newId } from "./save.js";
import { replaceContent } from "./unfinished.js";

const TYPING_PAUSE_MS = 900;

export class PageView {
  constructor({ page, margin, ladder, url, send }) {
    Object.assign(this, { page, margin, ladder, url, send });
    this.chosen = null;
    this.waiting = null;
    this.asked = 0;
    page.addEventListener("click", (event) => {
      const pick = event.target.closest("[data-pick]");
      if (pick) this.ready = this.choose(pick.closest("[data-tile]").dataset.tile, true);
    });
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
    if (!this.ladder.contains(document.activeElement)) this.ladder.innerHTML = data.ladder;
    const added = this.ids().find((id) => !before.has(id));
    if (edit && edit.type === "add_tile" && added) {
      this.choose(added, true);
      this.tile(added).scrollIntoView({ block: "nearest" });
      return;
    }
    this.choose(this.tile(this.chosen) ? this.chosen : null).then(() => restoreFocus(focus));
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
    const band = this.tile(this.chosen)?.closest("[data-band]") || this.page.querySelector("[data-band]");
    return band && band.dataset.band;
  }

  lastBand() {
    return [...this.page.querySelectorAll("[data-band]")].at(-1)?.dataset.band;
  }

  async choose(id, type = false) {
    this.chosen = id;
    const turn = ++this.asked;
    for (const tile of this.page.querySelectorAll("[data-tile]")) tile.classList.toggle("chosen", tile.dataset.tile === id);
    const tile = this.tile(id);
    if (tile && type && "typed" in tile.dataset) this.type(tile);
    const address = id ? `${this.url}tiles/${id}/` : `${this.url}margin/`;
    const response = await fetch(address, { headers: { Accept: "text/html" } }).catch(() => null);
    const text = response && response.ok ? await response.text() : null;
    // Replies may overtake each other: an older margin would show, and send again, what was settled before.
    if (turn !== this.asked) return;
    // Numbers that are being typed, or are not kept yet, are never drawn over.
    const typed = this.margin.querySelector("[data-typed]");
    const unfinished = typed && typed.dataset.typed === id && isUnfinished(typed);
    if (text !== null && !unfinished) replaceContent(this.margin, text);
    this.margin.inert = false;
  }

  type(tile) {
    if (tile.querySelector(".typing")) return;
    const area = document.createElement("textarea");
    area.className = `typing ${tile.dataset.role}`;
    area.value = tile.dataset.text;
    area.setAttribute("aria-label", "Text");
    tile.append(area);
    area.focus();
    let sent = area.value;
    let pause = 0;
    const spell = newId();
    const save = () => {
      clearTimeout(pause);
      if (area.value === sent) return;
      sent = area.value;
      tile.dataset.text = sent;
      // What it shows is not what is typed.
      tile.dataset.digest = "";
      this.send({ type: "change_tile", tile: tile.dataset.tile, changes: { text: sent } }, spell);
    };
    area.addEventListener("input", () => {
      clearTimeout(pause);
      pause = setTimeout(save, TYPING_PAUSE_MS);
    });
    area.addEventListener("keydown", (event) => {
      if (event.key !== "Escape") return;
      event.stopPropagation();
      area.blur();
      this.tile(tile.dataset.tile)?.querySelector("[data-pick]").focus();
    });
    area.addEventListener("blur", () => {
      const isSent = area.value === sent;
      save();
      area.remove();
      if (isSent) drawPending(tile);
      if (this.waiting) this.show(this.waiting, null);
    });
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
