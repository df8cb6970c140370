// Sends edits one after the other. What could not be sent stays in this browser and is sent later.

const RETRY_MS = 3000;
const NO_CONNECTION = "No connection";

export class Saver {
  constructor({ url, csrf, revision, onPage, onState, onNotice, onRefused, onLost, known }) {
    Object.assign(this, { url, csrf, revision, onPage, onState, onNotice, onRefused, onLost, known });
    this.key = `ypsil-edits:${url}`;
    this.queue = JSON.parse(localStorage.getItem(this.key) || "[]");
    this.running = null;
    this.why = NO_CONNECTION;
    this.steps = Promise.resolve();
    // Once the page is there, too.
    if (this.queue.length) setTimeout(() => this.flush());
    window.addEventListener("online", () => this.flush());
  }

  // Others are not heard of any longer, or are again: that is said where nothing of one's own waits to be sent.
  hears(isHeard) {
    if (this.queue.length) return isHeard && this.flush();
    this.onState(isHeard ? this.saved : `${NO_CONNECTION}: what others change is not seen`);
  }

  // What has an id is made once, also where the reply is lost and it is sent again. A spell holds together what was
  // typed without a pause.
  add(edit, spell = "") {
    this.queue.push({ base: this.revision, edit, id: newId(), spell });
    this.keep();
    return this.flush();
  }

  keep() {
    localStorage.setItem(this.key, JSON.stringify(this.queue));
  }

  // One at a time: whoever asks while it runs waits for the same run.
  flush() {
    this.running ??= this.sendAll().finally(() => (this.running = null));
    return this.running;
  }

  async sendAll() {
    while (this.queue.length) {
      this.onState("Saving …");
      const entry = this.queue[0];
      const reply = await this.post("edits/", { ...entry, known: this.known() });
      if (!reply) {
        this.onState(`${this.why}: ${this.queue.length === 1 ? "1 change" : `${this.queue.length} changes`} kept in this browser`);
        setTimeout(() => this.flush(), RETRY_MS);
        break;
      }
      this.queue.shift();
      // Later entries were made knowing of this one, unless somebody else's came in between.
      if (reply.data.revision === entry.base + 1) {
        for (const later of this.queue) if (later.base === entry.base) later.base = reply.data.revision;
      }
      this.keep();
      this.take(reply, entry);
    }
  }

  take({ status, data }, entry) {
    if (data.notice) this.onNotice(data.notice);
    if (data.message) {
      this.onNotice(data.message);
      this.onState("Not saved");
      if (entry && status === 409) this.onLost(data.mine, entry.edit);
      else if (entry) this.onLost(typedIn(entry.edit), entry.edit);
    } else if (status >= 400) {
      if (entry) this.onLost(typedIn(entry.edit), entry.edit);
      this.onNotice("That could not be saved. Load the page again and repeat it.");
      this.onState("Not saved");
    }
    if (data.page !== undefined || data.patch) {
      this.revision = data.revision;
      this.onPage(data, entry && entry.edit);
    } else this.onRefused();
  }

  // Undo, redo or back to a moment, one after the other.
  step(name, times = 1) {
    this.steps = this.steps.then(() => this.takeStep(name, times));
  }

  // Waits for what is being saved, so that it takes back the right thing.
  async takeStep(name, times) {
    await this.flush();
    const reply = await this.post(`${name}/`, { known: this.known(), times });
    if (reply) this.take(reply, null);
    else this.onNotice("The server cannot be reached. Try again in a moment.");
  }

  // Returns {status, data}; null when the server cannot be reached or answers with a failure of its own.
  async post(path, body) {
    try {
      let response = await this.send(path, body);
      // Whoever signed in again in another window has another token now.
      if (response.status === 403 && (await this.renew())) response = await this.send(path, body);
      if (response.status >= 500) {
        this.why = "The server does not answer";
        return null;
      }
      if (response.redirected || response.status === 403) {
        this.why = "Signed out";
        this.onNotice("You are signed out. Sign in in another window; what you typed is kept here.");
        return null;
      }
      const isJson = (response.headers.get("Content-Type") || "").startsWith("application/json");
      return { status: response.status, data: isJson ? await response.json() : {} };
    } catch {
      this.why = NO_CONNECTION;
      return null;
    }
  }

  send(path, body) {
    return fetch(this.url + path, {
      method: "POST",
      headers: { "Content-Type": "application/json", Accept: "application/json", "X-CSRFToken": this.csrf },
      body: JSON.stringify(body),
    });
  }

  // Asks for the token of whoever is signed in now; false where nobody is.
  async renew() {
    const response = await fetch(`${this.url}token/`, { headers: { Accept: "application/json" } });
    if (!response.ok || response.redirected) return false;
    this.csrf = (await response.json()).token;
    document.body.dataset.csrf = this.csrf;
    return true;
  }
}

// What somebody typed in an edit: its longest text.
function typedIn(edit) {
  const found = [];
  const walk = (value) => {
    if (typeof value === "string") found.push(value);
    else if (value?.blocks) found.push(value.blocks.map(({ runs }) => runs.map(({ text }) => text ?? "…").join("")).join("\n"));
    else if (value && typeof value === "object") Object.values(value).forEach(walk);
  };
  walk(edit.changes || edit.tile?.text || edit.message || edit.title || edit.options || "");
  return found.sort((one, other) => other.length - one.length)[0] || "";
}

export function newId() {
  const numbers = crypto.getRandomValues(new Uint8Array(8));
  return Array.from(numbers, (number) => number.toString(16).padStart(2, "0")).join("");
}
