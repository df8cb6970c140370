// Which point of a picture stays in sight where it is cut: pressed on the whole picture, or moved there by arrows.

const STEP = 0.05;
const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

export function bindFocus({ margin, send, say }) {
  function put(pad, across, down) {
    const at = [across, down].map((one) => Math.round(Math.max(0, Math.min(1, one)) * 100) / 100);
    [pad.dataset.across, pad.dataset.down] = at;
    const dot = pad.querySelector("circle");
    dot.setAttribute("cx", `${at[0] * 100}%`);
    dot.setAttribute("cy", `${at[1] * 100}%`);
    say(`${Math.round(at[0] * 100)} % across, ${Math.round(at[1] * 100)} % down`);
    send({ type: "change_tile", tile: pad.dataset.focusOf, changes: { across: at[0], down: at[1] } });
  }

  margin.addEventListener("click", (event) => {
    const pad = event.target.closest("[data-focus-of]");
    // A press by a key has no place.
    if (!pad || !event.detail) return;
    const box = pad.getBoundingClientRect();
    put(pad, (event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  });
  margin.addEventListener("keydown", (event) => {
    const pad = event.target.closest("[data-focus-of]");
    const arrow = ARROWS[event.key];
    if (!pad || !arrow) return;
    event.preventDefault();
    put(pad, Number(pad.dataset.across) + arrow[0] * STEP, Number(pad.dataset.down) + arrow[1] * STEP);
  });
}
