// Charts on a published page: the arrow keys go from mark to mark, a tap or a mark in focus says its name and value;
// a press, Enter, or a second tap picks what it stands for.

const MARK = "[role=graphics-symbol]";
const tip = document.createElement("p");
tip.className = "tip";
tip.hidden = true;
tip.setAttribute("role", "status");
document.body.append(tip);

function show(mark) {
  document.querySelector(".marked")?.classList.remove("marked");
  if (!mark) {
    tip.hidden = true;
    return;
  }
  mark.classList.add("marked");
  tip.textContent = mark.querySelector("title").textContent;
  tip.hidden = false;
  const at = mark.getBoundingClientRect();
  const width = tip.offsetWidth;
  const left = Math.min(Math.max(8, at.left + at.width / 2 - width / 2), document.documentElement.clientWidth - width - 8);
  const above = at.top - tip.offsetHeight - 8;
  tip.style.left = `${left + scrollX}px`;
  tip.style.top = `${(above > 0 ? above : at.bottom + 8) + scrollY}px`;
}

function pick(mark) {
  mark.dispatchEvent(new CustomEvent("pick", { bubbles: true }));
}

function bind(chart) {
  const marks = [...chart.querySelectorAll(MARK)];
  let place = -1;
  const go = (to) => {
    place = Math.max(0, Math.min(marks.length - 1, to));
    show(marks[place]);
  };
  chart.setAttribute("tabindex", "0");
  chart.addEventListener("keydown", (event) => {
    const steps = { ArrowRight: place + 1, ArrowDown: place + 1, ArrowLeft: place - 1, ArrowUp: place - 1, Home: 0, End: marks.length - 1 };
    if (event.key === "Escape") {
      place = -1;
      show(null);
    } else if (event.key === "Enter" && marks[place]) {
      pick(marks[place]);
    } else if (event.key in steps) {
      event.preventDefault();
      go(steps[event.key]);
    }
  });
  chart.addEventListener("blur", () => show(null));
  chart.addEventListener("click", (event) => {
    const mark = event.target.closest(MARK);
    const wasShown = mark?.classList.contains("marked");
    if (mark) go(marks.indexOf(mark));
    else show(null);
    if (mark && (wasShown || event.pointerType === "mouse")) pick(mark);
  });
}

const CHARTS = "svg[role=graphics-document]";
document.querySelectorAll(CHARTS).forEach(bind);
// What is drawn later is read as well.
document.addEventListener("drawn", (event) => {
  show(null);
  event.target.querySelectorAll(CHARTS).forEach(bind);
});
