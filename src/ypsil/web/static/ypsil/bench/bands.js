// The ladder of bands: where one is dragged to, or moved by keys; pictures of all that follow the page.

export function bindBands({ ladder, page, view, send, say }) {
  let dragged = null;

  const rungs = () => [...ladder.querySelectorAll("[data-rung]")];

  ladder.addEventListener("click", (event) => {
    const rung = event.target.closest("[data-go]");
    if (!rung) return;
    event.preventDefault();
    const id = rung.dataset.go;
    page.querySelector(`[data-band="${CSS.escape(id)}"]`)?.scrollIntoView({ block: "start", behavior: "smooth" });
    view.choose(null, false, id);
  });

  ladder.addEventListener("keydown", (event) => {
    const rung = event.target.closest("[data-rung]");
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (!rung || !by || !event.altKey) return;
    event.preventDefault();
    move(rung.dataset.rung, rungs().indexOf(rung) + by);
  });

  function move(id, index) {
    if (index < 0 || index >= rungs().length) return;
    send({ type: "move_band", band: id, index });
    say(`Band moved to place ${index + 1} of ${rungs().length}`);
  }

  ladder.addEventListener("pointerdown", (event) => {
    const grip = event.target.closest("[data-grip]");
    if (!grip || event.button) return;
    event.preventDefault();
    grip.setPointerCapture(event.pointerId);
    dragged = { rung: grip.closest("[data-rung]"), from: event.clientY, index: 0 };
    dragged.index = rungs().indexOf(dragged.rung);
    dragged.rung.classList.add("dragged");
  });
  ladder.addEventListener("pointermove", (event) => {
    if (!dragged) return;
    dragged.rung.style.transform = `translateY(${event.clientY - dragged.from}px)`;
    const others = rungs().filter((one) => one !== dragged.rung);
    const above = others.filter((one) => middle(one) < event.clientY).length;
    dragged.to = above;
    for (const [place, one] of others.entries()) one.classList.toggle("gives-way", place === above);
    ladder.classList.toggle("last-gives-way", above === others.length);
  });
  const drop = (event) => {
    if (!dragged) return;
    const { rung, index, to } = dragged;
    dragged = null;
    rung.style.transform = "";
    rung.classList.remove("dragged");
    ladder.classList.remove("last-gives-way");
    for (const one of rungs()) one.classList.remove("gives-way");
    if (event.type === "pointerup" && to !== undefined && to !== index) move(rung.dataset.rung, to);
  };
  ladder.addEventListener("pointerup", drop);
  ladder.addEventListener("pointercancel", drop);
  return { move };
}

const middle = (element) => {
  const { top, height } = element.getBoundingClientRect();
  return top + height / 2;
};
