// The bar above a text that is typed: its looks, lists, links, colours and live figures.

import { toggleMark } from "../../vendor/prosemirror.esm.min.js";
import { isLink, schema } from "./prose.js";
import { asList } from "./writing.js";

const LISTS = ["bullet", "number"];

export function bindWritingBar({ bar, stage, say }) {
  const linkField = bar.querySelector("[data-link-field]");
  const linkRow = bar.querySelector("[data-link-row]");
  let writing = null;
  let onFigure = () => {};

  function open(opened, tile, figureWanted) {
    writing = opened;
    onFigure = figureWanted;
    bar.hidden = false;
    linkRow.hidden = true;
    place(tile);
    show(opened.view);
  }

  // Above the text, or below it where there is no room above.
  function place(tile) {
    const [outer, box] = [stage.getBoundingClientRect(), tile.getBoundingClientRect()];
    const board = stage.closest(".board").getBoundingClientRect();
    const isAbove = box.top - bar.offsetHeight - 12 > board.top;
    const left = Math.min(box.left - outer.left, outer.width - bar.offsetWidth);
    Object.assign(bar.style, { left: `${Math.max(0, left)}px`, top: `${isAbove ? box.top - outer.top - bar.offsetHeight - 12 : box.bottom - outer.top + 12}px` });
  }

  function close() {
    bar.hidden = true;
    writing = null;
  }

  // Says of each button whether what it does is done where the text is chosen.
  function show({ state }) {
    const { from, $from, to, empty } = state.selection;
    const has = (type) => (empty ? Boolean(type.isInSet(state.storedMarks || $from.marks())) : state.doc.rangeHasMark(from, to, type));
    for (const button of bar.querySelectorAll("[data-look]")) button.ariaPressed = String(has(schema.marks[button.dataset.look]));
    for (const button of bar.querySelectorAll("[data-list]")) button.ariaPressed = String($from.parent.attrs.kind === button.dataset.list);
    bar.querySelector("[data-link]").ariaPressed = String(has(schema.marks.link));
    const colour = schema.marks.colour.isInSet(state.storedMarks || $from.marks());
    bar.querySelector("[data-colour-of]").value = colour?.attrs.name ?? "";
  }

  const run = (command) => {
    command(writing.view.state, writing.view.dispatch);
    writing.view.focus();
  };

  // The place in the text is kept while a button is pressed.
  bar.addEventListener("mousedown", (event) => event.target.closest("button") && event.preventDefault());
  bar.addEventListener("click", (event) => {
    const button = event.target.closest("button");
    if (!button || !writing) return;
    const { look, list } = button.dataset;
    if (look) run(toggleMark(schema.marks[look]));
    else if (LISTS.includes(list)) run(asList(list));
    else if ("figure" in button.dataset) onFigure();
    else if ("link" in button.dataset) openLink();
    else if ("linkDo" in button.dataset) setLink(linkField.value);
    else if ("linkAway" in button.dataset) setLink("");
  });
  bar.querySelector("[data-colour-of]").addEventListener("change", ({ target }) => {
    const { view } = writing;
    const { from, to, empty } = view.state.selection;
    const { colour } = schema.marks;
    const tr = view.state.tr;
    if (empty) tr.setStoredMarks(target.value ? colour.create({ name: target.value }).addToSet(view.state.storedMarks ?? []) : colour.removeFromSet(view.state.storedMarks ?? []));
    else if (target.value) tr.addMark(from, to, colour.create({ name: target.value }));
    else tr.removeMark(from, to, colour);
    view.dispatch(tr);
    view.focus();
  });

  function openLink() {
    const { state } = writing.view;
    const found = schema.marks.link.isInSet(state.selection.$from.marks());
    linkRow.hidden = false;
    linkField.value = found?.attrs.href ?? "";
    linkField.setCustomValidity("");
    linkField.focus();
  }

  function setLink(address) {
    const { view } = writing;
    const href = address && !/^[a-z]+:|^#/i.test(address) ? `https://${address.trim()}` : address.trim();
    if (href && !isLink(href)) {
      linkField.setCustomValidity("A link begins with https://, mailto: or tel:, and has no spaces.");
      linkField.reportValidity();
      return;
    }
    const { link } = schema.marks;
    let { from, to } = view.state.selection;
    const tr = view.state.tr;
    if (from === to) [from, to] = linkedRange(view.state, link) ?? [from, to];
    if (from === to && href) tr.insert(from, schema.text(href, [link.create({ href })]));
    else if (href) tr.addMark(from, to, link.create({ href }));
    else tr.removeMark(from, to, link);
    view.dispatch(tr);
    linkRow.hidden = true;
    view.focus();
    say(href ? `Linked to ${href}` : "Link taken away");
  }

  linkField.addEventListener("input", () => linkField.setCustomValidity(""));
  bar.addEventListener("keydown", (event) => {
    if (event.key === "Enter" && event.target === linkField) {
      event.preventDefault();
      setLink(linkField.value);
    } else if (event.key === "Escape") {
      event.stopPropagation();
      linkRow.hidden = true;
      writing.view.focus();
    } else if (event.key === "ArrowRight" || event.key === "ArrowLeft") step(event);
  });

  // Within a toolbar, arrows lead from one tool to the next (W3C, ARIA Authoring Practices, toolbar).
  function step(event) {
    if (event.target.matches("input, select")) return;
    const tools = [...bar.querySelectorAll("button, select")].filter((tool) => tool.offsetParent);
    const next = tools.indexOf(event.target) + (event.key === "ArrowRight" ? 1 : -1);
    tools[(next + tools.length) % tools.length].focus();
    event.preventDefault();
  }

  return { open, close, show, place, focus: () => bar.querySelector("button").focus() };
}

// The stretch round the place of typing that leads to one address.
function linkedRange({ selection: { $from } }, type) {
  const mark = type.isInSet($from.marks());
  if (!mark) return null;
  let [start, end] = [$from.index(), $from.index()];
  const { parent } = $from;
  while (start > 0 && mark.isInSet(parent.child(start - 1).marks)) start -= 1;
  while (end < parent.childCount && mark.isInSet(parent.child(end).marks)) end += 1;
  let from = $from.start();
  for (let at = 0; at < start; at += 1) from += parent.child(at).nodeSize;
  let to = from;
  for (let at = start; at < end; at += 1) to += parent.child(at).nodeSize;
  return [from, to];
}
