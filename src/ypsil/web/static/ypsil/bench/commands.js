// Everything that can be done, by name (Ctrl+K) or by its key; `?` lists the keys.

const SHOWN = 12;
const ANYWHERE = new Set(["/", "?"]);

// A command: what it is called, its key as it is said, when it can be done, what it does.
export function bindCommands({ dialog, list, all, say }) {
  const field = dialog.querySelector("[data-command]");
  const keys = document.getElementById("keys");
  const modal = () => window.bootstrap.Modal.getOrCreateInstance(dialog);
  let shown = [];
  let at = 0;

  const possible = () => all.filter((one) => !one.when || one.when());

  function find() {
    const words = field.value.toLowerCase().split(/\s+/).filter(Boolean);
    shown = possible().filter((one) => words.every((word) => one.name.toLowerCase().includes(word))).slice(0, SHOWN);
    at = 0;
    draw();
  }

  function draw() {
    list.replaceChildren(
      ...shown.map((one, place) => {
        const line = document.createElement("li");
        line.id = `command-${place}`;
        line.role = "option";
        line.ariaSelected = String(place === at);
        line.textContent = one.name;
        if (one.key) {
          const key = document.createElement("kbd");
          key.textContent = one.key;
          line.append(key);
        }
        line.addEventListener("click", () => run(one));
        return line;
      }),
    );
    field.setAttribute("aria-activedescendant", shown.length ? `command-${at}` : "");
    dialog.querySelector("[data-none]").hidden = shown.length > 0;
  }

  function run(command) {
    dialog.addEventListener("hidden.bs.modal", () => command.run(), { once: true });
    modal().hide();
  }

  field.addEventListener("input", find);
  field.addEventListener("keydown", (event) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (by && shown.length) {
      event.preventDefault();
      at = (at + by + shown.length) % shown.length;
      draw();
      say(shown[at].name);
    } else if (event.key === "Enter" && shown[at]) {
      event.preventDefault();
      run(shown[at]);
    }
  });
  dialog.addEventListener("shown.bs.modal", () => field.focus());

  return {
    open() {
      field.value = "";
      find();
      modal().show();
    },
    // Letters and signs alone do something only where the keyboard is on the page or its bands (WCAG 2.2, 2.1.4).
    byKey(event, isOnPage) {
      return possible().find((one) => one.key && (isOnPage || one.key.length > 1 || ANYWHERE.has(one.key)) && matches(one.key, event));
    },
    showKeys() {
      window.bootstrap.Modal.getOrCreateInstance(keys).show();
    },
    isOpen: () => dialog.classList.contains("show") || keys.classList.contains("show"),
  };
}

// Tells whether a key was pressed that is said as "Ctrl+Shift+G", "Delete" or "?".
function matches(said, event) {
  const parts = said.split("+");
  const key = parts.pop();
  const isCommand = event.ctrlKey || event.metaKey;
  if (isCommand !== parts.includes("Ctrl") || event.altKey !== parts.includes("Alt")) return false;
  // What a sign needs of Shift depends on the keyboard.
  if (/^[a-z0-9]$/i.test(key) || key.length > 1) return event.shiftKey === parts.includes("Shift") && event.key.toLowerCase() === key.toLowerCase();
  return event.key === key;
}
