// Where things stand on the page that is shown: px on screen, px of the page, columns and rows.

// The measures of the page as it is shown now. `scale` is px on screen for a px of the page.
export function measures(page) {
  const style = getComputedStyle(page);
  const said = (name) => Number.parseFloat(style.getPropertyValue(`--${name}`));
  const wide = said("wide");
  const scale = page.clientWidth / wide;
  const columns = said("columns");
  const gutter = said("gutter");
  const [left, right] = [said("left"), said("right")];
  const column = (wide - left - right - (columns - 1) * gutter) / columns;
  return { scale, columns, row: said("row"), pitch: column + gutter, gutter, wide, left, right };
}

// The columns and rows of a tile in its band, counted from 0, the band's own heading left out.
export function placeOf(tile) {
  const style = getComputedStyle(tile);
  const head = Number(tile.closest("[data-band]").dataset.head || 0);
  const span = (end) => Number.parseInt(end.replace("span ", ""), 10);
  return {
    column: Number.parseInt(style.gridColumnStart, 10) - 1,
    row: Number.parseInt(style.gridRowStart, 10) - 1 - head,
    width: span(style.gridColumnEnd),
    height: span(style.gridRowEnd),
  };
}

// A place as it is spoken: "column 3 to 10, row 4 to 20".
export function spoken({ column, row, width, height }) {
  return `column ${column + 1} to ${column + width}, row ${row + 1} to ${row + height}`;
}

// The rectangle of an element, from the upper left corner of what holds the page, in px on screen; of what is turned,
// that which it has as long as it stands straight.
export function rectIn(stage, element) {
  const [outer, inner] = [stage.getBoundingClientRect(), element.getBoundingClientRect()];
  if (!turnOf(element)) return rect(inner.left - outer.left, inner.top - outer.top, inner.width, inner.height);
  const { offsetWidth: width, offsetHeight: height } = element;
  const [x, y] = [(inner.left + inner.right) / 2, (inner.top + inner.bottom) / 2];
  return rect(x - width / 2 - outer.left, y - height / 2 - outer.top, width, height);
}

// How far a tile is turned, in degrees as the hands of a clock go.
export function turnOf(tile) {
  return Number(tile.dataset?.turned || 0);
}

// A way on the screen as what is turned sees it.
export function alongTurned(x, y, degrees) {
  const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return [x * cos + y * sin, y * cos - x * sin];
}

export function rect(left, top, width, height) {
  return { left, top, width, height, right: left + width, foot: top + height };
}

export function moved(box, x, y) {
  return rect(box.left + x, box.top + y, box.width, box.height);
}

export function union(boxes) {
  const left = Math.min(...boxes.map((box) => box.left));
  const top = Math.min(...boxes.map((box) => box.top));
  const right = Math.max(...boxes.map((box) => box.right));
  const foot = Math.max(...boxes.map((box) => box.foot));
  return rect(left, top, right - left, foot - top);
}

export function meets(one, other) {
  return one.left < other.right && other.left < one.right && one.top < other.foot && other.top < one.foot;
}
