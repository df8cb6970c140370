// A colour is picked from the page: the next press on it says which. Pictures are looked at pixel by pixel.

export function bindPicking({ page, tell }) {
  let wanted = null;
  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-pick-colour]");
    if (!button) return;
    wanted = inputOf(button);
    page.classList.add("picked-from");
    tell("Press a colour of the page. Escape leaves it as it is.");
  });
  page.addEventListener("click", pick, true);
  page.addEventListener("pointerdown", (event) => wanted && event.stopPropagation(), true);
  document.addEventListener("keydown", (event) => event.key === "Escape" && wanted && leave());

  function pick(event) {
    if (!wanted) return;
    event.preventDefault();
    event.stopPropagation();
    const field = wanted;
    const colour = colourAt(event.clientX, event.clientY, page);
    leave();
    if (!colour) return;
    field.value = colour;
    field.dispatchEvent(new Event("change", { bubbles: true }));
  }

  function leave() {
    wanted = null;
    page.classList.remove("picked-from");
    tell("");
  }
}

const inputOf = (button) => button.closest("li, .own-colour").querySelector("input[type=color]");

// What is seen at a point: the colour of the uppermost thing there that has any.
function colourAt(x, y, page) {
  for (const one of document.elementsFromPoint(x, y)) {
    if (!page.contains(one)) continue;
    const found = one.tagName === "image" || one.tagName === "IMG" ? pixelOf(one, x, y) : shownBy(one);
    if (found) return found;
  }
  return "";
}

function shownBy(one) {
  const style = getComputedStyle(one);
  if (!(one instanceof SVGElement)) return opaque(style.backgroundColor);
  return opaque(style.fill) || fading(style.fill) || opaque(style.stroke);
}

// The colour that a fading begins with.
function fading(fill) {
  const name = fill.match(/^url\("#(.+)"\)/)?.[1];
  const stop = name && document.getElementById(name)?.querySelector("stop");
  return stop ? opaque(getComputedStyle(stop).stopColor) : "";
}

function opaque(said) {
  const parts = said.match(/^rgba?\((\d+), (\d+), (\d+)(?:, ([\d.]+))?\)$/);
  if (!parts || (parts[4] !== undefined && Number(parts[4]) < 0.5)) return "";
  return hex(parts.slice(1, 4).map(Number));
}

const hex = (parts) => `#${parts.map((part) => part.toString(16).padStart(2, "0")).join("")}`;

function pixelOf(image, x, y) {
  const box = image.getBoundingClientRect();
  const canvas = Object.assign(document.createElement("canvas"), { width: 1, height: 1 });
  const pen = canvas.getContext("2d");
  try {
    pen.drawImage(image, box.left - x, box.top - y, box.width, box.height);
    return hex([...pen.getImageData(0, 0, 1, 1).data.slice(0, 3)]);
  } catch {
    return "";
  }
}
