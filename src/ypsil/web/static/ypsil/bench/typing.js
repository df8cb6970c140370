// What stands round a text that is typed: its bar, its live figures, and what becomes of it when somebody is done.

import { TextSelection } from "../../vendor/prosemirror.esm.min.js";
import { schema } from "./prose.js";
import { write } from "./writing.js";
import { bindFigures } from "./figures.js";
import { bindWritingBar } from "./writing_bar.js";
import { drawPending } from "../patch.js";
import { newId } from "../save.js";

export function bindTyping({ view, stage, bar, panel, saver, send, say, tell }) {
  const tools = bindWritingBar({ bar, stage, say });
  const figures = bindFigures({ panel, saver, say });

  function open(tile) {
    const id = tile.dataset.tile;
    const spell = newId();
    const writing = write(tile, {
      keys: {
        Escape: () => leave(),
        "Alt-F10": () => tools.focus() ?? true,
        "Mod-Shift-l": () => wantFigure() ?? true,
      },
      save: (text) => send({ type: "change_tile", tile: id, changes: { text } }, spell),
      onState: (state) => tools.show(state),
      onTooLong: (most) => tell(`A text has room for ${most.toLocaleString()} letters. What you put in is not taken; divide it into several texts.`),
      isBeside: (element) => Boolean(element) && (tile.contains(element) || bar.contains(element) || panel.contains(element)),
      onFigure: (_, pos, node) => figures.change({ beside: tile, node, onKept: (attrs) => put(pos, pos + 1, attrs), onText: (text) => putText(pos, text), onClosed: back }),
      onDone: (isSettled) => {
        tools.close();
        figures.close();
        if (isSettled) drawPending(tile);
        if (view.waiting) view.show(view.waiting, null);
      },
    });

    function leave() {
      writing.close();
      view.tile(id)?.querySelector("[data-pick]").focus();
      return true;
    }

    const back = () => writing.view.focus();

    // The words that are chosen are what is wanted; they are replaced by it.
    function wantFigure() {
      const { state } = writing.view;
      const { from, to } = state.selection;
      const wanted = state.doc.textBetween(from, to, " ");
      figures.find({ beside: tile, wanted, onTaken: (attrs) => put(from, to, attrs), onClosed: back });
    }

    function put(from, to, attrs) {
      const { state } = writing.view;
      const marks = state.doc.resolve(from).marks();
      const tr = state.tr.replaceWith(from, to, schema.nodes.figure.create(attrs, null, marks));
      writing.view.dispatch(tr.setSelection(TextSelection.create(tr.doc, from + 1)));
      writing.view.focus();
      say(`${attrs.said} follows the data now`);
    }

    function putText(pos, text) {
      const { state } = writing.view;
      writing.view.dispatch(state.tr.replaceWith(pos, pos + 1, schema.text(text, state.doc.nodeAt(pos).marks)));
      writing.view.focus();
    }

    tools.open(writing, tile, wantFigure);
  }

  view.onType = open;
}
