// What is told in order: its entries typed in rows of fields beside the page, or fed from a table.

const PARTS = ["head", "text", "figure", "sign"];

export function bindEntries({ margin, send, say }) {
  // Which field is entered once the margin is drawn anew: the place of an entry (from 1) and its part.
  let next = null;

  const editorOf = (element) => element.closest("[data-entries]");
  const rowsOf = (editor) => [...editor.querySelectorAll("[data-entry]")];
  const entryOf = (row) => Object.fromEntries(PARTS.map((part) => [part, row.querySelector(`[data-part=${part}]`)?.value ?? ""]));
  const entriesOf = (editor) => rowsOf(editor).map(entryOf);

  function sendEntries(editor, entries) {
    send({ type: "change_tile", tile: editor.dataset.of, changes: { entries: entries.slice(0, Number(editor.dataset.most)) } });
  }

  function enter(place, part = "head") {
    next = { place, part };
  }

  margin.addEventListener("change", ({ target }) => {
    if (target.matches("[data-part]")) sendEntries(editorOf(target), entriesOf(editorOf(target)));
    else if (target.matches("[data-feed-from], [data-chosen-edit]") && target.value) send(JSON.parse(target.value));
    else if (target.matches("[data-feed-part]")) sendFeed(target);
  });

  function sendFeed(field) {
    const holder = field.closest("[data-feed]");
    const value = "data" in field.dataset ? JSON.parse(field.value) : field.type === "checkbox" ? field.checked : field.type === "number" ? Number(field.value) : field.value;
    const feed = { ...JSON.parse(holder.dataset.feed), [field.dataset.feedPart]: value };
    holder.dataset.feed = JSON.stringify(feed);
    send({ type: "change_tile", tile: holder.dataset.of, changes: { feed } });
  }

  const MOVES = {
    up: (entries, at) => entries.splice(at - 1, 0, ...entries.splice(at, 1)),
    down: (entries, at) => entries.splice(at + 1, 0, ...entries.splice(at, 1)),
    remove: (entries, at) => entries.splice(at, 1),
    add: (entries) => entries.push({}),
  };
  const SAID = { up: "moved up", down: "moved down", remove: "taken away", add: "added" };

  margin.addEventListener("click", ({ target }) => {
    const button = target.closest("[data-entry-do]");
    if (!button) return;
    const editor = editorOf(button);
    const entries = entriesOf(editor);
    const at = rowsOf(editor).indexOf(button.closest("[data-entry]"));
    const what = button.dataset.entryDo;
    MOVES[what](entries, at);
    const place = { up: at, down: at + 2, remove: Math.min(at + 1, entries.length), add: entries.length }[what];
    if (place) enter(place);
    say(`${editor.dataset.entryIs} ${SAID[what]}`);
    sendEntries(editor, entries);
  });

  margin.addEventListener("keydown", (event) => {
    const { target } = event;
    if (event.key !== "Enter" || !target.matches("input[data-part]") || event.isComposing) return;
    event.preventDefault();
    const editor = editorOf(target);
    const entries = entriesOf(editor);
    const at = rowsOf(editor).indexOf(target.closest("[data-entry]"));
    if (at + 1 === entries.length) entries.push({});
    enter(at + 2, target.dataset.part);
    sendEntries(editor, entries);
  });

  // Several lines become several entries; cells beside each other are what they are, what is said of it, the figure.
  margin.addEventListener("paste", (event) => {
    const { target } = event;
    const pasted = event.clipboardData?.getData("text/plain") ?? "";
    const lines = pasted.split(/\r?\n/).filter((line) => line.trim());
    if (!target.matches("[data-part=head]") || lines.length < 2) return;
    event.preventDefault();
    const editor = editorOf(target);
    const entries = entriesOf(editor);
    const at = rowsOf(editor).indexOf(target.closest("[data-entry]"));
    const made = lines.map((line) => {
      const [head, text = "", figure = ""] = line.split("\t").map((cell) => cell.trim());
      return { head: head.replace(/^(\d+[.)]|[-–•*])\s+/, ""), text, figure };
    });
    // Entries that say nothing yet give way.
    let rest = at;
    while (rest < entries.length && rest - at < made.length && !PARTS.some((part) => entries[rest][part])) rest++;
    entries.splice(at, Math.max(1, rest - at), ...made);
    enter(at + made.length);
    say(`${made.length} lines taken in`);
    sendEntries(editor, entries);
  });

  new MutationObserver(() => {
    if (!next) return;
    const field = margin.querySelector(`#part-${next.part}${next.place}`);
    if (!field) return;
    next = null;
    field.focus();
  }).observe(margin, { childList: true, subtree: true });
}
