// What of ProseMirror the page editor uses, bundled into one module when vendoring.
export { baseKeymap, chainCommands, splitBlockAs, toggleMark } from "prosemirror-commands";
export { history, redo, undo } from "prosemirror-history";
export { inputRules, textblockTypeInputRule } from "prosemirror-inputrules";
export { keymap } from "prosemirror-keymap";
export { Schema } from "prosemirror-model";
export { EditorState, TextSelection } from "prosemirror-state";
export { EditorView } from "prosemirror-view";
