// How large the page is shown: as wide as its place, whole, or in its own size.

const STEP = 1.1;
const [LEAST, MOST] = [0.1, 4];
const KEPT = "ypsil-zoom";

export function bindZoom({ page, stage, board, view }) {
  const said = document.querySelector("[data-zoom-said]");
  let mode = localStorage.getItem(KEPT) || "width";
  const wide = () => Number.parseFloat(getComputedStyle(page).getPropertyValue("--wide"));
  const roomFor = () => {
    const style = getComputedStyle(board);
    return board.clientWidth - Number.parseFloat(style.paddingLeft) - Number.parseFloat(style.paddingRight);
  };

  function factor() {
    if (mode === "width") return Math.min(roomFor() / wide(), Math.max(1, Math.min(1.5, roomFor() / wide())));
    if (mode === "page") return Math.min(roomFor() / wide(), (board.clientHeight - 40) / (page.clientHeight / (page.clientWidth / wide())));
    return Number(mode) || 1;
  }

  function apply() {
    const by = Math.max(LEAST, Math.min(MOST, factor()));
    // On a phone the page is as wide as the screen, its tiles one below the other.
    stage.style.width = window.innerWidth <= 700 ? "" : `${by * wide()}px`;
    said.textContent = `${Math.round(by * 100)} %`;
    for (const button of document.querySelectorAll("[data-zoom]")) button.setAttribute("aria-pressed", String(button.dataset.zoom === mode));
    view.frame();
  }

  function set(to) {
    mode = to;
    localStorage.setItem(KEPT, mode);
    apply();
  }

  function times(by) {
    set(String(Math.max(LEAST, Math.min(MOST, factor() * by))));
  }

  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-zoom], [data-zoom-by]");
    if (!button) return;
    if (button.dataset.zoom) set(button.dataset.zoom);
    else times(button.dataset.zoomBy === "in" ? STEP : 1 / STEP);
  });
  // What is under the pointer stays there.
  board.addEventListener("wheel", (event) => {
    if (!event.ctrlKey && !event.metaKey) return;
    event.preventDefault();
    const before = stage.getBoundingClientRect();
    const part = (event.clientY - before.top) / before.height;
    times(event.deltaY < 0 ? STEP : 1 / STEP);
    const after = stage.getBoundingClientRect();
    board.scrollTop += after.top + part * after.height - event.clientY;
  }, { passive: false });
  new ResizeObserver(apply).observe(board);
  return { set, times, apply };
}
