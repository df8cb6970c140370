// Completion while a calculation is typed: the server proposes, arrow keys choose, Enter or Tab takes.

export function bindCalculations({ page, url }) {
  let waiting = 0;

  const listOf = (field) => field.parentElement.querySelector("[role=listbox]");

  function close(field) {
    listOf(field).hidden = true;
    field.setAttribute("aria-expanded", "false");
    field.removeAttribute("aria-activedescendant");
  }

  async function propose(field) {
    const at = field.closest("form").dataset.stepAt;
    const query = new URLSearchParams({ text: field.value, cursor: field.selectionStart, at });
    const response = await fetch(`${url}completions/?${query}`).catch(() => null);
    if (!response || !response.ok || document.activeElement !== field) return;
    const { proposals } = await response.json();
    const list = listOf(field);
    list.replaceChildren(...proposals.map((one, index) => option(one, `${list.id}-${index}`)));
    list.hidden = !proposals.length;
    field.setAttribute("aria-expanded", String(proposals.length > 0));
    if (proposals.length) choose(field, 0);
  }

  function option(one, id) {
    const item = document.createElement("li");
    item.id = id;
    item.setAttribute("role", "option");
    Object.assign(item.dataset, { insert: one.insert, start: one.start, end: one.end });
    const label = document.createElement("strong");
    label.textContent = one.label;
    const what = document.createElement("span");
    what.textContent = one.what;
    item.append(label, " ", what);
    return item;
  }

  function choose(field, index) {
    const items = [...listOf(field).children];
    const chosen = (index + items.length) % items.length;
    items.forEach((item, place) => item.setAttribute("aria-selected", String(place === chosen)));
    field.setAttribute("aria-activedescendant", items[chosen].id);
  }

  function take(field, item) {
    const { insert, start, end } = item.dataset;
    field.setRangeText(insert, Number(start), Number(end), "end");
    close(field);
    field.focus();
  }

  page.addEventListener("input", (event) => {
    if (!event.target.matches(".calculation input")) return;
    clearTimeout(waiting);
    waiting = setTimeout(() => propose(event.target), 150);
  });

  page.addEventListener("keydown", (event) => {
    const field = event.target;
    if (!field.matches(".calculation input")) return;
    const list = listOf(field);
    if (list.hidden) return;
    const items = [...list.children];
    const now = items.findIndex((item) => item.getAttribute("aria-selected") === "true");
    if (event.key === "ArrowDown" || event.key === "ArrowUp") choose(field, now + (event.key === "ArrowDown" ? 1 : -1));
    else if (event.key === "Enter" || event.key === "Tab") take(field, items[now]);
    else if (event.key === "Escape") close(field);
    else return;
    event.preventDefault();
    event.stopPropagation();
  });

  page.addEventListener("mousedown", (event) => {
    const item = event.target.closest(".calculation [role=option]");
    if (!item) return;
    event.preventDefault();
    take(item.closest(".calculation").querySelector("input"), item);
  });

  page.addEventListener("focusout", (event) => {
    if (event.target.matches(".calculation input")) close(event.target);
  });
}
