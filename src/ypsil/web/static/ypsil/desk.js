// Small pictures of reports that were changed since they were drawn, or stand far down: the desk is there at once, they
// follow one by one, once they are near what is looked at.

const NEAR = "600px";
const wanted = [];
let isDrawing = false;

async function drawWanted() {
  if (isDrawing) return;
  isDrawing = true;
  for (let place = wanted.shift(); place; place = wanted.shift()) {
    const response = await fetch(place.dataset.miniature).catch(() => null);
    if (!response?.ok || response.redirected) continue;
    const markup = await response.text();
    if (markup) place.innerHTML = markup;
    delete place.dataset.miniature;
  }
  isDrawing = false;
}

const watch = new IntersectionObserver((entries) => {
  for (const { isIntersecting, target } of entries) {
    if (!isIntersecting) continue;
    watch.unobserve(target);
    wanted.push(target);
  }
  drawWanted();
}, { rootMargin: NEAR });
for (const place of document.querySelectorAll("[data-miniature]")) watch.observe(place);
