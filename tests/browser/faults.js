// What looks broken on a page, as sentences: cut, spilling or overlapping text, sideways scrolling, a strip of more than
// one line, controls in the browser's own look, type that is too small to read.
() => {
  const LEAST_PX = 11, LEAST_DRAWN_PX = 11, STRIP_PX = 56;
  const found = [];
  const say = (what, text) => found.push(`${what}: “${text.trim().replace(/\s+/g, " ").slice(0, 60)}”`);
  const root = document.documentElement;
  if (root.scrollWidth > window.innerWidth + 1) found.push(`sideways scrolling: ${root.scrollWidth} px in ${window.innerWidth}`);

  const strip = document.querySelector(".strip");
  if (strip && window.innerWidth >= 1024 && strip.getBoundingClientRect().height > STRIP_PX) found.push("the strip has more than one line");

  // Each asks what holds an element: what was found of that is remembered.
  const remembered = (found) => {
    const known = new Map();
    const ask = (element) => {
      if (!known.has(element)) known.set(element, found(element, ask));
      return known.get(element);
    };
    return ask;
  };
  const isWithinShown = remembered((element, ask) => {
    if (!element) return true;
    const style = getComputedStyle(element);
    const isForEars = style.clipPath === "inset(50%)" || (style.position === "absolute" && element.offsetWidth <= 1);
    return !isForEars && style.opacity !== "0" && ask(element.parentElement);
  });
  const isShown = (element) =>
    element.checkVisibility({ opacityProperty: true, visibilityProperty: true, contentVisibilityAuto: true }) && isWithinShown(element);
  const scrolls = remembered((element, ask) => {
    if (!element || element === root) return null;
    const style = getComputedStyle(element);
    return ["auto", "scroll"].includes(style.overflowX) || ["auto", "scroll"].includes(style.overflowY) ? element : ask(element.parentElement);
  });
  const cuts = remembered((element, ask) => {
    if (!element || element === root) return null;
    const style = getComputedStyle(element);
    if (["hidden", "clip"].includes(style.overflowX)) return element;
    return ["auto", "scroll"].includes(style.overflowX) ? null : ask(element.parentElement);
  });

  const texts = [];
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const element = node.parentElement;
    if (!node.data.trim() || element.closest("script, style, option, noscript, title, desc, [hidden], iframe, textarea, .skip, [aria-hidden=true]") || !isShown(element)) continue;
    const range = document.createRange();
    range.selectNodeContents(node);
    const rects = [...range.getClientRects()].filter((rect) => rect.width > 1 && rect.height > 1);
    if (!rects.length) continue;
    const svg = element.closest("svg");
    const style = getComputedStyle(element);
    const turned = svg && (element.getAttribute("transform") || element.closest("[data-cloud]"));
    const scale = svg ? Math.hypot(element.getScreenCTM().a, element.getScreenCTM().b) : 1;
    const size = parseFloat(style.fontSize) * scale;
    // The page on the bench is as wide as its room: on screens of 1,280 px and more it is shown in its own size.
    const isSmaller = svg && element.closest(".editor") && window.innerWidth < 1280;
    if (!isSmaller && size < (svg ? LEAST_DRAWN_PX : LEAST_PX)) say(`type of ${size.toFixed(1)} px`, node.data);
    const holder = cuts(element);
    const shortened = element.closest("[title], input") || (holder && getComputedStyle(holder).textOverflow === "ellipsis");
    for (const rect of rects) {
      if (rect.right > window.innerWidth + 1 && !scrolls(element) && !holder) say("beyond the window", node.data);
      if (holder && !shortened && !svg) {
        const box = holder.getBoundingClientRect();
        if (rect.right > box.right + 2 || rect.left < box.left - 2) say("cut", node.data);
      }
      // Of what is shortened the part that is seen counts.
      const box = holder?.getBoundingClientRect() ?? rect;
      const seen = { left: Math.max(rect.left, box.left), right: Math.min(rect.right, box.right), top: rect.top, bottom: rect.bottom };
      if (!turned && seen.left < seen.right) texts.push({ rect: seen, element, svg, scale: Math.max(1, scale), said: node.data });
    }
  }

  // Letters stand in the middle of their line: a little of two lines may meet.
  const core = ({ top, bottom, left, right }, scale) => ({ left: left + scale, right: right - scale, top: top + (bottom - top) * 0.3, bottom: bottom - (bottom - top) * 0.3 });
  for (const one of texts) one.core = core(one.rect, one.scale);
  texts.sort((a, b) => a.core.top - b.core.top);
  for (let first = 0; first < texts.length; first++) {
    for (let second = first + 1; second < texts.length && texts[second].core.top < texts[first].core.bottom; second++) {
      const [a, b] = [texts[first], texts[second]];
      if (a.core.left >= b.core.right - a.scale || b.core.left >= a.core.right - a.scale) continue;
      if (scrolls(a.element) !== scrolls(b.element) || a.element === b.element) continue;
      say("text over text", `${a.said.trim()} / ${b.said.trim()}`);
    }
  }

  for (const control of document.querySelectorAll("button, select, input, textarea")) {
    if (!isShown(control)) continue;
    const style = getComputedStyle(control);
    const name = control.getAttribute("aria-label") || control.textContent || control.name || control.type;
    if (["radio", "checkbox"].includes(control.type) && style.appearance !== "none") say("a choice in the browser's own look", name);
    else if (control.type === "file" && getComputedStyle(control, "::file-selector-button").borderStyle === "outset") say("a file chooser in the browser's own look", name);
    else if (style.borderTopStyle === "outset" || style.borderTopStyle === "inset") say("a control in the browser's own look", name);
  }
  return [...new Set(found)];
};
