// Files that are dropped on the page, pasted, or chosen: pictures become pictures, plain text a text, a spreadsheet a
// table.

import { bringPicture } from "../bringing.js";

const MOST_LETTERS = 20000;
const IS_TEXT = /\.(txt|md)$/i;

export function bindFiles({ view, stage, here, list, chooser, saver, send, say, tell }) {
  const hasFiles = (event) => [...(event.dataTransfer?.types ?? [])].includes("Files");

  for (const name of ["dragenter", "dragover"]) {
    document.addEventListener(name, (event) => {
      if (!hasFiles(event)) return;
      event.preventDefault();
      here.hidden = false;
    });
  }
  document.addEventListener("dragleave", (event) => {
    if (!event.relatedTarget) here.hidden = true;
  });
  document.addEventListener("drop", (event) => {
    if (!hasFiles(event)) return;
    event.preventDefault();
    here.hidden = true;
    const over = event.target.closest?.("[data-band]");
    const tile = event.target.closest?.("[data-tile]");
    const at = { instead: tile?.dataset.kind === "spot" ? tile.dataset.tile : "", into: tile && "takesPicture" in tile.dataset ? tile.dataset.tile : "" };
    take([...event.dataTransfer.files], over?.dataset.band ?? view.currentBand(), at);
  });

  list.addEventListener("change", async ({ target }) => {
    if (!target.matches("[data-bring-tiles]") || !target.files.length) return;
    const { instead, band } = JSON.parse(target.dataset.add);
    const problem = list.querySelector("[data-picture-problem]");
    problem.hidden = false;
    problem.textContent = "Taking it in …";
    const said = await pictures([...target.files], band ?? view.currentBand(), { instead });
    problem.textContent = said;
    problem.hidden = !said;
    if (!said) chooser.close();
  });

  // Takes files in, one after the other; a place that was kept, or letters, are filled by the first picture.
  async function take(files, band, at = {}) {
    if (!band) return tell("Add a band first: then there is a place for what you bring.");
    const images = files.filter((file) => file.type.startsWith("image/"));
    const problems = [await pictures(images, band, at)];
    for (const file of files.filter((one) => !images.includes(one))) problems.push(await other(file, band));
    const said = problems.filter(Boolean).join(" ");
    if (said) tell(said);
  }

  // Returns what went wrong, or an empty text.
  async function pictures(files, band, { instead = "", into = "" }) {
    const problems = [];
    for (const [place, file] of files.entries()) {
      say(files.length > 1 ? `Taking in picture ${place + 1} of ${files.length}` : "Taking in the picture");
      const { name, aspect, message } = await bringPicture(file, stage.dataset.pictures, saver.csrf);
      const tile = { type: "picture", picture: name, aspect };
      if (!name) problems.push(`${file.name}: ${message}`);
      else if (into && !place) send({ type: "fill_tile", tile: into, picture: name, aspect });
      else if (instead && !place) send({ type: "put_instead", instead, tile });
      else send({ type: "add_tile", band, tile });
    }
    return problems.join(" ");
  }

  async function other(file, band) {
    if (!IS_TEXT.test(file.name)) return table(file, band);
    const text = (await file.text()).trim();
    if (!text) return `${file.name}: there is nothing in it.`;
    if (text.length > MOST_LETTERS) return `${file.name}: a text has room for ${MOST_LETTERS.toLocaleString()} letters; divide it into several.`;
    send({ type: "add_tile", band, tile: { type: "text", role: "body", text } });
    return "";
  }

  async function table(file, band) {
    say(`Taking in ${file.name}`);
    const body = new FormData();
    body.set("way", "file");
    body.set("csrfmiddlewaretoken", saver.csrf);
    body.append("file", file);
    const response = await fetch(stage.dataset.tables, { method: "POST", body }).catch(() => null);
    if (!response) return "The server cannot be reached. Nothing was stored; try again in a moment.";
    const found = response.redirected && /\/tables\/([^/]+)\/(\?|$)/.exec(response.url);
    if (found) {
      chooser.open(band, found[1]);
      return "";
    }
    if (response.redirected) return `${file.name} is being read. It stands among your tables once that is done.`;
    const page = new DOMParser().parseFromString(await response.text(), "text/html");
    return page.querySelector("#problem")?.textContent.trim() || `${file.name} could not be taken in. Nothing was stored.`;
  }

  return { take };
}
