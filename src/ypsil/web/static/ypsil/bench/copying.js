// Puts a tile on the clipboard as a picture.

const UNABLE = "This browser does not let pages copy pictures; take the file instead.";

export function bindCopying(margin) {
  margin.addEventListener("click", async (event) => {
    const button = event.target.closest("[data-copy-picture]");
    if (!button) return;
    const said = button.closest("details").querySelector("[data-picture-copied]");
    said.textContent = "Being drawn.";
    try {
      // Begun before the picture is there: some browsers let a page copy only while the press is going on.
      const picture = fetch(button.dataset.copyPicture).then((answer) => (answer.ok ? answer.blob() : Promise.reject(answer)));
      await navigator.clipboard.write([new ClipboardItem({ "image/png": picture })]);
      said.textContent = "Copied. Paste it where you need it.";
    } catch {
      said.textContent = UNABLE;
    }
  });
}
