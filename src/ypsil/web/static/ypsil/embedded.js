// Within a page of another site: says how high it is, so that its frame is as high.

const page = document.body;

function say() {
  parent.postMessage({ ypsilHeight: page.getBoundingClientRect().height }, "*");
}

new ResizeObserver(say).observe(page);
addEventListener("load", say);
// What leads away leaves the page that this stands in as it is.
document.addEventListener("click", (event) => {
  const link = event.target.closest("a[href]");
  if (link && !/^[#?]/.test(link.getAttribute("href"))) link.target = "_blank";
}, true);
