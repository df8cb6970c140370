// Bringing a picture of one's own: it is taken in by the server, which answers with its name.

export async function bringPicture(input, csrf) {
  const body = new FormData();
  body.set("file", input.files[0]);
  const headers = { "X-CSRFToken": csrf, Accept: "application/json" };
  const reply = await fetch(input.dataset.bringPicture ?? input.dataset.bringGround, { method: "POST", headers, body }).catch(() => null);
  const data = await reply?.json().catch(() => null);
  input.value = "";
  return data?.name ? data : { message: data?.message || "The picture could not be taken in. Nothing was stored; try again in a moment." };
}
