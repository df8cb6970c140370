// Typing into a text of the page, where it stands and as it looks.

import {
  EditorState,
  EditorView,
  TextSelection,
  baseKeymap,
  chainCommands,
  history,
  inputRules,
  keymap,
  redo,
  splitBlockAs,
  textblockTypeInputRule,
  toggleMark,
  undo,
} from "../../vendor/prosemirror.esm.min.js";
import { plainOf, schema, toDoc, toText } from "./prose.js";

const TYPING_PAUSE_MS = 900;
const MOST_LETTERS = 20000;
const DEEPEST = 3;
const { block } = schema.nodes;

// Opens a text for typing. `save` gets what is typed after each pause, `onDone` whether anything is left to be drawn,
// `onState` each state of it; `isBeside` tells whether an element belongs to it, such as a bar.
export function write(tile, { save, onDone, onState, onTooLong, isBeside, onFigure, keys }) {
  const { prose, said, role, align, columns, scale } = tile.dataset;
  const place = document.createElement("div");
  place.className = `typing ${role} at-${align}`;
  place.style.setProperty("--scale", scale);
  place.style.columnCount = columns > 1 ? columns : "";
  tile.append(place);
  let sent = JSON.stringify(toText(toDoc(JSON.parse(prose), JSON.parse(said))));
  let pause = 0;
  let isOpen = true;

  const view = new EditorView(place, {
    state: EditorState.create({ doc: toDoc(JSON.parse(prose), JSON.parse(said)), plugins: plugins(keys) }),
    attributes: { role: "textbox", "aria-multiline": "true", "aria-label": "Text", spellcheck: "true", lang: tile.closest("[lang]").lang },
    dispatchTransaction(transaction) {
      if (transaction.docChanged && plainOf(transaction.doc).length > MOST_LETTERS && transaction.doc.content.size > view.state.doc.content.size) {
        onTooLong(MOST_LETTERS);
        return;
      }
      view.updateState(view.state.apply(transaction));
      onState(view);
      if (!transaction.docChanged) return;
      clearTimeout(pause);
      pause = setTimeout(keep, TYPING_PAUSE_MS);
    },
    handleClickOn(_, pos, node) {
      if (node.type !== schema.nodes.figure) return false;
      onFigure(view, pos, node);
      return true;
    },
    handleDOMEvents: {
      focusout: (_, { relatedTarget }) => {
        if (!isBeside(relatedTarget)) setTimeout(() => isOpen && !isBeside(document.activeElement) && close());
      },
      // What is copied here is text, and none of the page's tiles.
      copy: (_, event) => event.stopPropagation(),
      cut: (_, event) => event.stopPropagation(),
    },
  });

  function keep() {
    clearTimeout(pause);
    const text = toText(view.state.doc);
    const now = JSON.stringify(text);
    if (now === sent) return false;
    sent = now;
    tile.dataset.text = plainOf(view.state.doc);
    tile.dataset.prose = JSON.stringify(typeof text === "string" ? { blocks: text.split("\n").map((line) => ({ runs: line ? [{ text: line }] : [] })) } : text);
    tile.dataset.said = JSON.stringify(figuresOf(view.state.doc));
    // What it shows is not what is typed.
    tile.dataset.digest = "";
    save(text);
    return true;
  }

  function close() {
    if (!isOpen) return;
    isOpen = false;
    const isKept = keep();
    view.destroy();
    place.remove();
    onDone(!isKept);
  }

  const end = TextSelection.atEnd(view.state.doc);
  view.dispatch(view.state.tr.setSelection(end));
  view.focus();
  return { view, close, keep };
}

function figuresOf(doc) {
  const found = [];
  doc.descendants(({ type, attrs }) => {
    if (type === schema.nodes.figure) found.push({ text: attrs.said, problem: attrs.problem });
  });
  return found;
}

function plugins(keys) {
  const lists = inputRules({
    rules: [
      textblockTypeInputRule(/^\s*[-*•]\s$/, block, { kind: "bullet", level: 0 }),
      textblockTypeInputRule(/^\s*1[.)]\s$/, block, { kind: "number", level: 0 }),
    ],
  });
  const mark = (name) => toggleMark(schema.marks[name]);
  return [
    lists,
    history(),
    keymap({
      ...keys,
      "Mod-b": mark("bold"),
      "Mod-i": mark("italic"),
      "Mod-u": mark("underline"),
      "Mod-.": mark("above"),
      "Mod-,": mark("below"),
      "Mod-z": undo,
      "Mod-y": redo,
      "Mod-Shift-z": redo,
      Enter: chainCommands(leaveList, splitBlockAs((node) => ({ type: block, attrs: node.attrs }))),
      Backspace: outOfList,
      Tab: deeper(1),
      "Shift-Tab": deeper(-1),
    }),
    keymap(baseKeymap),
  ];
}

// Makes the chosen paragraphs items of a list, or paragraphs again where they are items of it already.
export function asList(kind) {
  return (state, dispatch) => {
    const found = chosenBlocks(state);
    const isThere = found.every(({ node }) => node.attrs.kind === kind);
    dispatch?.(found.reduce((tr, { node, pos }) => tr.setNodeMarkup(pos, block, { ...node.attrs, kind: isThere ? "paragraph" : kind, level: isThere ? 0 : node.attrs.level }), state.tr));
    return true;
  };
}

function chosenBlocks({ doc, selection }) {
  const found = [];
  doc.nodesBetween(selection.from, selection.to, (node, pos) => {
    if (node.type === block) found.push({ node, pos });
  });
  return found;
}

// In an item, Tab goes a step further in; in a paragraph it leads on, as everywhere.
function deeper(by) {
  return (state, dispatch) => {
    const found = chosenBlocks(state).filter(({ node }) => node.attrs.kind !== "paragraph");
    if (!found.length) return false;
    const levels = found.map(({ node }) => Math.min(DEEPEST, Math.max(0, node.attrs.level + by)));
    dispatch?.(found.reduce((tr, { node, pos }, place) => tr.setNodeMarkup(pos, block, { ...node.attrs, level: levels[place] }), state.tr));
    return true;
  };
}

// Enter in an empty item ends its list.
function leaveList(state, dispatch) {
  const { parent } = state.selection.$from;
  return parent.content.size === 0 && backOut(state, dispatch);
}

function outOfList(state, dispatch) {
  const { $from, empty } = state.selection;
  return empty && $from.parentOffset === 0 && backOut(state, dispatch);
}

function backOut(state, dispatch) {
  const { $from } = state.selection;
  const { kind, level } = $from.parent.attrs;
  if (kind === "paragraph") return false;
  const attrs = level ? { kind, level: level - 1 } : { kind: "paragraph", level: 0 };
  dispatch?.(state.tr.setNodeMarkup($from.before(), block, attrs));
  return true;
}
