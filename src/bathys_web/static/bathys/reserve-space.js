// What is still being worked out keeps the room it had before, so that nothing moves under a hand.

const WAITS = ".dynamic, .finding-remedies[hx-get]";
const heights = new Map(); // of each waiting place, by what it asks for
const name = (place) =>
  place.matches(".dynamic") ? "dynamic" : new URL(place.getAttribute("hx-get"), location.href)
    .searchParams.toString().replace(/&?part=[^&]*/, "");

const note = () => {
  for (const place of document.querySelectorAll(WAITS)) {
    if (!place.dataset.came) continue;
    const held = place.style.minHeight;
    place.style.minHeight = "";
    if (place.offsetHeight) heights.set(name(place), place.offsetHeight); // 0: not shown at all
    place.style.minHeight = held;
  }
};
const hold = (within) => {
  for (const place of within.querySelectorAll(WAITS)) {
    const height = heights.get(name(place));
    if (height && !place.dataset.came) place.style.minHeight = `${height}px`;
  }
};
// The page stays as long as it was until all has come, and then as long as what one looks at needs,
// so that it is never scrolled up by itself.
let isHeld = false;
const keepLong = () => {
  const main = document.querySelector("main");
  if (!main) return;
  isHeld = true;
  main.style.minHeight = `${main.offsetHeight}px`;
};
const isCome = (place) => place.dataset.came || place.querySelector(".long-run, .ask-for");
const letGo = () => {
  const main = document.querySelector("main");
  if (!isHeld || !main || ![...document.querySelectorAll(WAITS)].every(isCome)) return;
  const page = document.documentElement;
  const below = page.scrollHeight - page.scrollTop - page.clientHeight;
  main.style.minHeight = `${Math.max(0, main.offsetHeight - Math.floor(below))}px`;
};
document.addEventListener("scroll", letGo, { passive: true });
document.addEventListener("htmx:beforeSwap", (event) => {
  note();
  if (event.detail.target && event.detail.target.id === "workspace") keepLong();
});
document.addEventListener("htmx:afterSettle", letGo);
document.addEventListener("htmx:afterSwap", (event) => {
  const place = event.detail.target && event.detail.target.isConnected ? event.detail.target : null;
  if (place && place.matches(WAITS) && !place.querySelector(".long-run, .ask-for")) {
    place.dataset.came = "yes"; // and keeps its room, should it need less, until the next edit
  } else {
    hold(document);
  }
});
document.addEventListener("htmx:oobAfterSwap", () => hold(document));
