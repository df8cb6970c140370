// A picture of one's own under a band.

import { bringPicture } from "../bringing.js";

export function bindGrounds({ margin, csrf, send }) {
  margin.addEventListener("change", async ({ target }) => {
    if (!target.matches("[data-bring-ground]") || !target.files.length) return;
    const holder = target.closest("[data-ground-of]");
    const problem = holder.querySelector("[data-picture-problem]");
    const say = (text) => {
      problem.textContent = text;
      problem.hidden = !text;
    };
    say("Taking it in …");
    const brought = await bringPicture(target.files[0], target.dataset.bringGround, csrf);
    target.value = "";
    say(brought.message ?? "");
    if (!brought.name) return;
    const colour = holder.querySelector("[data-ground=colour]").value || "deep";
    send({ type: "change_band", band: holder.dataset.groundOf, changes: { ground: { colour, picture: brought.name } } });
  });
}
