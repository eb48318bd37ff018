// The log without signal: what is entered waits on this device until there is signal again.
import { openDB } from "../vendor/idb/idb.js";
import { Outbox } from "./outbox.js";

const KEPT = "bathys-offline-log"; // the cache that service-worker.js answers from
const EVERY = 30_000; // between two tries to send [ms]
const SMALL = "btn btn-secondary btn-sm";
const SIDE = 1280; // of a photo, the longer [pixels]
const HIDDEN = new Set(["photo", "part", "at", "note", "csrfmiddlewaretoken", "entry"]);

const log = document.getElementById("offline-log");
const [told, list, news] = ["offline-state", "offline-waiting", "offline-news"].map((id) =>
  document.getElementById(id)
);

const db = openDB("bathys-log", 1, {
  upgrade(fresh) {
    fresh.createObjectStore("entries", { keyPath: "key" }).createIndex("plan", "plan");
  },
});
const store = {
  all: async () => (await db).getAllFromIndex("entries", "plan", log.dataset.plan),
  put: async (entry) => (await db).put("entries", entry),
  drop: async (key) => (await db).delete("entries", key),
};

const post = async (entries) => {
  const asked = await fetch(log.dataset.token, { headers: { Accept: "application/json" } });
  if (asked.redirected || asked.status === 403) return { state: "signed out" };
  if (asked.status === 404) return { state: "gone" };
  if (!asked.ok) throw new Error("the server does not answer");
  const { token } = await asked.json();
  const answer = await fetch(log.dataset.send, {
    method: "POST",
    headers: { "Content-Type": "application/json", "X-CSRFToken": token },
    body: JSON.stringify({ entries, now: Date.now() / 1000 }),
  });
  if (answer.redirected) return { state: "signed out" };
  if (!answer.ok) throw new Error("the server does not take them");
  return { state: "sent", ...(await answer.json()) };
};
const outbox = new Outbox({ store, post });

/** A name for an entry; also over plain http, where randomUUID is not to be had. */
const newKey = () => {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6] & 0x0f) | 0x40;
  bytes[8] = (bytes[8] & 0x3f) | 0x80;
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})/, "$1-$2-$3-$4-");
};

