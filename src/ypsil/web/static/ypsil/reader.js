// Keeps an open report at its newest numbers: told by the server, or, where that cannot be, by asking now and then.

import { page, say, taken } from "./swap.js";

const ASK_MS = 20_000;
const AGAIN_MS = 5_000;
const isLive = Boolean(page?.dataset.live);
let shown = isLive ? Number(page.dataset.release) : 0;
let isAsking = false;

async function refresh() {
  if (isAsking) return;
  isAsking = true;
  const answer = await fetch(location.href, { cache: "no-cache", headers: { Accept: "text/html" } }).catch(() => null);
  isAsking = false;
  // Where many pages are made at once this one waits for its turn.
  if (answer?.status === 503) setTimeout(refresh, AGAIN_MS);
  if (!answer || !answer.ok) return;
  const newer = new DOMParser().parseFromString(await answer.text(), "text/html");
  const body = newer.querySelector("main[data-live]");
  if (!body || Number(body.dataset.release) === shown) return;
  shown = Number(body.dataset.release);
  const changed = await taken(newer, true);
  if (changed) say(changed === 1 ? "One part of this page has newer numbers." : `${changed} parts of this page have newer numbers.`);
}

function listen() {
  const events = new EventSource(page.dataset.live);
  events.onmessage = (event) => {
    const { release } = JSON.parse(event.data);
    if (release === null) events.close();
    else if (release !== shown) refresh();
  };
  events.onerror = () => {
    // The browser asks again by itself, unless it was refused.
    if (events.readyState === EventSource.CLOSED) setInterval(refresh, ASK_MS);
  };
}

if (isLive) {
  if ("EventSource" in window) listen();
  else setInterval(refresh, ASK_MS);
}
