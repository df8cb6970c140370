// Others at the same report: what they change is shown within a second, and where they are.

import { newId } from "../save.js";

const STILL_MS = 10_000;
const SOON_MS = 300;
const ASK_MS = 5_000;
const TRIES = 3;

export function bindCompany({ view, saver, url, said }) {
  const own = newId();
  let due = 0;
  let failed = 0;
  let asking = 0;
  let soon = 0;

  async function catchUp() {
    // Whoever types, drags or waits for a reply of their own is not disturbed: it is looked at again soon.
    if (saver.queue.length || document.querySelector(".typing, .moving")) return;
    const before = saver.revision;
    const reply = await saver.post("state/", { known: view.digests() });
    if (!reply || reply.status >= 400 || saver.revision !== before || saver.queue.length) return;
    saver.take(reply, null);
  }

  function hear({ revision, here }) {
    due = revision ?? 0;
    const others = here.filter((one) => one.window !== own);
    const names = [...new Set(others.map((one) => one.name))];
    said.textContent = names.length ? `Also here: ${names.join(", ")}${others.length > names.length ? ` (${others.length} windows)` : ""}` : "";
    said.title = said.textContent;
    const held = new Map(others.flatMap((one) => one.at.map((id) => [id, one.name])));
    for (const tile of view.tiles()) {
      const name = held.get(view.idOf(tile)) ?? held.get(tile.dataset.tile);
      tile.classList.toggle("theirs", name !== undefined);
      if (name === undefined) delete tile.dataset.theirs;
      else tile.dataset.theirs = name;
    }
    if (due > saver.revision) catchUp();
  }

  setInterval(() => due > saver.revision && catchUp(), SOON_MS * 3);

  const tell = () => saver.post("here/", { window: own, at: view.several });
  setInterval(tell, STILL_MS);
  function chosen() {
    clearTimeout(soon);
    soon = setTimeout(tell, SOON_MS);
  }

  function listen() {
    const events = new EventSource(`${url}live/`);
    events.addEventListener("message", (event) => {
      if (failed >= TRIES) saver.hears(true);
      failed = 0;
      clearInterval(asking);
      hear(JSON.parse(event.data));
    });
    // Where events do not come through, the page is asked for now and then.
    events.addEventListener("error", () => {
      if (++failed !== TRIES) return;
      saver.hears(false);
      asking = setInterval(catchUp, ASK_MS);
    });
    window.addEventListener("pagehide", () => events.close());
  }
  listen();
  chosen();
  return { chosen };
}
