// The corners of a polygon of one's own: pulled or moved by arrows, added between two others, taken away.

const STEP = 0.02;
const FAR = 0.1;
const FEWEST = 3;
const MOST = 24;
const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

const cornersOf = (pad) => JSON.parse(pad.dataset.corners);
const inside = (part) => Math.round(Math.max(0, Math.min(1, part)) * 1000) / 1000;

export function bindCorners({ margin, send, say }) {
  let held = null;

  function show(pad, corners) {
    pad.dataset.corners = JSON.stringify(corners);
    pad.querySelector("polygon").setAttribute("points", corners.map(([x, y]) => `${x * 100},${y * 100}`).join(" "));
    for (const [place, dot] of [...pad.querySelectorAll("circle")].entries()) {
      const [x, y] = corners[place];
      dot.setAttribute("cx", `${x * 100}%`);
      dot.setAttribute("cy", `${y * 100}%`);
    }
  }

  function keep(pad) {
    send({ type: "change_tile", tile: pad.dataset.cornersOf, changes: { corners: cornersOf(pad) } });
  }

  function put(pad, place, x, y) {
    const corners = cornersOf(pad);
    corners[place] = [inside(x), inside(y)];
    show(pad, corners);
    say(`Corner ${place + 1}: ${Math.round(corners[place][0] * 100)} % across, ${Math.round(corners[place][1] * 100)} % down`);
  }

  const placeOf = (dot) => [...dot.closest("[data-corners-of]").querySelectorAll("circle")].indexOf(dot);

  margin.addEventListener("pointerdown", (event) => {
    const dot = event.target.closest("[data-corners-of] circle");
    if (!dot || event.button) return;
    event.preventDefault();
    dot.focus();
    dot.setPointerCapture(event.pointerId);
    held = { pad: dot.closest("[data-corners-of]"), place: placeOf(dot), isMoved: false };
  });
  margin.addEventListener("pointermove", (event) => {
    if (!held) return;
    const box = held.pad.querySelector("svg").getBoundingClientRect();
    held.isMoved = true;
    put(held.pad, held.place, (event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  });
  for (const end of ["pointerup", "pointercancel"]) {
    margin.addEventListener(end, () => {
      if (held?.isMoved) keep(held.pad);
      held = null;
    });
  }
  margin.addEventListener("keydown", (event) => {
    const dot = event.target.closest("[data-corners-of] circle");
    if (!dot) return;
    const pad = dot.closest("[data-corners-of]");
    const place = placeOf(dot);
    const arrow = ARROWS[event.key];
    const corners = cornersOf(pad);
    if (arrow) {
      event.preventDefault();
      const by = event.shiftKey ? FAR : STEP;
      put(pad, place, corners[place][0] + arrow[0] * by, corners[place][1] + arrow[1] * by);
      keep(pad);
    } else if ((event.key === "Delete" || event.key === "Backspace") && corners.length > FEWEST) {
      event.preventDefault();
      event.stopPropagation();
      corners.splice(place, 1);
      pad.dataset.corners = JSON.stringify(corners);
      keep(pad);
    }
  });
  // Another corner stands in the middle of the longest side.
  margin.addEventListener("click", (event) => {
    const button = event.target.closest("[data-another-corner]");
    if (!button) return;
    const pad = margin.querySelector(`[data-corners-of="${CSS.escape(button.dataset.anotherCorner)}"]`);
    const corners = cornersOf(pad);
    if (corners.length >= MOST) return say(`A polygon has at most ${MOST} corners`);
    const lengths = corners.map(([x, y], place) => {
      const [a, b] = corners[(place + 1) % corners.length];
      return Math.hypot(a - x, b - y);
    });
    const longest = lengths.indexOf(Math.max(...lengths));
    const [[x, y], [a, b]] = [corners[longest], corners[(longest + 1) % corners.length]];
    corners.splice(longest + 1, 0, [inside((x + a) / 2), inside((y + b) / 2)]);
    pad.dataset.corners = JSON.stringify(corners);
    keep(pad);
  });
}
