// Finding a setting by its name among those that are folded away.

export function bindSettings({ margin, say }) {
  let sought = "";
  let wereOpen = null;

  function apply() {
    const topics = [...margin.querySelectorAll("details[data-topic]")];
    if (sought && !wereOpen) wereOpen = topics.filter((topic) => topic.open).map((topic) => topic.dataset.topic);
    const words = sought.toLowerCase().split(/\s+/).filter(Boolean);
    let found = 0;
    for (const topic of topics) {
      const fields = [...topic.querySelectorAll(".field")];
      for (const field of fields) {
        const name = `${topic.dataset.topic} ${field.querySelector("label")?.textContent}`.toLowerCase();
        field.hidden = !words.every((word) => name.includes(word));
        found += !field.hidden;
      }
      topic.hidden = fields.length > 0 && fields.every((field) => field.hidden);
      topic.open = sought ? !topic.hidden : (wereOpen?.includes(topic.dataset.topic) ?? topic.open);
    }
    if (!sought) wereOpen = null;
    const none = margin.querySelector("[data-no-setting]");
    if (none) none.hidden = !sought || found > 0;
    if (sought) say(found === 1 ? "1 setting" : `${found} settings`);
  }

  margin.addEventListener("input", ({ target }) => {
    if (!target.matches("[data-find-setting]")) return;
    sought = target.value.trim();
    apply();
  });
  // The margin is drawn anew with each change: what is sought stays.
  new MutationObserver(() => {
    const field = margin.querySelector("[data-find-setting]");
    if (!field) {
      sought = "";
      wereOpen = null;
    } else if (sought && document.activeElement !== field) {
      field.value = sought;
      apply();
    } else if (sought) apply();
  }).observe(margin, { childList: true });
}
