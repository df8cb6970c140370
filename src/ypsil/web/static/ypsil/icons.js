// Choosing an icon: found by a word, chosen by its looks. Where pictures are taken too, bringing one.

import { bringPicture } from "./bringing.js";
import { replaceContent } from "./unfinished.js";

const PAUSE_MS = 200;
const RECENT = "ypsil-recent-signs";
const MOST_RECENT = 12;

// What was chosen last, the latest first; a browser that keeps nothing has none.
function recent() {
  try {
    return JSON.parse(localStorage.getItem(RECENT)) ?? [];
  } catch {
    return [];
  }
}

function noteRecent(name) {
  try {
    localStorage.setItem(RECENT, JSON.stringify([name, ...recent().filter((one) => one !== name)].slice(0, MOST_RECENT)));
  } catch {
    // It is found by its name all the same.
  }
}

// Which signs are looked for: of one line or coloured, of which category, and what was used last.
function signsWanted(menu) {
  const of = menu.querySelector("[data-signs-of]");
  if (!of) return "";
  const parts = [["of", of.value], ["category", menu.querySelector("[data-signs-category]").value]];
  for (const name of recent()) if (name.startsWith(`${of.value}:`)) parts.push(["recent", name]);
  return `&${new URLSearchParams(parts)}`;
}

export function bindIcons({ view, csrf, send }) {
  let timer = 0;
  let asked = 0;

  async function find(menu) {
    const mine = ++asked;
    const word = menu.querySelector("[data-find-icon]").value.trim();
    const { icons: url, ...wanted } = menu.parentElement.querySelector("[data-icons]").dataset;
    const also = signsWanted(menu) + ("mayBeEmpty" in wanted ? "&none" : "") + ("withPictures" in wanted ? "&pictures" : "") + ("withShapes" in wanted ? "&shapes" : "") + ("withFrames" in wanted ? "&frames" : "");
    const reply = await fetch(`${url}?q=${encodeURIComponent(word)}${also}`);
    const found = menu.querySelector("[data-found-icons]");
    if (mine === asked && reply.ok && found.isConnected) replaceContent(found, await reply.text());
  }

  document.addEventListener("shown.bs.dropdown", (event) => {
    if (!event.target.dataset.icons) return;
    const menu = event.target.parentElement.querySelector(".dropdown-menu");
    menu.querySelector("[data-find-icon]").focus();
    find(menu);
  });
  document.addEventListener("input", (event) => {
    if (!event.target.matches("[data-find-icon]")) return;
    clearTimeout(timer);
    timer = setTimeout(find, PAUSE_MS, event.target.closest(".dropdown-menu"));
  });
  document.addEventListener("click", (event) => {
    const icon = event.target.closest("[data-icon]");
    if (icon) choose(icon.closest(".chosen-icon"), icon.dataset.icon);
  });
  document.addEventListener("change", (event) => {
    if (event.target.matches("[data-bring-picture]")) bring(event.target);
    if (event.target.matches("[data-signs-of], [data-signs-category]")) find(event.target.closest(".dropdown-menu"));
  });

  function choose(holder, name) {
    const button = holder.querySelector("[data-icons]");
    const field = holder.querySelector("input[type=hidden]");
    window.bootstrap.Dropdown.getOrCreateInstance(button).hide();
    if (field.value === name) return;
    if (name.includes(":") && !name.startsWith("picture:")) noteRecent(name);
    field.value = name;
    view.remember(button);
    field.dispatchEvent(new Event("change", { bubbles: true }));
  }

  async function bring(input) {
    const holder = input.closest(".chosen-icon");
    const tile = holder.closest("[data-options]")?.dataset.of;
    const option = holder.querySelector("[data-option]")?.dataset.option;
    const problem = holder.querySelector("[data-picture-problem]");
    const say = (text) => {
      problem.textContent = text;
      problem.hidden = !text;
    };
    say("Taking it in …");
    const data = await bringPicture(input.files[0], input.dataset.bringPicture, csrf);
    input.value = "";
    if (data.name) {
      say("");
      if (holder.isConnected) choose(holder, data.name);
      // The margin was drawn anew in the meantime: what was chosen holds all the same.
      else if (tile) send({ type: "set_options", tile, options: { [option]: data.name } });
    } else say(data.message);
  }
}
