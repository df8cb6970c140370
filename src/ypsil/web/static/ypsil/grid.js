// The rows of a table: a window of rows that follows the scrolling, fetched from the server in pages.
// Only the rows around what is seen are kept here, so a million rows scroll like a hundred.

import { TabulatorFull as Tabulator } from "../vendor/tabulator.esm.min.js";
import { columnsOf, ROW_HEAD } from "./grid-columns.js";

const KEPT_PAGES = 6;
const ROW_PX = 30;
const WIDE_COLUMNS = 40;

export class Grid {
  constructor(settings) {
    Object.assign(this, settings);
    this.asked = { find: "", sort: "", dir: "", after: "", first: "", filters: {} };
    this.first = 0;
    this.loaded = 0;
    this.total = 0;
    this.size = 200;
    this.busy = false;
  }

  async start() {
    const data = await this.fetch(0, true);
    if (!data) return;
    this.build(data);
  }

  async fetch(start, withColumns = false) {
    const query = new URLSearchParams({ version: this.version, start, count: this.size });
    for (const key of ["find", "sort", "dir", "after", "first"]) if (this.asked[key] !== "") query.set(key, this.asked[key]);
    for (const [field, value] of Object.entries(this.asked.filters)) if (value) query.set(field, value);
    if (withColumns) query.set("columns", "1");
    const response = await fetch(`${this.url}rows/?${query}`, { headers: { Accept: "application/json" } }).catch(() => null);
    if (!response || !response.ok) {
      this.onShown("The rows cannot be loaded. Try again in a moment.");
      return null;
    }
    return response.json();
  }

  build(data) {
    this.table?.destroy();
    this.first = 0;
    this.loaded = data.rows.length;
    this.names = data.columns.map((head) => head.name);
    this.firstColumn = data.first;
    this.onColumns(data.first, data.columns.length, data.column_count);
    if (data.rows.length) this.size = Math.max(20, Math.min(this.size, data.rows.length));
    const wide = data.columns.length > WIDE_COLUMNS;
    this.table = new Tabulator(this.holder, {
      data: data.rows,
      index: "n",
      height: "100%",
      rowHeight: ROW_PX,
      layout: wide ? "fitData" : "fitDataStretch",
      renderHorizontal: wide ? "virtual" : "basic",
      // Of a wide table the columns are not measured: that alone would take a minute.
      columnDefaults: { headerHozAlign: "left", headerSortTristate: true, minWidth: 90, maxInitialWidth: 320, resizable: "header", ...(wide && { width: 150 }) },
      rowHeader: ROW_HEAD,
      columns: columnsOf(data.columns, data.first, { editable: this.editable, onColumn: this.onColumn }),
      headerFilterLiveFilterDelay: 400,
      sortMode: "remote",
      filterMode: "remote",
      persistence: { columns: ["width"] },
      persistenceID: `ypsil${this.url}`,
      clipboard: "copy",
      clipboardCopyRowRange: "range",
      clipboardCopyStyled: false,
      clipboardCopyConfig: { columnHeaders: false, rowHeaders: false },
      selectableRange: 1,
      selectableRangeRows: true,
      selectableRangeAutoFocus: false, // whoever types in a filter keeps typing when the rows change
      editTriggerEvent: "dblclick",
      placeholder: "No row is left: change the filter or a step.",
    });
    this.table.on("tableBuilt", () => {
      this.built = true;
      this.body = this.holder.querySelector(".tabulator-tableholder");
      this.body.addEventListener("scroll", () => this.follow(), { passive: true });
      // Who comes to a column's name by keyboard moves the names; the rows go with them.
      const names = this.holder.querySelector(".tabulator-header-contents");
      names.addEventListener("scroll", () => (this.body.scrollLeft = names.scrollLeft), { passive: true });
      // What scrolls is focusable, so it is what holds the rows for a screen reader too.
      this.body.setAttribute("role", "rowgroup");
      this.body.firstElementChild?.setAttribute("role", "presentation");
      this.say(data);
    });
    this.table.on("dataSorting", (sorters) => this.sort(sorters));
    this.table.on("dataFiltering", (filters) => this.filter(filters));
    this.table.on("cellEdited", (cell) => this.onCorrect(cell.getRow().getData().n, this.names[Number(cell.getField().slice(1)) - this.firstColumn], cell));
  }

