// Drawing a part of the page anew without losing what somebody is typing in it.

const FIELDS = "input:not([type=checkbox], [type=radio]), textarea";

export function replaceContent(holder, html) {
  const active = document.activeElement;
  const isTyping = holder.contains(active) && active.id && active.matches(FIELDS) && active.value !== active.defaultValue;
  const typed = isTyping && { id: active.id, value: active.value, caret: caretOf(active) };
  holder.innerHTML = html;
  const field = typed && document.getElementById(typed.id);
  if (field && holder.contains(field)) goOn(field, typed);
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
