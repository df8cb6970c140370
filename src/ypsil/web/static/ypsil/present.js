// Shows a report band by band: by keys, by buttons, and from the window with the notes.

const body = document.body;
const page = document.querySelector("main.page");
const bands = [...page.querySelectorAll(".band")].filter((band) => band.querySelector(".tile"));
const place = document.querySelector("[data-place]");
const channel = new BroadcastChannel(body.dataset.channel);
// Narrower pages are laid out as on a phone.
const LEAST_PX = 720;
const STILL_MS = 2500;
let now = Math.max(0, bands.findIndex((band) => `#${band.id}` === location.hash));
let still = 0;

function fit() {
  const wide = Math.max(LEAST_PX, parseFloat(getComputedStyle(page).getPropertyValue("--wide")) || 0);
  page.style.width = `${wide}px`;
  const high = page.offsetHeight;
  const by = Math.min(innerWidth / wide, innerHeight / high);
  page.style.transform = `scale(${by})`;
  page.style.left = `${(innerWidth - by * wide) / 2}px`;
  page.style.top = `${(innerHeight - by * high) / 2}px`;
}

// What a band stands on goes on around it.
function around(band) {
  const fill = band.querySelector("svg.ground :is(path, rect)")?.getAttribute("fill") ?? "";
  const first = fill.startsWith("#") ? fill : band.querySelector("svg.ground stop")?.getAttribute("stop-color");
  const paper = getComputedStyle(page).backgroundColor;
  body.style.setProperty("--around", first || paper);
}

function show(to) {
  now = Math.max(0, Math.min(bands.length - 1, to));
  bands.forEach((band, index) => {
    band.classList.toggle("now", index === now);
    band.inert = index !== now;
  });
  const said = bands[now].getAttribute("aria-label");
  place.textContent = `${now + 1} / ${bands.length}`;
  place.setAttribute("aria-label", `${now + 1} of ${bands.length}: ${said}`);
  history.replaceState(null, "", `#${bands[now].id}`);
  around(bands[now]);
  fit();
  tell();
}

function tell() {
  channel.postMessage({ band: bands[now].id, place: `${now + 1} / ${bands.length}`, view: location.search });
}

function full() {
  if (document.fullscreenElement) document.exitFullscreen();
  else document.documentElement.requestFullscreen?.().catch(() => {});
}

function notes() {
  window.open(body.dataset.notes + location.search, body.dataset.channel, "width=640,height=720");
}

function awake() {
  body.classList.remove("still");
  clearTimeout(still);
  still = setTimeout(() => body.classList.add("still"), STILL_MS);
}

const KEYS = {
  ArrowRight: () => show(now + 1), ArrowDown: () => show(now + 1), PageDown: () => show(now + 1), " ": () => show(now + 1),
  ArrowLeft: () => show(now - 1), ArrowUp: () => show(now - 1), PageUp: () => show(now - 1),
  Home: () => show(0), End: () => show(bands.length - 1), f: full, n: notes,
};

if (bands.length) {
  body.classList.add("on-screen");
  addEventListener("resize", fit);
  // What is chosen makes a band higher or lower, and other numbers are spoken of.
  document.addEventListener("chosen", () => {
    fit();
    tell();
  });
  addEventListener("pointermove", awake);
  document.addEventListener("keydown", (event) => {
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
    if (event.target.closest?.("input, select, textarea")) return;
    const isIts = event.target.closest?.("button, a, summary, svg[tabindex]");
    if (event.ctrlKey || event.metaKey || event.altKey || !(key in KEYS) || (isIts && key !== "f" && key !== "n" && !key.startsWith("Page"))) return;
    event.preventDefault();
    KEYS[key]();
  });
  document.querySelectorAll("[data-go]").forEach((one) => one.addEventListener("click", () => show(now + Number(one.dataset.go))));
  document.querySelector("[data-full]").addEventListener("click", full);
  document.querySelector("[data-notes-window]").addEventListener("click", notes);
  channel.onmessage = ({ data }) => (data.go ? show(now + data.go) : data.asks && tell());
  document.fonts.ready.then(fit);
  show(now);
  awake();
}
