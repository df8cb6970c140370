// Bringing the page up to date with what the server sent: only tiles that changed are replaced, so that focus,
// selection and what is being typed stay.

export function applyPatch(page, { held, bands }) {
  const holder = page.querySelector("[data-held]");
  if (holder.dataset.said !== held) {
    holder.innerHTML = held;
    holder.dataset.said = held;
  }
  removeOthers(page, "tile", bands.flatMap((band) => band.tiles.map((tile) => tile.id)));
  removeOthers(page, "band", bands.map((band) => band.id));
  let before = holder;
  for (const band of bands) {
    const section = page.querySelector(`[data-band="${CSS.escape(band.id)}"]`) ?? element(band.empty);
    if (before.nextElementSibling !== section) before.after(section);
    section.setAttribute("aria-label", band.label);
    section.dataset.head = band.head;
    if (band.page) section.dataset.page = band.page;
    else delete section.dataset.page;
    section.querySelector(".add-tile .visually-hidden").textContent = ` In ${band.label}`;
    const ground = section.querySelector("[data-ground]");
    if (ground.dataset.said !== band.ground) {
      ground.innerHTML = band.ground;
      ground.dataset.said = band.ground;
    }
    fill(page, section.querySelector(".grid"), band.tiles);
    before = section;
  }
  page.querySelector("[data-no-bands]").hidden = bands.length > 0;
}

function removeOthers(page, kind, ids) {
  const kept = new Set(ids);
  for (const one of page.querySelectorAll(`[data-${kind}]`)) if (!kept.has(one.dataset[kind])) one.remove();
}

function fill(page, grid, tiles) {
  for (const [place, tile] of tiles.entries()) {
    const shown = brought(page.querySelector(`[data-tile="${CSS.escape(tile.id)}"]`), tile);
    if (grid.children[place] !== shown) grid.insertBefore(shown, grid.children[place] ?? null);
  }
  grid.querySelector(".band-invite").hidden = tiles.length > 0;
}

// Returns the tile's element as it is to be shown.
function brought(shown, { digest, markup }) {
  if (!markup) return shown;
  if (!shown) return element(markup);
  if (shown.querySelector(".typing")) {
    // Somebody types in it: it is drawn when they are done.
    shown.pending = markup;
    shown.dataset.digest = digest;
    return shown;
  }
  return replaced(shown, markup);
}

export function drawPending(tile) {
  if (tile.pending) replaced(tile, tile.pending);
}

function replaced(shown, markup) {
  const made = element(markup);
  made.classList.toggle("chosen", shown.classList.contains("chosen"));
  const isFocused = shown.contains(document.activeElement);
  shown.replaceWith(made);
  if (isFocused) made.querySelector("[data-pick]").focus();
  return made;
}

function element(markup) {
  const template = document.createElement("template");
  template.innerHTML = markup.trim();
  return template.content.firstElementChild;
}
