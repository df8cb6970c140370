// What readers see a column called, and what its numbers are measured in: said once with its table, for every drawing.

export function bindShownNames({ csrf }) {
  document.addEventListener("change", async (event) => {
    const field = event.target;
    const { shownAs, unitOf, recipe } = field.dataset;
    if (!recipe) return;
    const response = await fetch(recipe, {
      method: "POST",
      headers: { "Content-Type": "application/json", Accept: "application/json", "X-CSRFToken": csrf },
      body: JSON.stringify(unitOf ? { action: "measured_in", column: unitOf, unit: field.value } : { action: "show_as", column: shownAs, shown: field.value }),
    }).catch(() => null);
    const said = response && !response.ok ? (await response.json().catch(() => ({}))).message : "";
    if (response?.ok) window.location.reload();
    else field.closest(".settings").querySelector("[role=alert], [role=status]").textContent = said || "That could not be kept now. Try again.";
  });
}
