// Bringing a picture of one's own: it is taken in by the server, which answers with its name and how wide it is for its
// height.

export async function bringPicture(file, url, csrf) {
  const body = new FormData();
  body.set("file", file);
  const headers = { "X-CSRFToken": csrf, Accept: "application/json" };
  const reply = await fetch(url, { method: "POST", headers, body }).catch(() => null);
  const data = await reply?.json().catch(() => null);
  return data?.name ? data : { message: data?.message || "The picture could not be taken in. Nothing was stored; try again in a moment." };
}
