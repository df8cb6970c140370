// The page editor: connects the saver with the page, the margin, the chooser and the keyboard.

import Alpine from "../vendor/alpine-csp.esm.min.js";
import { bindBands } from "./bench/bands.js";
import { bindClipboard } from "./bench/clipboard.js";
import { bindCopying } from "./bench/copying.js";
import { bindCorners } from "./bench/corners.js";
import { bindCompany } from "./bench/company.js";
import { bindCommands } from "./bench/commands.js";
import { bindFiles } from "./bench/files.js";
import { bindEntries } from "./bench/entries.js";
import { bindFocus } from "./bench/focus.js";
import { bindGrounds } from "./bench/grounds.js";
import { bindHistory } from "./bench/history.js";
import { bindKeys } from "./bench/keys.js";
import { drawMiniatures } from "./bench/miniatures.js";
import { bindMoving } from "./bench/moving.js";
import { bindPicking } from "./bench/picking.js";
import { bindReadyMade } from "./bench/ready_made.js";
import { bindInstead } from "./bench/instead.js";
import { bindSettings } from "./bench/settings.js";
import { bindTidy } from "./bench/tidy.js";
import { bindTyping } from "./bench/typing.js";
import { bindViews } from "./bench/views.js";
import { commandsOf } from "./bench/verbs.js";
import { bindZoom } from "./bench/zoom.js";
import { bindChooser } from "./chooser.js";
import { bindFields, bindLooks, copyNumbers, filledEdit } from "./fields.js";
import { bindIcons } from "./icons.js";
import { bindNumbers } from "./numbers.js";
import { bindShownNames } from "./shown.js";
import { PageView } from "./page.js";
import { newId, Saver } from "./save.js";
import { bindTerms } from "./terms.js";

const body = document.body;
const byId = (id) => document.getElementById(id);

Alpine.data("editor", () => ({
  saved: byId("main").ownerDocument.querySelector(".saved").textContent,
  notice: "",
  cannotUndo: document.querySelector("[data-undo]").disabled,
  cannotRedo: document.querySelector("[data-redo]").disabled,
  get noNotice() {
    return !this.notice;
  },
  mine: "",
  get nothingLost() {
    return !this.mine;
  },
  dismiss() {
    this.notice = "";
    this.mine = "";
  },
  // Set where the page starts: sends once more what somebody else's edit came before.
  again() {},
  init() {
    start(this);
  },
}));

