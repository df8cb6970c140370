// Copying and pasting: tiles keep their look, within a report and into another one.

const MOST_LETTERS = 20000;
const MOST_CELLS = 2000;
const KIND = "application/x-ypsil-tiles+json";

export function bindClipboard({ view, margin, saver, send, say, isBusy, tell, files }) {
  const isElsewhere = (event) => isBusy() || event.target.closest?.("input, textarea, select, [contenteditable=true], .writing-bar, .figure-panel") || !document.getSelection().isCollapsed;

  // The margin holds what is chosen as it would be put in elsewhere.
  const chosenAsText = () => (view.several.length ? margin.querySelector("[data-copied]")?.textContent : "");

  function copy(event) {
    if (isElsewhere(event)) return false;
    const held = chosenAsText();
    if (!held) return false;
    event.preventDefault();
    event.clipboardData.setData(KIND, held);
    event.clipboardData.setData("text/plain", view.chosenTiles().map((tile) => tile.dataset.text || tile.querySelector("[data-pick]").ariaLabel).join("\n"));
    say(view.several.length === 1 ? "Copied" : `${view.several.length} copied`);
    return true;
  }

  document.addEventListener("copy", copy);
  document.addEventListener("cut", (event) => {
    if (copy(event)) send({ type: "remove_tiles", tiles: view.several });
  });
  document.addEventListener("paste", (event) => {
    if (isElsewhere(event)) return;
    const held = event.clipboardData.getData(KIND);
    const band = view.currentBand();
    if (!band) return;
    if (held) {
      event.preventDefault();
      send({ type: "paste_tiles", band, tiles: JSON.parse(held) });
      return;
    }
    const text = event.clipboardData.getData("text/plain").trim();
    if (!text) {
      const held = [...event.clipboardData.files];
      if (held.length) event.preventDefault();
      return held.length ? files.take(held, band) : undefined;
    }
    event.preventDefault();
    if (text.length > MOST_LETTERS && !/\t/.test(text)) return tell(`A text has room for ${MOST_LETTERS.toLocaleString()} letters. What you paste is not taken; divide it into several texts, or take answers in as a table.`);
    if (/\t/.test(text)) return pasteCells(band, text);
    const role = text.length <= 80 && !text.includes("\n") ? "heading" : "body";
    send({ type: "add_tile", band, tile: { type: "text", role, text } });
  });

  // Cells become a table, and the visual that suits them.
  async function pasteCells(band, text) {
    // Many are a table like one from a file, of which drawings are offered.
    if ((text.match(/[\t\n]/g)?.length ?? 0) >= MOST_CELLS) return files.take([new File([text], `Pasted ${stamp()}.tsv`)], band);
    say("Making a table of what was pasted");
    const reply = await saver.post(`bands/${band}/numbers/`, { text });
    if (reply?.data.edit) send(reply.data.edit);
    else tell(reply?.data.message || "The server cannot be reached. Try again in a moment.");
  }
}

// The day and the minute, as files may be called.
const stamp = () => new Date().toISOString().slice(0, 16).replace("T", " ").replace(":", ".");
