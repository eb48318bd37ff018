// Closer and farther, and what the side view shows; kept while the plan is edited.

const svg = () => document.querySelector("#side-view > svg");
const SHOWS = "bathys-shows";
let frame = null; // what part of the picture is looked at
let whole = "";

const kept = () => {
  try {
    return JSON.parse(localStorage.getItem(SHOWS)) || {};
  } catch {
    return {};
  }
};
const read = (view) => view.dataset.whole.split(" ").map(Number);

const show = () => {
  const view = svg();
  if (!view) return;
  if (!view.dataset.whole) view.dataset.whole = view.getAttribute("viewBox");
  // Another picture is looked at whole again; the same one stays where it was.
  if (view.dataset.whole !== whole) {
    whole = view.dataset.whole;
    frame = null;
  }
  view.setAttribute("viewBox", frame ? frame.map((n) => n.toFixed(1)).join(" ") : whole);
  view.classList.toggle("is-near", Boolean(frame));
  const choices = kept();
  for (const box of document.querySelectorAll("#side-view [data-shows]")) {
    if (box.id in choices) box.checked = choices[box.id];
    document.getElementById("side-view").classList.toggle(box.dataset.shows, box.checked);
  }
};

const held = (box, view) => {
  const [left, top, wide, tall] = read(view);
  return [
    Math.min(Math.max(box[0], left), left + wide - box[2]),
    Math.min(Math.max(box[1], top), top + tall - box[3]),
    box[2],
    box[3],
  ];
};
const zoom = (by, at) => {
  const view = svg();
  if (!view) return;
  const [left, top, wide, tall] = read(view);
  const now = frame || [left, top, wide, tall];
  const width = Math.min(Math.max(now[2] / by, wide / 12), wide);
  const height = width * tall / wide;
  const point = at || [now[0] + now[2] / 2, now[1] + now[3] / 2];
  const share = width / now[2];
  frame = width >= wide * 0.999 ? null : held([
    point[0] - (point[0] - now[0]) * share,
    point[1] - (point[1] - now[1]) * share,
    width,
    height,
  ], view);
  show();
};
const place = (event, view) => {
  const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(
    view.getScreenCTM().inverse(),
  );
  return [point.x, point.y];
};

document.addEventListener("click", (event) => {
  const button = event.target.closest("button");
  if (!button) return;
  if (button.id === "zoom-in") zoom(1.5);
  if (button.id === "zoom-out") zoom(1 / 1.5);
  if (button.id === "zoom-all") zoom(0.001);
});
document.addEventListener("change", (event) => {
  if (!event.target.dataset || !event.target.dataset.shows) return;
  const choices = kept();
  choices[event.target.id] = event.target.checked;
  try {
    localStorage.setItem(SHOWS, JSON.stringify(choices));
  } catch {
    // A browser that keeps nothing shows it until the page is left.
  }
  event.target.closest("#side-view").classList.toggle(
    event.target.dataset.shows,
    event.target.checked,
  );
});
document.addEventListener("wheel", (event) => {
  const view = event.target.closest && event.target.closest("#side-view > svg");
  if (!view || !(event.ctrlKey || event.metaKey)) return;
  event.preventDefault();
  zoom(event.deltaY < 0 ? 1.2 : 1 / 1.2, place(event, view));
}, { passive: false });

// Looked at from near, the picture is pulled about.
let pull = null;
let wasPulled = false;
// A mouse moves any vessel it takes hold of, a finger only the one that is picked.
const holds = (event) => {
  const shell = event.target.closest("[data-lift]");
  return shell && (event.pointerType !== "touch" || shell.classList.contains("is-picked"));
};
document.addEventListener("pointerdown", (event) => {
  wasPulled = false;
  const view = event.target.closest && event.target.closest("#side-view > svg");
  if (!view || !frame || event.button || event.target.closest(".badge-link") || holds(event)) {
    return;
  }
  pull = { at: place(event, view), view, x: event.clientX, y: event.clientY };
  event.preventDefault();
});
document.addEventListener("pointermove", (event) => {
  if (!pull) return;
  if (Math.hypot(event.clientX - pull.x, event.clientY - pull.y) > 4) wasPulled = true;
  const here = place(event, pull.view);
  frame = held([
    frame[0] + pull.at[0] - here[0],
    frame[1] + pull.at[1] - here[1],
    frame[2],
    frame[3],
  ], pull.view);
  show();
});
for (const name of ["pointerup", "pointercancel"]) {
  document.addEventListener(name, () => {
    pull = null;
  });
}
// What was pulled was not pressed.
document.addEventListener("click", (event) => {
  if (wasPulled) event.stopPropagation();
  wasPulled = false;
}, true);

document.addEventListener("keydown", (event) => {
  if (
    event.ctrlKey || event.metaKey || event.altKey ||
    event.target.closest("input, textarea, select")
  ) return;
  if (event.key === "+" || event.key === "=") zoom(1.5);
  else if (event.key === "-") zoom(1 / 1.5);
  else if (event.key === "0") zoom(0.001);
});
document.addEventListener("DOMContentLoaded", show);
document.addEventListener("htmx:afterSettle", show);
