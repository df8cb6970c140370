// Text as the core knows it (blocks of runs), and as it is edited.

import { Schema } from "../../vendor/prosemirror.esm.min.js";

const LOOKS = { bold: "strong", italic: "em", underline: "u", above: "sup", below: "sub" };
const COLOURS = ["accent", "second", "third", "fourth", "quiet"];

const looks = Object.fromEntries(
  Object.entries(LOOKS).map(([name, tag]) => [
    name,
    {
      parseDOM: [{ tag }, ...(name === "bold" ? [{ tag: "b" }] : []), ...(name === "italic" ? [{ tag: "i" }] : [])],
      toDOM: () => [tag, 0],
      excludes: name === "above" || name === "below" ? "above below" : name,
    },
  ])
);

export const schema = new Schema({
  nodes: {
    doc: { content: "block+" },
    block: {
      group: "block",
      content: "inline*",
      attrs: { kind: { default: "paragraph" }, level: { default: 0 } },
      parseDOM: [
        { tag: "ul > li", attrs: { kind: "bullet" } },
        { tag: "ol > li", attrs: { kind: "number" } },
        { tag: "p[data-kind]", getAttrs: (p) => ({ kind: p.dataset.kind, level: Number(p.dataset.level) }) },
        { tag: "p, h1, h2, h3, h4, h5, h6, li, blockquote, tr" },
      ],
      toDOM: ({ attrs }) => ["p", { "data-kind": attrs.kind, "data-level": attrs.level, dir: "auto" }, 0],
    },
    text: { group: "inline" },
    figure: {
      group: "inline",
      inline: true,
      atom: true,
      attrs: { figure: {}, said: { default: "…" }, problem: { default: "" } },
      parseDOM: [{ tag: "span[data-live]", getAttrs: figureIn }],
      toDOM: ({ attrs }) => [
        "span",
        { class: attrs.problem ? "live missing" : "live", "data-live": JSON.stringify(attrs.figure), title: attrs.problem || "Follows the data" },
        attrs.said,
      ],
      leafText: ({ attrs }) => attrs.said,
    },
  },
  marks: {
    ...looks,
    colour: {
      attrs: { name: {} },
      parseDOM: [{ tag: "span[data-colour]", getAttrs: (span) => COLOURS.includes(span.dataset.colour) && { name: span.dataset.colour } }],
      toDOM: ({ attrs }) => ["span", { class: `in-${attrs.name}`, "data-colour": attrs.name }, 0],
    },
    link: {
      attrs: { href: {} },
      inclusive: false,
      parseDOM: [{ tag: "a[href]", getAttrs: (a) => isLink(a.getAttribute("href")) && { href: a.getAttribute("href") } }],
      toDOM: ({ attrs }) => ["a", { href: attrs.href, rel: "noopener" }, 0],
    },
  },
});

// What was copied from elsewhere may only look like a figure.
function figureIn(span) {
  try {
    return { figure: JSON.parse(span.dataset.live), said: span.textContent };
  } catch {
    return false;
  }
}

// Where a link may lead to; the core checks it once more.
export function isLink(address) {
  return /^(https?:\/\/|mailto:|tel:)[^\s<>"]+$|^#[a-z0-9]{1,16}$/i.test(address);
}

// Returns the document that is edited; `said` are the live figures in words, in reading order.
export function toDoc({ blocks = [] }, said) {
  const words = [...said];
  const made = blocks.map(({ kind = "paragraph", level = 0, runs = [] }) =>
    schema.nodes.block.create({ kind, level }, runs.map((run) => inlineOf(run, words)))
  );
  return schema.nodes.doc.create(null, made.length ? made : [schema.nodes.block.create()]);
}

function inlineOf({ text, figure, looks: names = [], colour, link }, words) {
  const marks = names.map((name) => schema.marks[name].create());
  if (colour) marks.push(schema.marks.colour.create({ name: colour }));
  if (link) marks.push(schema.marks.link.create({ href: link }));
  if (!figure) return schema.text(text, marks);
  const { text: shown, problem } = words.shift() ?? { text: "…", problem: "" };
  return schema.nodes.figure.create({ figure, said: shown, problem }, null, marks);
}

// Returns what is kept of a document: its letters alone where it has no looks, lists and figures.
export function toText(doc) {
  const blocks = [];
  let isPlain = true;
  doc.forEach((block) => {
    const runs = [];
    block.forEach((one) => runs.push(runOf(one)));
    const { kind, level } = block.attrs;
    blocks.push({ ...(kind === "paragraph" ? {} : { kind }), ...(level ? { level } : {}), runs });
    isPlain &&= kind === "paragraph" && runs.every((run) => Object.keys(run).join() === "text");
  });
  return isPlain ? blocks.map(({ runs }) => runs.map(({ text }) => text).join("")).join("\n") : { blocks };
}

function runOf(node) {
  const run = node.isText ? { text: node.text } : { figure: node.attrs.figure };
  const names = node.marks.filter(({ type }) => type.name in LOOKS).map(({ type }) => type.name);
  if (names.length) run.looks = names;
  for (const { type, attrs } of node.marks) {
    if (type.name === "colour") run.colour = attrs.name;
    if (type.name === "link") run.link = attrs.href;
  }
  return run;
}

// Returns the words of a document, with its live figures as they are said.
export function plainOf(doc) {
  return doc.textBetween(0, doc.content.size, "\n", (node) => node.attrs.said ?? "");
}
