// Gentle motion where the author wants it: bars grow and numbers count up, once, when they are first seen.

const MARK = "rect[role=graphics-symbol], path[role=graphics-symbol]";
const MS = 900;
// Figures in smaller type are labels.
const LEAST_PX = 26;
const NUMBER = /\d[\d.,\s\u00a0\u202f]*\d|\d/;

function grow(drawing) {
  const marks = [...drawing.querySelectorAll(MARK)];
  const bars = marks.filter((mark) => mark.tagName === "rect" && Number(mark.getAttribute("width")) && !(Number(mark.getAttribute("rx")) * 2 >= Number(mark.getAttribute("width"))));
  const lie = new Set(bars.map((bar) => Math.round(bar.getAttribute("height")))).size < new Set(bars.map((bar) => Math.round(bar.getAttribute("width")))).size;
  bars.forEach((bar) => {
    bar.style.transformBox = "fill-box";
    bar.style.transformOrigin = lie ? "left" : "bottom";
    bar.animate([{ transform: lie ? "scaleX(0)" : "scaleY(0)" }, { transform: "none" }], { duration: MS, easing: "ease-out" });
  });
  marks.filter((mark) => !bars.includes(mark)).forEach((mark) => mark.animate([{ opacity: 0 }, { opacity: 1 }], { duration: MS, easing: "ease-out" }));
}

function figures(drawing) {
  return [...drawing.querySelectorAll("text")].filter((text) => !text.children.length && Number(text.getAttribute("font-size")) >= LEAST_PX && NUMBER.test(text.textContent));
}

// The last step writes the words as they were, whatever was made of them before.
function count(text) {
  const whole = text.textContent;
  const written = whole.match(NUMBER)[0];
  const mark = written.match(/[.,](?=\d{1,2}$)/)?.[0];
  const places = mark ? written.length - written.lastIndexOf(mark) - 1 : 0;
  const goal = Number(written.replace(/\D/g, "")) / 10 ** places;
  const begun = performance.now();
  const step = (now) => {
    const part = Math.min(1, (now - begun) / MS);
    if (part === 1) {
      text.textContent = whole;
      return;
    }
    text.textContent = whole.replace(written, grouped(goal * (1 - (1 - part) ** 3), places, written, mark));
    requestAnimationFrame(step);
  };
  requestAnimationFrame(step);
}

function grouped(value, places, like, mark) {
  const [before, behind] = value.toFixed(places).split(".");
  const between = like.slice(0, places ? -places - 1 : undefined).match(/\D/)?.[0] ?? "";
  return before.replace(/\B(?=(\d{3})+$)/g, between) + (behind ? mark + behind : "");
}

const seen = new IntersectionObserver((entries) => {
  for (const { target, isIntersecting } of entries) {
    if (!isIntersecting) continue;
    seen.unobserve(target);
    grow(target);
    figures(target).forEach(count);
  }
}, { threshold: 0.3 });

if (!matchMedia("(prefers-reduced-motion: reduce)").matches) {
  document.querySelectorAll("main[data-moves] .tile.visual > svg").forEach((drawing) => seen.observe(drawing));
}
