// Shows of a form for files only what the chosen kind of file can be had in.

const form = document.querySelector("[data-ordering]");

function look() {
  const kind = form.elements.ending;
  const isPicture = "isPicture" in kind.selectedOptions[0].dataset;
  for (const part of form.querySelectorAll("[data-for]")) {
    part.hidden = part.dataset.for === "picture" ? !isPicture : part.dataset.for !== kind.value;
  }
}

if (form) {
  form.elements.ending.addEventListener("change", look);
  look();
}