function start(state) {
  const saver = new Saver({
    url: body.dataset.report,
    csrf: body.dataset.csrf,
    revision: Number(body.dataset.revision),
    onState: (text) => (state.saved = text),
    onNotice: (text) => (state.notice = text),
    known: () => view.digests(),
    onRefused: () => {
      view.release();
      view.choose(view.several, false, view.band);
    },
    onLost: (text, edit) => {
      state.mine = text;
      state.again = () => {
        state.dismiss();
        send(edit);
      };
    },
    onPage: (data, edit) => {
      if (!data.message) state.saved = data.did || data.saved;
      saver.saved = data.saved;
      state.cannotUndo = !data.can_undo;
      state.cannotRedo = !data.can_redo;
      if (document.activeElement !== byId("report-title")) byId("report-title").value = data.title;
      view.show(data, edit);
    },
  });
  saver.saved = state.saved;
  const send = (edit, spell) => saver.add(edit, spell);
  const [page, stage, board, ladder, margin] = ["page", "stage", "board", "ladder", "margin"].map(byId);
  const view = new PageView({ page, stage, margin, ladder, url: saver.url, send });
  const say = (text) => (byId("spoken").textContent = text);
  const chooser = bindChooser({ dialog: byId("chooser"), list: byId("choices"), url: saver.url, view });
  const readyMade = bindReadyMade({ dialog: byId("arrangements"), list: byId("ready-made"), url: saver.url, view, page });
  bindFields({ send });
  bindLooks({ send });
  bindInstead(margin);
  bindSettings({ margin, say });
  bindShownNames({ csrf: body.dataset.csrf });
  bindEntries({ margin, send, say });
  bindFocus({ margin, send, say });
  bindCorners({ margin, send, say });
  bindGrounds({ margin, csrf: body.dataset.csrf, send });
  bindIcons({ view, csrf: body.dataset.csrf, send });
  bindTerms({ view, url: saver.url, saver });
  bindNumbers({ saver, view, chooser, send });
  const tidy = bindTidy({ view, stage, url: saver.url, send });
  const history = bindHistory({ dialog: byId("history"), list: byId("done"), url: saver.url, saver, say });
  const views = bindViews({ view, say });
  const zoom = bindZoom({ page, stage, board, view });
  const bands = bindBands({ ladder, page, view, send, say });
  bindMoving({ view, stage, board, send, say });
  const commands = bindCommands({
    dialog: byId("commands"),
    list: byId("command-list"),
    all: commandsOf({ view, saver, send, chooser, readyMade, history, views, zoom, bands, keys: () => commands.showKeys(), palette: () => commands.open(), newId, say }),
    say,
  });
  const isBusy = () => chooser.isOpen() || commands.isOpen() || readyMade.isOpen() || history.isOpen();
  const keys = bindKeys({ view, saver, send, say, commands, isBusy });
  bindTyping({ view, stage, bar: byId("writing-bar"), panel: byId("figure-panel"), saver, send, say, tell: (text) => (state.notice = text) });
  const tell = (text) => (state.notice = text);
  const files = bindFiles({ view, stage, here: document.querySelector("[data-drop-here]"), list: byId("choices"), chooser, saver, send, say, tell });
  bindClipboard({ view, margin, saver, send, say, isBusy, tell, files });
  bindPicking({ page, tell });
  bindCopying(margin);
  const company = bindCompany({ view, saver, url: saver.url, said: byId("company") });
  view.onChosen = () => company.chosen();
  view.onDrawn = () => drawMiniatures(ladder, page);
  document.addEventListener("pointerdown", () => keys.flush(), true);
  drawMiniatures(ladder, page);

  document.addEventListener("click", (event) => {
    const target = event.target.closest("[data-edit], [data-fill], [data-copy-numbers], [data-undo], [data-redo], [data-choose], [data-add-band], [data-arrange], [data-tidy], [data-palette], [data-group-them], [data-connect], [data-ungroup], [data-own-size], [data-ready-made], [data-instead], [data-history]");
    if (!target) return;
    if ("copyNumbers" in target.dataset) copyNumbers(target);
    else if ("fill" in target.dataset) fill(target.closest("[data-blanks]"));
    else if (target.dataset.edit) {
      chooser.close();
      readyMade.close();
      view.remember(target);
      send(JSON.parse(target.dataset.edit));
    } else if ("undo" in target.dataset) saver.step("undo");
    else if ("redo" in target.dataset) saver.step("redo");
    else if ("arrange" in target.dataset) send({ type: "arrange_tiles", tiles: view.several, way: target.dataset.arrange });
    else if ("tidy" in target.dataset) tidy.open(target.dataset.tidy);
    else if ("groupThem" in target.dataset) send({ type: "group_tiles", tiles: view.several, id: newId().slice(0, 8) });
    else if ("connect" in target.dataset) send({ type: "connect_tiles", tiles: view.several });
    else if ("ungroup" in target.dataset) send({ type: "ungroup_tiles", tile: view.chosen });
    else if ("history" in target.dataset) history.open();
    else if ("readyMade" in target.dataset) readyMade.open();
    else if ("instead" in target.dataset) chooser.open(view.currentBand(), "", { purpose: target.dataset.purpose, place: target.dataset.instead });
    else if ("ownSize" in target.dataset) send(ownSize(margin));
    else if ("palette" in target.dataset) commands.open();
    else if ("addBand" in target.dataset) send({ type: "add_band", band: { id: newId().slice(0, 8) } });
    else chooser.open(target.dataset.choose);
  });

  // The menu is closed by hand: what is typed in it must not close it.
  function fill(group) {
    const edit = filledEdit(group);
    if (!edit) return;
    const word = group.closest(".dropdown")?.querySelector("[data-bs-toggle]");
    if (word) window.bootstrap.Dropdown.getOrCreateInstance(word).hide();
    view.remember(word ?? group);
    send(edit);
  }

  document.addEventListener("keydown", (event) => {
    const blanks = event.target.closest("[data-blanks]");
    if (!blanks || event.key !== "Enter" || !event.target.matches("input")) return;
    event.preventDefault();
    fill(blanks);
  });
  view.choose(null);
  // Whoever comes from a table is shown what it offers.
  const table = new URLSearchParams(window.location.search).get("table");
  if (table) {
    window.history.replaceState(null, "", window.location.pathname);
    chooser.open(view.lastBand(), table);
  }
}

// The size that somebody gives a page.
function ownSize(margin) {
  const said = (name) => margin.querySelector(`[data-own=${name}]`).value;
  return { type: "set_format", width: Number(said("width")), height: said("height") ? Number(said("height")) : null, unit: said("unit") };
}

Alpine.start();
