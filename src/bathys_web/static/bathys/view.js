// Zoom, and what the side view shows; kept while the plan is edited.

import { select, zoom, zoomIdentity, zoomTransform } from "../vendor/d3-zoom/d3-zoom.js";

const NEAREST = 12; // times as large as fitted
export const STEP = 1.5;
const SHOWS = "bathys-shows";
const svg = () => document.querySelector("#side-view > svg");
let where = zoomIdentity; // how the picture is looked at
let drawn = ""; // its size

// A mouse moves any vessel it takes hold of, a finger only the one that is picked.
const holds = (event) => {
  const shell = event.target.closest("[data-lift]");
  return shell && (!event.touches || shell.classList.contains("is-picked"));
};
const isWanted = (event) => {
  if (event.type === "wheel") return event.ctrlKey || event.metaKey;
  if (event.type === "dblclick") return false;
  if (event.touches && event.touches.length > 1) return true;
  return !event.button && where.k > 1 && !event.target.closest(".badge-link") && !holds(event);
};
// A wheel's notch is far more than what two fingers on a pad send at a time.
const wheelStep = (event) => {
  const lines = event.deltaMode ? 30 : 1;
  return -event.deltaY * lines * (Math.abs(event.deltaY) < 40 ? 0.012 : 0.0026);
};
const look = zoom()
  .scaleExtent([1, NEAREST])
  .clickDistance(4)
  .filter(isWanted)
  .wheelDelta(wheelStep)
  .on("zoom", ({ transform }) => {
    where = transform;
    const view = svg();
    if (!view) return;
    view.querySelector(".zoomed").setAttribute("transform", transform);
    view.classList.toggle("is-near", transform.k > 1);
  });

const kept = () => {
  try {
    return JSON.parse(localStorage.getItem(SHOWS)) || {};
  } catch {
    return {};
  }
};
// Each shade takes time to draw, so the server draws the one that is looked at.
const fetchShade = (key) => {
  const chosen = document.getElementById("show-tint");
  if (!key || chosen.dataset.drawn === key) return;
  chosen.dataset.drawn = key;
  const part = document.querySelector("#inspector .rows");
  const asked = new URLSearchParams({ tint: key, part: part ? part.dataset.part : "" });
  globalThis.htmx.ajax("GET", `${chosen.dataset.tints}?${asked}`, {
    target: "#side-view",
    swap: "outerHTML",
  });
};
const shade = (key) => {
  const view = document.getElementById("side-view");
  fetchShade(key);
  view.classList.toggle("with-tint", key !== "");
  for (const group of view.querySelectorAll(".tints")) {
    group.classList.toggle("is-shown", group.dataset.tint === key);
  }
};
const show = () => {
  const view = svg();
  if (!view) return;
  // A picture of another size is looked at whole again; the same one stays where it was.
  if (view.getAttribute("viewBox") !== drawn) {
    drawn = view.getAttribute("viewBox");
    where = zoomIdentity;
  }
  if (!view.dataset.zooms) {
    view.dataset.zooms = "1";
    const { width, height } = view.viewBox.baseVal;
    const all = [[0, 0], [width, height]];
    select(view).call(look.extent(all).translateExtent(all)).call(look.transform, where);
  }
  const choices = kept();
  for (const box of document.querySelectorAll("#side-view [data-shows]")) {
    if (box.id in choices) box.checked = choices[box.id];
    document.getElementById("side-view").classList.toggle(box.dataset.shows, box.checked);
  }
  const tints = document.getElementById("show-tint");
  if (tints) {
    const wanted = choices[tints.id] || "";
    tints.value = [...tints.options].some((o) => o.value === wanted) ? wanted : "";
    shade(tints.value);
  }
};
export const zoomBy = (by) => {
  if (svg()) select(svg()).call(look.scaleBy, by);
};
export const fit = () => {
  if (svg()) select(svg()).call(look.transform, zoomIdentity);
};
// Looked at from near, the part that is picked comes into sight.
const bringIntoSight = () => {
  const view = svg();
  const badge = view && view.querySelector(".badge-link.is-picked");
  if (!badge || zoomTransform(view).k === 1) return;
  const { x, y, width, height } = badge.getBBox();
  const { width: wide, height: tall } = view.viewBox.baseVal;
  const [across, down] = where.apply([x + width / 2, y + height / 2]);
  if (across < 0 || down < 0 || across > wide || down > tall) {
    select(view).call(look.translateTo, x + width / 2, y + height / 2);
  }
};

// The picture as a file: the server draws it, the browser turns it into points.
const savePng = async (link) => {
  const answer = await fetch(link.href);
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(await answer.text())}`;
  await image.decode();
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [2 * image.width, 2 * image.height];
  canvas.getContext("2d").drawImage(image, 0, 0, canvas.width, canvas.height);
  const file = document.createElement("a");
  file.href = canvas.toDataURL("image/png");
  file.download = link.dataset.png;
  file.click();
};

document.addEventListener("click", (event) => {
  const link = event.target.closest("a[data-png]");
  if (link) {
    event.preventDefault();
    savePng(link);
  }
  const button = event.target.closest("button");
  if (!button) return;
  if (button.id === "zoom-in") zoomBy(STEP);
  if (button.id === "zoom-out") zoomBy(1 / STEP);
  if (button.id === "zoom-all") fit();
  if (button.id === "view-full") {
    if (document.fullscreenElement) document.exitFullscreen();
    else document.getElementById("side-view").requestFullscreen();
  }
});
document.addEventListener("change", (event) => {
  if (!event.target.dataset) return;
  const isTint = "tints" in event.target.dataset;
  if (!isTint && !event.target.dataset.shows) return;
  const choices = kept();
  choices[event.target.id] = isTint ? event.target.value : event.target.checked;
  try {
    localStorage.setItem(SHOWS, JSON.stringify(choices));
  } catch {
    // A browser that keeps nothing shows it until the page is left.
  }
  if (isTint) {
    shade(event.target.value);
    return;
  }
  event.target.closest("#side-view").classList.toggle(
    event.target.dataset.shows,
    event.target.checked,
  );
});
document.addEventListener("DOMContentLoaded", show);
// What changes the plan draws its side view again, shaded as it is.
document.addEventListener("htmx:configRequest", (event) => {
  const chosen = document.getElementById("show-tint");
  if (chosen && chosen.value && event.detail.verb === "post") {
    event.detail.parameters.tint = chosen.value;
  }
});
document.addEventListener("htmx:afterSettle", () => {
  show();
  bringIntoSight();
});
