// The notes of whoever shows a report: they follow the window that shows it, to its bands and to what is chosen there,
// and can lead it.

const channel = new BroadcastChannel(document.body.dataset.channel);
const clock = document.querySelector("[data-clock]");
const BEGUN = document.body.dataset.channel;
const begun = Number(sessionStorage.getItem(BEGUN)) || Date.now();

function follow({ band, place, view }) {
  if (view !== location.search) {
    // The time goes on.
    sessionStorage.setItem(BEGUN, String(begun));
    location.replace(location.pathname + view);
    return;
  }
  sessionStorage.removeItem(BEGUN);
  document.querySelector("[data-place]").textContent = place;
  for (const one of document.querySelectorAll("[data-band]")) {
    const isNow = one.dataset.band === band;
    one.classList.toggle("now", isNow);
    if (isNow) {
      one.setAttribute("aria-current", "true");
      one.scrollIntoView({ block: "center" });
    } else one.removeAttribute("aria-current");
  }
}

function go(by) {
  channel.postMessage({ go: by });
}

channel.onmessage = ({ data }) => data.band && follow(data);
channel.postMessage({ asks: true });
document.querySelectorAll("[data-go]").forEach((one) => one.addEventListener("click", () => go(Number(one.dataset.go))));
document.addEventListener("keydown", (event) => {
  const by = { ArrowRight: 1, PageDown: 1, ArrowLeft: -1, PageUp: -1 }[event.key];
  if (!by) return;
  event.preventDefault();
  go(by);
});
setInterval(() => {
  const seconds = Math.floor((Date.now() - begun) / 1000);
  clock.textContent = `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
}, 1000);
