// All that can be done on the bench, under the names that it is found by.

const WAYS = {
  left: "Align left",
  centre: "Align centre",
  right: "Align right",
  top: "Align top",
  middle: "Align middle",
  foot: "Align foot",
  across: "Spread across, gaps alike",
  down: "Spread down, gaps alike",
  same_width: "Same width as the first",
  same_height: "Same height as the first",
  same_size: "Same size as the first",
};
const PARTS = ["ladder", "board", "margin"];

export function commandsOf({ view, saver, send, chooser, readyMade, history, views, zoom, bands, keys, palette, newId, say }) {
  const some = () => view.several.length > 0;
  const several = () => view.several.length > 1;
  const tiles = () => ({ tiles: view.several });
  const band = () => view.currentBand();
  const areLocked = () => view.chosenTiles().every((tile) => "locked" in tile.dataset);
  const isGroup = () => view.chosen !== null && view.tile(view.chosen) === null;
  const place = () => [...view.page.querySelectorAll("[data-band]")].findIndex((one) => one.dataset.band === band());
  const layer = (to) => () => send({ type: "set_layer", ...tiles(), to });

  const turning = () => view.chosenTiles().filter((tile) => "turned" in tile.dataset).map((tile) => tile.dataset.tile);
  const turns = () => turning().length > 0;
  const turnBy = (by) => () => send({ type: "turn_tiles", tiles: turning(), by });

  let look = null;

  // The look is what the tile stands on, and of a text how it is set.
  async function copyLook() {
    await saver.flush();
    await view.ready;
    const [tile] = JSON.parse(document.querySelector("#margin [data-copied]").textContent);
    // What stands at the head of a card is its own.
    const { icon, says, ...card } = tile.card ?? {};
    look = { kind: tile.type, card: tile.card && card, set: { role: tile.role, size: tile.size, align: tile.align, colour: tile.colour, columns: tile.columns } };
    say("The look is copied");
  }

  function giveLook() {
    if (look.card) send({ type: "change_cards", ...tiles(), changes: look.card });
    else send({ type: "change_tiles", ...tiles(), changes: { card: null } });
    const texts = view.chosenTiles().filter((tile) => tile.dataset.kind === "text").map((tile) => tile.dataset.tile);
    if (look.kind === "text" && texts.length) send({ type: "change_tiles", tiles: texts, changes: look.set });
  }

  function toBand(by) {
    const there = [...view.page.querySelectorAll("[data-band]")][place() + by];
    if (!there) return say(by < 0 ? "There is no band above" : "There is no band below");
    send({ type: "move_tiles", ...tiles(), band: there.dataset.band });
  }

  return [
    { name: "Add something", key: "/", run: () => chooser.open(band()) },
    { name: "Do anything by its name", key: "Ctrl+k", run: palette },
    { name: "Keys", key: "?", run: keys },
    { name: "Undo", run: () => saver.step("undo") },
    { name: "Redo", run: () => saver.step("redo") },
    { name: "Duplicate", key: "Ctrl+d", when: some, run: () => send({ type: "duplicate_tiles", ...tiles() }) },
    { name: "Take away", key: "Delete", when: some, run: () => send({ type: "remove_tiles", ...tiles() }) },
    { name: "Choose all in the band", key: "Ctrl+a", when: band, run: () => chooseAll() },
    ...Object.entries(WAYS).map(([way, name]) => ({ name, when: several, run: () => send({ type: "arrange_tiles", ...tiles(), way }) })),
    { name: "Connect, in the order they were chosen", key: "c", when: several, run: () => send({ type: "connect_tiles", tiles: view.several }) },
    { name: "Group", key: "Ctrl+g", when: several, run: () => send({ type: "group_tiles", ...tiles(), id: newId().slice(0, 8) }) },
    { name: "Ungroup", key: "Ctrl+Shift+g", when: isGroup, run: () => send({ type: "ungroup_tiles", tile: view.chosen }) },
    { name: "Turn to the right by 15°", key: ".", when: turns, run: turnBy(15) },
    { name: "Turn to the left by 15°", key: ",", when: turns, run: turnBy(-15) },
    { name: "Turn to the right by 1°", key: ">", when: turns, run: turnBy(1) },
    { name: "Turn to the left by 1°", key: "<", when: turns, run: turnBy(-1) },
    { name: "Stand straight again", when: turns, run: () => send({ type: "change_tiles", tiles: turning(), changes: { turn: 0 } }) },
    { name: "Lay forward", key: "]", when: some, run: layer("forward") },
    { name: "Lay backward", key: "[", when: some, run: layer("backward") },
    { name: "Lay over all others", when: some, run: layer("front") },
    { name: "Lay behind all others", when: some, run: layer("back") },
    { name: "Stand beside the others again", when: some, run: layer("beside") },
    { name: "Half seen through", when: some, run: () => send({ type: "change_tiles", ...tiles(), changes: { opacity: 0.55 } }) },
    { name: "Solid again", when: some, run: () => send({ type: "change_tiles", ...tiles(), changes: { opacity: 1 } }) },
    { name: "Lock or unlock", key: "Ctrl+l", when: some, run: () => send({ type: "change_tiles", ...tiles(), changes: { is_locked: !areLocked() } }) },
    { name: "Put on a card", when: some, run: () => send({ type: "change_cards", ...tiles(), changes: { fill: null } }) },
    { name: "Take off its card", when: some, run: () => send({ type: "change_tiles", ...tiles(), changes: { card: null } }) },
    { name: "Move to the band above", when: some, run: () => toBand(-1) },
    { name: "Move to the band below", when: some, run: () => toBand(1) },
    { name: "Copy the look", key: "Ctrl+Alt+c", when: () => view.chosen !== null, run: copyLook },
    { name: "Give the copied look", key: "Ctrl+Alt+v", when: () => some() && look !== null, run: giveLook },
    { name: "Tidy the band", key: "t", when: band, run: () => document.dispatchEvent(new CustomEvent("tidy-band", { detail: band() })) },
    { name: "Add a band", run: () => send({ type: "add_band", band: { id: newId().slice(0, 8) }, index: place() + 1 }) },
    { name: "Ready-made bands", run: () => readyMade.open() },
    { name: "Settings of the band", when: band, run: () => view.choose(null, false, band()) },
    { name: "Duplicate the band", when: band, run: () => send({ type: "duplicate_band", band: band() }) },
    { name: "Move the band up", when: band, run: () => bands.move(band(), place() - 1) },
    { name: "Move the band down", when: band, run: () => bands.move(band(), place() + 1) },
    { name: "Clear the band", when: band, run: () => send({ type: "clear_band", band: band() }) },
    { name: "Remove the band", when: band, run: () => send({ type: "remove_band", band: band() }) },
    { name: "Clear the page", run: () => send({ type: "clear_page" }) },
    { name: "Zoom: as wide as its place", run: () => zoom.set("width") },
    { name: "Zoom: the whole page", run: () => zoom.set("page") },
    { name: "Zoom: 100 %", run: () => zoom.set("1") },
    { name: "Skeleton: only boxes that say what stands where", run: () => views.set("skeleton") },
    { name: "Read the page without any tool", run: () => views.set("reading") },
    { name: "History: moments, and what was done", run: () => history.open() },
    { name: "Settings of the report", run: () => view.choose(null) },
    { name: "One level up", key: "Escape", run: up },
    { name: "Bands, page, settings in turn", key: "F6", run: () => turn(1) },
  ];

  function chooseAll() {
    const there = view.tiles().filter((tile) => tile.closest("[data-band]").dataset.band === band());
    view.choose([...new Set(there.map((tile) => view.idOf(tile)))]);
  }

  function up() {
    if (view.entered) {
      const group = view.entered;
      view.entered = null;
      return view.choose(group);
    }
    if (view.several.length) return view.choose(null, false, band());
    view.choose(null);
  }

  function turn(by) {
    const at = PARTS.findIndex((id) => document.getElementById(id).contains(document.activeElement));
    const next = document.getElementById(PARTS[(at + by + PARTS.length) % PARTS.length]);
    const within = { ladder: "[data-go]", board: "[data-pick]", margin: "input, select, button, a" }[next.id];
    const chosen = next.id === "board" ? view.chosenTiles()[0]?.querySelector("[data-pick]") : null;
    (chosen ?? next.querySelector(within) ?? next).focus();
  }
}
