// The panel of live figures: saying which value is wanted, choosing what was meant, and how it is written.

const PAUSE_MS = 250;

export function bindFigures({ panel, saver, say }) {
  const field = panel.querySelector("[data-wanted]");
  const asking = panel.querySelector("[data-asking]");
  const body = panel.querySelector("[data-found]");
  let now = null;
  let turn = 0;
  let pause = 0;

  function open(state) {
    now = state;
    panel.hidden = false;
    const board = panel.offsetParent.getBoundingClientRect();
    const box = state.beside.getBoundingClientRect();
    Object.assign(panel.style, { left: `${Math.max(0, Math.min(box.left - board.left, board.width - panel.offsetWidth))}px`, top: `${box.bottom - board.top + 12}px` });
    panel.scrollIntoView({ block: "nearest" });
  }

  function close() {
    panel.hidden = true;
    clearTimeout(pause);
    now = null;
  }

  // Asks for what is wanted; the words come from the text, where some are chosen there.
  function find(state) {
    open(state);
    asking.hidden = false;
    field.value = state.wanted ?? "";
    field.focus();
    field.select();
    ask();
  }

  async function ask() {
    const mine = ++turn;
    const reply = await saver.post("figures/", { wanted: field.value });
    if (mine !== turn || !now) return;
    body.innerHTML = reply?.data.html ?? "<p>The server cannot be reached. Try again in a moment.</p>";
    const found = body.querySelectorAll("[data-take]").length;
    if (field.value.trim()) say(found ? `${found} values could be meant` : "Nothing is called that");
  }

  // Shows a figure that stands in the text, with how it is written.
  async function change(state) {
    open({ ...state, figure: state.node.attrs.figure, said: state.node.attrs });
    asking.hidden = true;
    body.textContent = "Looking it up …";
    await settle({});
    body.querySelector("select, input, button")?.focus();
  }

  async function settle(changes) {
    const mine = ++turn;
    const before = now.figure;
    // The next change is made to this one, also where it comes before the reply.
    now.figure = { ...before, ...changes };
    const reply = await saver.post("figures/one/", { figure: now.figure });
    if (mine !== turn || !now) return;
    if (!reply?.data.figure) {
      now.figure = before;
      return body.append(refused(reply));
    }
    const { id, value } = document.activeElement;
    now = { ...now, figure: reply.data.figure, said: reply.data.said };
    body.innerHTML = reply.data.html;
    const typedIn = id && document.getElementById(id);
    if (!typedIn) return;
    typedIn.focus();
    if (typedIn.type === "text" || typedIn.type === "number") typedIn.value = value;
  }

  function refused(reply) {
    const line = document.createElement("p");
    line.setAttribute("role", "alert");
    line.textContent = reply?.data.message ?? "The server cannot be reached. Try again in a moment.";
    return line;
  }

  field.addEventListener("input", () => {
    clearTimeout(pause);
    pause = setTimeout(ask, PAUSE_MS);
  });

  panel.addEventListener("click", ({ target }) => {
    const button = target.closest("button");
    if (!button || !now) return;
    const state = now;
    if (button.dataset.take) {
      close();
      (state.onTaken ?? state.onKept)({ figure: JSON.parse(button.dataset.take), said: button.dataset.text, problem: button.dataset.problem });
    } else if ("keep" in button.dataset) {
      close();
      state.onKept({ figure: state.figure, said: state.said.text, problem: state.said.problem });
    } else if ("other" in button.dataset) find(state);
    else if ("typeOut" in button.dataset) {
      close();
      state.onText(state.said.text);
    } else if ("leave" in button.dataset) {
      close();
      state.onClosed();
    }
  });

  panel.addEventListener("change", ({ target }) => {
    if (!now) return;
    const value = target.type === "checkbox" ? target.checked : target.type === "number" ? Number(target.value) : target.value;
    const { shown, words } = target.dataset;
    if (shown) settle({ shown: { ...now.figure.shown, [shown]: value === "" ? null : shown === "places" ? Number(value) : value } });
    else if ("worded" in target.dataset) settle({ words: target.checked ? {} : null });
    else if (words) settle({ words: { ...now.figure.words, [words]: value } });
  });

  panel.addEventListener("keydown", (event) => {
    if (event.key !== "Escape") return;
    event.stopPropagation();
    const state = now;
    close();
    state?.onClosed();
  });

  return { find, change, close };
}