/** A photo made small, as base 64; empty where there is none. */
const smallPhoto = async (file) => {
  if (!file?.size) return "";
  const picture = await createImageBitmap(file);
  const share = Math.min(1, SIDE / Math.max(picture.width, picture.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(picture.width * share);
  canvas.height = Math.round(picture.height * share);
  canvas.getContext("2d").drawImage(picture, 0, 0, canvas.width, canvas.height);
  return canvas.toDataURL("image/jpeg", 0.8).split(",")[1];
};

const element = (tag, text, of = {}) =>
  Object.assign(document.createElement(tag), { textContent: text, ...of });

const formOf = (kind) => log.querySelector(`form[data-kind="${CSS.escape(kind)}"]`);

const wordsOf = (entry) => {
  const typed = Object.values(entry.typed).filter(Boolean).join("; ");
  return [entry.title, entry.place, typed, entry.note, entry.photo && "with a photo"].filter(
    Boolean,
  ).join(", ");
};

const fill = (entry) => {
  const form = formOf(entry.kind);
  if (!form) return;
  form.closest("details").open = true;
  for (const [name, value] of Object.entries({ ...entry.typed, note: entry.note })) {
    const box = form.elements.namedItem(name);
    if (box) box.value = value;
  }
  const places = form.querySelectorAll('input[type="radio"][name="part"]');
  for (const place of places) place.checked = place.value === entry.part;
  form.dataset.key = entry.key;
  form.scrollIntoView({ block: "start" });
  form.querySelector(".form-control")?.focus();
};

const lineOf = (entry) => {
  const line = element("li", "");
  const when = new Date(entry.at * 1000).toLocaleString([], {
    dateStyle: "medium",
    timeStyle: "short",
  });
  const text = element("div", "");
  text.append(element("span", when, { className: "hint" }), ` ${wordsOf(entry)}`);
  for (const sentence of Object.values(entry.errors ?? {})) {
    text.append(element("p", sentence, { className: "row-error" }));
  }
  line.append(text);
  if (!Outbox.isOurs(entry)) return line;
  const does = element("div", "", { className: "offline-does" });
  const change = element("button", "Change", { type: "button", className: SMALL });
  change.addEventListener("click", () => fill(entry));
  const drop = element("button", "Drop", { type: "button", className: SMALL });
  drop.addEventListener("click", async () => {
    if (!confirm(`Drop “${wordsOf(entry)}”? It is not sent anywhere.`)) return;
    await outbox.drop(entry.key);
    await show();
  });
  if (entry.kind !== "job") does.append(change);
  does.append(drop);
  line.append(does);
  return line;
};

const many = (count, one, more) => (count === 1 ? `1 entry ${one}` : `${count} entries ${more}`);

const show = async (state = "") => {
  const entries = await outbox.waiting();
  list.replaceChildren(...entries.map(lineOf));
  const refused = entries.filter((entry) => entry.errors).length;
  const waits = entries.length - refused;
  const words = [];
  if (waits) words.push(`${many(waits, "waits", "wait")} on this device.`);
  if (refused) words.push(`${many(refused, "must be changed", "must be changed")}, below.`);
  if (!entries.length) words.push("Nothing waits: all that was entered here is in the log.");
  if (state === "no signal" && waits) {
    words.push("There is no signal; they go as soon as there is.");
  }
  if (state === "signed out") words.push("You are signed out: sign in, and they go.");
  if (state === "gone") words.push("This plan is not to be had by you any more; they stay here.");
  told.textContent = words.join(" ");
  document.getElementById("offline-sign-in").hidden = state !== "signed out";
  document.getElementById("offline-send").hidden = !waits;
};

const send = async () => {
  const before = await outbox.waiting();
  if (!before.some((entry) => !entry.errors)) return show();
  const found = await outbox.send();
  for (const sentence of [...found.told].reverse()) news.prepend(element("li", sentence));
  if (found.count) {
    news.prepend(element("li", `${many(found.count, "went", "went")} into the log.`));
  }
  return show(found.state);
};

log.addEventListener("submit", async (event) => {
  const form = event.target.closest("form[data-kind]");
  if (!form) return;
  event.preventDefault();
  const data = new FormData(form);
  const places = form.querySelectorAll('input[type="radio"][name="part"]');
  const problem = form.querySelector(".offline-problem");
  const place = [...places].find((one) => one.checked);
  if (places.length && !place) {
    problem.textContent = "Choose where, first.";
    return;
  }
  const typed = Object.fromEntries([...data].filter(([name]) => !HIDDEN.has(name)));
  if (!Object.values(typed).some((text) => text.trim())) {
    problem.textContent = "Fill in one of them at the least.";
    return;
  }
  problem.textContent = "";
  let photo;
  try {
    photo = await smallPhoto(data.get("photo"));
  } catch {
    problem.textContent = "This is no picture that can be read. Take a JPEG, PNG or WebP file.";
    return;
  }
  const before = (await outbox.waiting()).find((entry) => entry.key === form.dataset.key);
  if (!photo && before && !before.errors?.photo) photo = before.photo;
  const at = data.get("at");
  await outbox.add({
    key: form.dataset.key || newKey(),
    plan: log.dataset.plan,
    kind: form.dataset.kind,
    title: form.dataset.title,
    place: place ? place.dataset.name : "",
    part: String(data.get("part") ?? ""),
    typed,
    units: log.dataset.units,
    at: at ? new Date(at).getTime() / 1000 : Date.now() / 1000,
    is_at_typed: Boolean(at),
    note: String(data.get("note") ?? ""),
    photo,
  });
  delete form.dataset.key;
  if (form.dataset.kind === "job") form.closest("li").hidden = true;
  else {
    form.reset();
    form.closest("details").open = false;
  }
  await show();
  told.scrollIntoView({ block: "nearest" });
  await send();
});

// One form is open at a time.
log.addEventListener("toggle", (event) => {
  if (!event.target.open || !event.target.matches(".offline-kind")) return;
  for (const other of log.querySelectorAll(".offline-kind[open]")) {
    if (other !== event.target) other.open = false;
  }
}, true);

const keep = document.getElementById("offline-keep");
const kept = document.getElementById("offline-kept");
const canKeep = "serviceWorker" in navigator && "caches" in globalThis;

/** All that the page is made of: what a phone must have to show it without signal. */
const pieces = () => {
  const linked = [...document.querySelectorAll("link[href], script[src]")]
    .map((one) => one.href || one.src);
  const loaded = performance.getEntriesByType("resource").map((one) => one.name);
  const own = [...linked, ...loaded].map((address) => new URL(address, location.href));
  return new Set(
    own.filter((one) => one.origin === location.origin && one.pathname.startsWith("/static/"))
      .map((one) => one.href),
  );
};

const keepPage = async () => {
  const cache = await caches.open(KEPT);
  const fresh = await fetch(location.pathname);
  if (!fresh.ok || fresh.redirected) return;
  await Promise.all(
    [...pieces()].map(async (address) => (await cache.match(address)) || cache.add(address)),
  );
  await cache.put(location.pathname, fresh);
};

const showKept = async () => {
  const cache = canKeep ? await caches.open(KEPT) : null;
  const is_kept = Boolean(cache && await cache.match(location.pathname));
  keep.hidden = !canKeep || is_kept;
  kept.hidden = !is_kept;
  document.getElementById("offline-cannot").hidden = canKeep;
  return is_kept;
};

keep.addEventListener("click", async () => {
  keep.disabled = true;
  try {
    await navigator.serviceWorker.register(log.dataset.worker, { scope: "/" });
    await navigator.serviceWorker.ready;
    await keepPage();
  } catch {
    told.textContent = "The page could not be kept: there is no signal. Try again.";
  }
  keep.disabled = false;
  await showKept();
});

document.getElementById("offline-send").addEventListener("click", send);

document.getElementById("offline-drop").addEventListener("click", async () => {
  await (await caches.open(KEPT)).delete(location.pathname);
  await showKept();
});

addEventListener("online", send);
document.addEventListener("visibilitychange", () => document.hidden || send());
setInterval(send, EVERY);
if (await showKept()) keepPage().catch(() => null); // as it is now, for the next time
await send();
