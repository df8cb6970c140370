// Choosing a file: says at once when it is too large, takes a dropped one, shows that work goes on.

const form = document.querySelector("form[data-limit]");
const input = form.querySelector("input[type=file]");
const drop = form.querySelector(".drop");
const said = form.querySelector("[data-too-large]");

function check() {
  const files = [...input.files];
  const bytes = files.reduce((sum, file) => sum + file.size, 0);
  const tooLarge = bytes > Number(form.dataset.limit);
  said.hidden = !tooLarge;
  if (tooLarge) {
    const size = Math.round(bytes / 1024 / 1024);
    const what = files.length > 1 ? "Together the files have" : `${files[0].name} has`;
    said.textContent = `${what} ${size} MB; at most ${form.dataset.limitMb} MB are taken in. Split it or leave out what you do not need.`;
  }
  return !tooLarge;
}

input.addEventListener("change", check);
for (const name of ["dragenter", "dragover"]) {
  form.addEventListener(name, (event) => {
    event.preventDefault();
    drop.classList.add("over");
  });
}
for (const name of ["dragleave", "drop"]) form.addEventListener(name, () => drop.classList.remove("over"));
form.addEventListener("drop", (event) => {
  event.preventDefault();
  if (event.dataTransfer.files.length) {
    form.querySelector("[name=way][value=file]").click();
    input.files = event.dataTransfer.files;
    check();
  }
});
form.addEventListener("submit", (event) => {
  if (!check()) event.preventDefault();
  else form.querySelector("[data-working]").hidden = false;
});
