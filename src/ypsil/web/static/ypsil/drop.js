// Files dropped anywhere on a page that can take them: they are sent as the form would send them.

const target = document.querySelector("[data-drop-to]");
const said = document.querySelector("[data-drop-said]");

const hasFiles = (event) => [...(event.dataTransfer?.types || [])].includes("Files");

function say(text) {
  said.textContent = text;
  said.hidden = !text;
}

async function send(files) {
  const body = new FormData();
  body.set("way", "file");
  body.set("csrfmiddlewaretoken", target.dataset.csrf);
  for (const file of files) body.append("file", file);
  say("Taking it in …");
  const response = await fetch(target.dataset.dropTo, { method: "POST", body }).catch(() => null);
  if (response && response.ok && response.redirected) {
    location.assign(response.url);
    return;
  }
  const page = response && new DOMParser().parseFromString(await response.text(), "text/html");
  const problem = page?.querySelector("#problem") ?? page?.querySelector("main p");
  say(problem?.textContent || "The server cannot be reached. Nothing was stored; try again in a moment.");
}

for (const name of ["dragenter", "dragover"]) {
  document.addEventListener(name, (event) => {
    if (!hasFiles(event)) return;
    event.preventDefault();
    target.classList.add("over");
  });
}
document.addEventListener("dragleave", (event) => event.relatedTarget || target.classList.remove("over"));
document.addEventListener("drop", (event) => {
  if (!hasFiles(event)) return;
  event.preventDefault();
  target.classList.remove("over");
  send(event.dataTransfer.files);
});
