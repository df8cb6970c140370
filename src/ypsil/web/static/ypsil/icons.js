// Choosing an icon: found by a word, chosen by its looks.

import { replaceContent } from "./unfinished.js";

const PAUSE_MS = 200;

export function bindIcons({ view }) {
  let timer = 0;
  let asked = 0;

  async function find(menu) {
    const mine = ++asked;
    const word = menu.querySelector("[data-find-icon]").value.trim();
    const { icons: url, mayBeEmpty } = menu.parentElement.querySelector("[data-icons]").dataset;
    const reply = await fetch(`${url}?q=${encodeURIComponent(word)}${mayBeEmpty === undefined ? "" : "&none"}`);
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
    if (!icon) return;
    const holder = icon.closest(".chosen-icon");
    const button = holder.querySelector("[data-icons]");
    const field = holder.querySelector("[data-option]");
    window.bootstrap.Dropdown.getOrCreateInstance(button).hide();
    if (field.value === icon.dataset.icon) return;
    field.value = icon.dataset.icon;
    view.remember(button);
    field.dispatchEvent(new Event("change", { bubbles: true }));
  });
}
