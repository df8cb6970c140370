// Small pictures of bands: the drawings of the page itself, shown once more.

import { turnOf } from "./geometry.js";

const SVG = "http://www.w3.org/2000/svg";

export function drawMiniatures(ladder, page) {
  const holders = [...ladder.querySelectorAll("[data-mini]")];
  // All is measured before anything is put in: else each band would be laid out anew.
  const made = holders.map((holder) => {
    const band = page.querySelector(`[data-band="${CSS.escape(holder.dataset.mini)}"]`);
    return band ? [miniature(band)] : [];
  });
  for (const [place, holder] of holders.entries()) holder.replaceChildren(...made[place]);
}

function miniature(band) {
  const outer = band.getBoundingClientRect();
  const small = element("svg", { viewBox: `0 0 ${outer.width} ${outer.height}`, "aria-hidden": "true" });
  // On the paper of its page, which may be dark.
  small.append(element("rect", { width: outer.width, height: outer.height, fill: getComputedStyle(band.closest(".page")).backgroundColor }));
  for (const drawing of band.querySelectorAll("svg.ground, .tile > svg.card, .tile > svg:not(.narrow, .card), .drawn > svg")) {
    const { left, top, width, height } = drawing.getBoundingClientRect();
    if (!width || !height) continue;
    drawing.id ||= `drawing-${Math.random().toString(36).slice(2)}`;
    const [, , wide, high] = drawing.getAttribute("viewBox").split(" ").map(Number);
    const turn = turnOf(drawing.closest("[data-tile]") ?? drawing);
    const size = turn ? [drawing.clientWidth, drawing.clientHeight] : [width, height];
    const middle = `translate(${left - outer.left + width / 2} ${top - outer.top + height / 2}) rotate(${turn})`;
    const used = element("g", { transform: `${middle} translate(${-size[0] / 2} ${-size[1] / 2})` });
    const isHeader = drawing.classList.contains("header");
    if (isHeader) used.append(element("rect", { width: size[0], height: size[1], fill: getComputedStyle(drawing).backgroundColor }));
    // What is used once more is drawn in its own size, and made smaller here.
    const scaled = element("g", { transform: `scale(${(isHeader ? size[1] : size[0]) / wide} ${size[1] / high})` });
    scaled.append(element("use", { href: `#${drawing.id}`, width: wide, height: high }));
    used.append(scaled);
    small.append(used);
  }
  return small;
}

function element(name, attributes) {
  const made = document.createElementNS(SVG, name);
  for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, value);
  return made;
}
