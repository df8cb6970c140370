// A few numbers typed at the tile: drawn with every keystroke, kept when the field is left.

const PAUSE_MS = 200;

export function bindNumbers({ saver, view, chooser, send }) {
  let pause = 0;

  const problemOf = (field) => field.closest(".few-numbers").querySelector("[data-few-problem]");

  function tell(field, text) {
    const problem = problemOf(field);
    problem.textContent = text;
    problem.hidden = !text;
  }

  async function ask(path, field) {
    const asked = field.value;
    const reply = await saver.post(path, { text: asked });
    // A late reply says nothing about what has been typed since.
    if (asked === field.value) tell(field, reply ? reply.data.message || "" : "The server cannot be reached. Try again in a moment.");
    return reply && reply.status < 400 ? reply.data : null;
  }

  async function draw(field) {
    const id = field.dataset.typed;
    const typed = field.value;
    const data = await ask(`tiles/${id}/drawn/`, field);
    const svg = view.tile(id)?.querySelector("svg");
    if (data && svg && typed === field.value) svg.outerHTML = data.svg;
  }

  async function keep(field) {
    clearTimeout(pause);
    const typed = field.value;
    const data = await ask(`tiles/${field.dataset.typed}/kept/`, field);
    if (!data) return;
    field.defaultValue = typed;
    saver.take({ status: 200, data }, null);
  }

  async function start(button) {
    const field = document.getElementById("few-numbers");
    const data = await ask(`bands/${button.dataset.few}/numbers/`, field);
    if (!data) return;
    chooser.close();
    send(data.edit);
  }

  async function turn(button) {
    const field = document.getElementById("typed-numbers");
    const data = await ask(`tiles/${button.dataset.turn}/turned/`, field);
    if (!data) return;
    field.value = data.text;
    await keep(field);
  }

  document.addEventListener("input", (event) => {
    const field = event.target.closest("[data-typed]");
    if (!field) return;
    clearTimeout(pause);
    pause = setTimeout(() => draw(field), PAUSE_MS);
  });
  document.addEventListener("change", (event) => {
    const field = event.target.closest("[data-typed]");
    if (field) keep(field);
  });
  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-few], [data-turn]");
    if (!button) return;
    if (button.dataset.few) start(button);
    else turn(button);
  });
}
