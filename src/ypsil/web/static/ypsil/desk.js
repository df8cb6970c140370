// Small pictures of reports that were changed since they were drawn: the desk is there at once, they follow one by one.

for (const place of document.querySelectorAll("[data-miniature]")) {
  const response = await fetch(place.dataset.miniature).catch(() => null);
  if (!response?.ok || response.redirected) continue;
  const markup = await response.text();
  if (markup) place.innerHTML = markup;
  delete place.dataset.miniature;
}
