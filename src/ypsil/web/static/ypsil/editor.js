// The page editor: connects the saver with the page, the margin, the chooser and the keyboard.

import Alpine from "../vendor/alpine-csp.esm.min.js";
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
    onRefused: () => view.choose(view.chosen),
    onLost: (text, edit) => {
      state.mine = text;
      state.again = () => {
        state.dismiss();
        send(edit);
      };
    },
    onPage: (data, edit) => {
      if (!data.message) state.saved = data.saved;
      state.cannotUndo = !data.can_undo;
      state.cannotRedo = !data.can_redo;
      if (document.activeElement !== byId("report-title")) byId("report-title").value = data.title;
      view.show(data, edit);
    },
  });
  const send = (edit, spell) => saver.add(edit, spell);
  const view = new PageView({ page: byId("page"), margin: byId("margin"), ladder: byId("ladder"), url: saver.url, send });
  const chooser = bindChooser({ dialog: byId("chooser"), list: byId("choices"), url: saver.url, view });
  bindFields({ send });
  bindLooks({ send });
  bindShownNames({ csrf: body.dataset.csrf });
  bindIcons({ view, csrf: body.dataset.csrf, send });
  bindTerms({ view, url: saver.url, saver });
  bindNumbers({ saver, view, chooser, send });

  document.addEventListener("click", (event) => {
    const target = event.target.closest("[data-edit], [data-fill], [data-copy-numbers], [data-undo], [data-redo], [data-choose], [data-add-band]");
    if (!target) return;
    if ("copyNumbers" in target.dataset) copyNumbers(target);
    else if ("fill" in target.dataset) fill(target.closest("[data-blanks]"));
    else if (target.dataset.edit) {
      chooser.close();
      view.remember(target);
      send(JSON.parse(target.dataset.edit));
    } else if ("undo" in target.dataset) saver.step("undo");
    else if ("redo" in target.dataset) saver.step("redo");
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
    if (blanks && event.key === "Enter" && event.target.matches("input")) {
      event.preventDefault();
      return fill(blanks);
    }
    const typing = event.target.closest("input, textarea, select");
    const key = event.key.toLowerCase();
    if ((event.ctrlKey || event.metaKey) && key === "z" && !typing) {
      event.preventDefault();
      saver.step(event.shiftKey ? "redo" : "undo");
    } else if (typing || chooser.isOpen()) return;
    else if (event.key === "/") {
      event.preventDefault();
      chooser.open(view.currentBand());
    } else if (event.key === "Delete" && view.chosen) send({ type: "remove_tile", tile: view.chosen });
    else if (event.key === "Escape") view.choose(null);
  });
  view.choose(null);
  // Whoever comes from a table is shown what it offers.
  const table = new URLSearchParams(window.location.search).get("table");
  if (table) {
    window.history.replaceState(null, "", window.location.pathname);
    chooser.open(view.lastBand(), table);
  }
}

Alpine.start();
