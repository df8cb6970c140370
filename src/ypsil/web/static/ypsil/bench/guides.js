// Lines that show what lines up while something is moved, and how large gaps are. What is near a line stands on it.

const NEAR_PX = 5;
const EVEN_PX = 0.75;
const MOST_LINES = 6;
const EDGES = { x: ["left", "right"], y: ["top", "foot"] };

const middle = (box, axis) => (box[EDGES[axis][0]] + box[EDGES[axis][1]]) / 2;
const lines = (box, axis) => [box[EDGES[axis][0]], middle(box, axis), box[EDGES[axis][1]]];

// How much further something goes so that an edge or its middle stands on one of another; null where none is near.
export function snap(box, others, axis) {
  let best = null;
  for (const other of others) {
    for (const to of lines(other, axis)) {
      for (const from of lines(box, axis)) {
        const by = to - from;
        if (Math.abs(by) <= NEAR_PX && (best === null || Math.abs(by) < Math.abs(best))) best = by;
      }
    }
  }
  const even = evenGaps(box, others, axis);
  if (even && Math.abs(even.by) <= NEAR_PX && (best === null || Math.abs(even.by) < Math.abs(best))) best = even.by;
  return best;
}

// The gaps to the nearest on both sides, and how much further it goes until they are alike.
function evenGaps(box, others, axis) {
  const [start, end] = EDGES[axis];
  const [side, far] = EDGES[axis === "x" ? "y" : "x"];
  const beside = others.filter((other) => !other.isPage && other[side] < box[far] && box[side] < other[far]);
  const before = beside.filter((other) => other[end] <= box[start] + NEAR_PX).sort((a, b) => b[end] - a[end])[0];
  const after = beside.filter((other) => other[start] >= box[end] - NEAR_PX).sort((a, b) => a[start] - b[start])[0];
  const gaps = { before: before && box[start] - before[end], after: after && after[start] - box[end] };
  if (before && after) gaps.by = (gaps.after - gaps.before) / 2;
  return before || after ? { ...gaps, from: before, to: after } : null;
}

export class Guides {
  constructor(layer) {
    this.layer = layer;
  }

  clear() {
    this.layer.replaceChildren();
  }

  // Draws what a box lines up with, and the gaps to what is nearest; `scale` turns px on screen into px of the page.
  show(box, others, scale) {
    const drawn = [];
    for (const axis of ["x", "y"]) {
      for (const at of lines(box, axis)) {
        const even = others.filter((other) => lines(other, axis).some((one) => Math.abs(one - at) <= EVEN_PX));
        if (even.length && drawn.length < MOST_LINES) drawn.push(this.line(at, axis, [box, ...even]));
      }
      const gaps = evenGaps(box, others, axis);
      if (!gaps) continue;
      const alike = gaps.by !== undefined && Math.abs(gaps.by) <= EVEN_PX;
      if (gaps.from && gaps.before > 0) drawn.push(this.gap(gaps.from[EDGES[axis][1]], box[EDGES[axis][0]], box, axis, scale, alike));
      if (gaps.to && gaps.after > 0) drawn.push(this.gap(box[EDGES[axis][1]], gaps.to[EDGES[axis][0]], box, axis, scale, alike));
    }
    this.layer.replaceChildren(...drawn);
  }

  line(at, axis, boxes) {
    const [side, far] = EDGES[axis === "x" ? "y" : "x"];
    const from = Math.min(...boxes.map((box) => box[side]));
    const to = Math.max(...boxes.map((box) => box[far]));
    return piece("guide", axis === "x" ? { left: at, top: from, width: 1, height: to - from } : { left: from, top: at, width: to - from, height: 1 });
  }

  gap(from, to, box, axis, scale, isAlike) {
    const across = axis === "x" ? (box.top + box.foot) / 2 : (box.left + box.right) / 2;
    const made = piece(isAlike ? "gap alike" : "gap", axis === "x" ? { left: from, top: across, width: to - from, height: 1 } : { left: across, top: from, width: 1, height: to - from });
    const label = document.createElement("b");
    label.textContent = Math.round((to - from) / scale);
    made.append(label);
    return made;
  }
}

export function piece(name, { left, top, width, height }) {
  const made = document.createElement("i");
  made.className = name;
  Object.assign(made.style, { left: `${left}px`, top: `${top}px`, width: `${width}px`, height: `${height}px` });
  return made;
}
