// Drawing a part of the page anew without losing what somebody is typing, or has opened, in it.

const FIELDS = "input:not([type=checkbox], [type=radio]), textarea";
const MENUS = "[data-bs-toggle=dropdown]";
const IN_MENUS = "a, button, input";

export function replaceContent(holder, html) {
  const active = document.activeElement;
  const isTyping = holder.contains(active) && active.id && active.matches(FIELDS) && active.value !== active.defaultValue;
  const typed = isTyping && { id: active.id, value: active.value, caret: caretOf(active) };
  const open = openMenu(holder);
  holder.innerHTML = html;
  const field = typed && document.getElementById(typed.id);
  if (field && holder.contains(field)) goOn(field, typed);
  if (open) openAgain(holder, open);
}

function goOn(field, { value, caret }) {
  field.value = value;
  field.focus();
  if (caret) field.setSelectionRange(...caret);
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
  for (const [place, part] of parts.entries()) if (part.matches("input")) Object.assign(part, states[place]);
  (parts[focus] ?? button).focus();
}
