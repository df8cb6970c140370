// In pages of other sites: puts a report in place of its picture, as wide as its column and as high as it is.
(() => {
  const home = new URL(document.currentScript.src).origin;
  const frames = new Map();
  for (const place of document.querySelectorAll("[data-ypsil]:not([data-shown])")) {
    const address = new URL(place.dataset.ypsil, location.href);
    if (address.origin !== home) continue;
    place.dataset.shown = "";
    const frame = document.createElement("iframe");
    frame.src = address.href;
    frame.title = place.querySelector("img")?.alt || "Report";
    frame.loading = "lazy";
    frame.setAttribute("sandbox", "allow-scripts allow-same-origin allow-popups allow-popups-to-escape-sandbox");
    // Unseen until it says how high it is: where it may not be shown, its picture stays.
    frame.style.cssText = "display:block;width:100%;height:1px;border:0;opacity:0;position:relative";
    place.append(frame);
    frames.set(frame, place);
  }
  addEventListener("message", (event) => {
    if (event.origin !== home || typeof event.data?.ypsilHeight !== "number") return;
    for (const [frame, place] of frames) {
      if (frame.contentWindow !== event.source) continue;
      frame.style.height = `${Math.min(Math.max(Math.ceil(event.data.ypsilHeight), 20), 20000)}px`;
      frame.style.opacity = "1";
      place.querySelectorAll(":scope > a").forEach((one) => one.remove());
    }
  });
})();
