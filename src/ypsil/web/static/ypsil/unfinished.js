// Drawing a part of the page anew without losing what somebody is typing, or has opened, in it.

const FIELDS = "input:not([type=checkbox], [type=radio]), textarea";
const MENUS = "[data-bs-toggle=dropdown]";
const TOPICS = "details[data-topic]";
const IN_MENUS = "a, button, input";

// A field that is taken away tells of a change, though nobody has settled it.
let isReplacing = false;
document.addEventListener("change", (event) => isReplacing && event.stopImmediatePropagation(), true);

export function replaceContent(holder, html) {
  const active = document.activeElement;
  const entered = holder.contains(active) && active.id && active.matches(FIELDS) && { id: active.id, caret: caretOf(active) };
  if (entered && active.value !== active.defaultValue) entered.typed = active.value;
  const open = openMenu(holder);
  const topics = [...holder.querySelectorAll(TOPICS)].filter((one) => one.open).map((one) => one.dataset.topic);
  isReplacing = true;
  holder.innerHTML = html;
  isReplacing = false;
  // What somebody unfolded stays so, for the next tile as well.
  for (const one of holder.querySelectorAll(TOPICS)) one.open = topics.includes(one.dataset.topic);
  const field = entered && document.getElementById(entered.id);
  if (field && holder.contains(field)) goOn(field, entered);
  if (open) openAgain(holder, open);
}

// Whoever has entered a field goes on in it, at the same place.
function goOn(field, { typed, caret }) {
  if (typed !== undefined) field.value = typed;
  field.focus();
  if (caret) field.setSelectionRange(...caret);
  // What is typed next takes the place of a number that nobody has changed, as after Tab.
  else if (typed === undefined) field.select();
  if (typed === undefined) return;
  // The browser tells of a change only what was typed since the field was entered.
  const told = new AbortController();
  field.addEventListener("change", () => told.abort(), { signal: told.signal });
  field.addEventListener("blur", () => field.dispatchEvent(new Event("change", { bubbles: true })), { signal: told.signal });
}

// Fields of numbers have no caret that can be asked for.
const caretOf = (field) => (field.selectionStart === null ? null : [field.selectionStart, field.selectionEnd]);

const menuOf = (button) => button.parentElement.querySelector(".dropdown-menu");

// A menu that is open: its place among the menus, what is ticked and typed in it, and where the keyboard is.
function openMenu(holder) {
  const buttons = [...holder.querySelectorAll(MENUS)];
  const place = buttons.findIndex((button) => button.classList.contains("show"));
  if (place < 0) return null;
  const button = buttons[place];
  const parts = [...menuOf(button).querySelectorAll(IN_MENUS)];
  const opened = { place, said: button.textContent, states: parts.map(({ value, checked }) => ({ value, checked })) };
  opened.focus = parts.indexOf(document.activeElement);
  window.bootstrap.Dropdown.getOrCreateInstance(button).dispose();
  return opened;
}

function openAgain(holder, { place, said, states, focus }) {
  const button = holder.querySelectorAll(MENUS)[place];
  if (button?.textContent !== said) return;
  window.bootstrap.Dropdown.getOrCreateInstance(button).show();
  const parts = [...menuOf(button).querySelectorAll(IN_MENUS)];
  // Where the menu now offers something else, what was ticked in it no longer means the same.
  if (parts.length !== states.length) return;
  // What file was chosen cannot be set by a page.
  for (const [place, part] of parts.entries()) if (part.matches("input:not([type=file])")) Object.assign(part, states[place]);
  (parts[focus] ?? button).focus();
}
