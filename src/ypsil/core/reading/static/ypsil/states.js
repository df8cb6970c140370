// In a file by itself: what readers choose was worked out before, and is put in the place of what is shown.

const held = JSON.parse(document.getElementById("states").textContent);
const state = held.dials.map(() => 0);
const said = made("p", "visually-hidden");
said.setAttribute("role", "status");
said.lang = "en";
document.body.append(said);

function made(name, classes, words = "") {
  const element = document.createElement(name);
  element.className = classes;
  element.textContent = words;
  return element;
}

// A choice stands where its drawing stood, which shows what is chosen to those without scripts.
function inPlaceOf(id, name) {
  const tile = document.getElementById(`at-${id}`);
  const holder = made("div", "choose");
  const named = made("p", "named", name);
  named.id = `named-${id}`;
  holder.append(named);
  tile.querySelectorAll(":scope > svg:not(.card, .header), :scope > .drawn").forEach((one) => one.remove());
  tile.append(holder);
  return holder;
}

function control(dial, at) {
  const holder = inPlaceOf(dial.tile, dial.name);
  const select = document.createElement("select");
  select.setAttribute("aria-labelledby", holder.firstElementChild.id);
  dial.stops.forEach((label, place) => select.add(new Option(label, place)));
  select.addEventListener("change", () => {
    state[at] = Number(select.value);
    show();
  });
  const pressed = made("div", "pressed");
  pressed.append(select);
  holder.append(pressed, made("p", "rows"));
  if (dial.note) holder.append(made("p", "note", dial.note));
}

function show() {
  const key = state.join(".");
  for (const [id, several] of Object.entries(held.tiles)) {
    const place = held.states[key][id] ?? 0;
    const before = document.getElementById(`at-${id}`);
    if (Number(before.dataset.place ?? 0) === place) continue;
    const holder = document.createElement("template");
    holder.innerHTML = several[place];
    const tile = holder.content.firstElementChild;
    tile.dataset.place = place;
    before.replaceWith(tile);
    tile.dispatchEvent(new CustomEvent("drawn", { bubbles: true }));
  }
  for (const dial of held.dials) document.querySelector(`#at-${dial.tile} .rows`).textContent = held.rows[key][dial.tile];
  said.textContent = [...new Set(Object.values(held.rows[key]))].join(". ");
}

held.dials.forEach(control);
for (const one of held.left) inPlaceOf(one.tile, one.name).append(made("p", "note", one.note));
if (held.dials.length) show();