  // Keep a window of pages around what is seen: load the next, drop the farthest.
  async follow() {
    const top = this.body.scrollTop;
    const seen = this.first + Math.floor(top / ROW_PX);
    if (document.activeElement !== this.place) this.place.value = String(seen + 1);
    if (this.busy) return;
    const below = this.loaded * ROW_PX - top - this.body.clientHeight;
    if (below < 40 * ROW_PX && this.first + this.loaded < this.total) await this.extend(false);
    else if (top < 20 * ROW_PX && this.first > 0) await this.extend(true);
  }

  async extend(above) {
    this.busy = true;
    const start = above ? Math.max(0, this.first - this.size) : this.first + this.loaded;
    const asked = JSON.stringify(this.asked);
    const data = await this.fetch(start);
    if (data && asked === JSON.stringify(this.asked)) {
      const rows = above ? data.rows.slice(0, this.first - start) : data.rows;
      const before = this.body.scrollTop;
      const all = above ? [...rows, ...this.table.getData()] : [...this.table.getData(), ...rows];
      const over = Math.max(0, all.length - KEPT_PAGES * this.size);
      const kept = above ? all.slice(0, all.length - over) : all.slice(over);
      this.first = above ? start : this.first + over;
      this.loaded = kept.length;
      await this.table.replaceData(kept);
      this.body.scrollTop = before + (above ? rows.length : -over) * ROW_PX;
    }
    this.busy = false;
  }

  async goTo(row) {
    const target = Math.max(1, Math.min(row, this.total));
    const start = Math.max(0, target - 1 - Math.floor(this.size / 4));
    this.busy = true;
    const data = await this.fetch(start);
    if (data) {
      this.first = start;
      this.loaded = data.rows.length;
      await this.table.replaceData(data.rows);
      this.body.scrollTop = (target - 1 - start) * ROW_PX;
    }
    this.busy = false;
  }

  sort(sorters) {
    const one = sorters[0];
    const sort = one ? one.field : "";
    const dir = one ? one.dir : "";
    if (!this.built || (sort === this.asked.sort && dir === this.asked.dir)) return;
    Object.assign(this.asked, { sort, dir });
    this.reload();
  }

  filter(filters) {
    const wanted = Object.fromEntries(filters.map((one) => [one.field, one.value]));
    if (!this.built || JSON.stringify(wanted) === JSON.stringify(this.asked.filters)) return;
    this.asked.filters = wanted;
    this.reload();
  }

  find(text) {
    this.asked.find = text;
    return this.reload();
  }

  // The same columns, other rows.
  async reload() {
    const asked = JSON.stringify(this.asked);
    const data = await this.fetch(0);
    if (!data || asked !== JSON.stringify(this.asked)) return;
    this.first = 0;
    this.loaded = data.rows.length;
    this.total = data.total;
    await this.table.replaceData(data.rows);
    this.say(data);
  }

  // Other columns: after a step, or the table as it is after some of them.
  async show(after = "", first = "") {
    const before = this.names;
    this.asked = { find: this.asked.find, sort: "", dir: "", after, first, filters: {} };
    this.built = false;
    const data = await this.fetch(0, true);
    if (!data) return;
    this.build(data);
    const fresh = this.names.findIndex((name) => !before.includes(name));
    if (fresh >= 0 && first === "") this.table.on("tableBuilt", () => this.table.scrollToColumn(`c${fresh}`, "middle", false).catch(() => null));
  }

  say(data) {
    this.total = data.total;
    this.place.max = String(Math.max(1, data.total));
    this.place.hidden = data.total <= this.size;
    const shown = data.total.toLocaleString("en");
    this.onShown(data.total === data.of ? "" : `${shown} of ${data.of.toLocaleString("en")} rows`);
  }
}
