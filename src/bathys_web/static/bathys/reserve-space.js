// What is still being worked out keeps the room it had before, so that nothing moves under a hand.

const WAITS = ".dynamic, .finding-remedies[hx-get]";
const heights = new Map(); // of each waiting place, by what it asks for
const name = (place) =>
  place.matches(".dynamic") ? "dynamic" : new URL(place.getAttribute("hx-get"), location.href)
    .searchParams.toString().replace(/&?part=[^&]*/, "");

const note = () => {
  for (const place of document.querySelectorAll(WAITS)) {
    heights.set(name(place), place.offsetHeight);
  }
};
const hold = (within) => {
  for (const place of within.querySelectorAll(WAITS)) {
    const height = heights.get(name(place));
    if (height && !place.dataset.came) place.style.minHeight = `${height}px`;
  }
};
// The page stays as long as it was until all has come, so that it is not scrolled up by itself.
const keepLong = () => {
  const main = document.querySelector("main");
  if (main) main.style.minHeight = `${main.offsetHeight}px`;
};
const isCome = (place) => place.dataset.came || place.querySelector(".long-run, .ask-for");
const letGo = () => {
  if ([...document.querySelectorAll(WAITS)].every(isCome)) {
    document.querySelector("main").style.minHeight = "";
  }
};
document.addEventListener("htmx:beforeSwap", (event) => {
  note();
  if (event.detail.target && event.detail.target.id === "workspace") keepLong();
});
document.addEventListener("htmx:afterSettle", letGo);
document.addEventListener("htmx:afterSwap", (event) => {
  const place = event.detail.target && event.detail.target.isConnected ? event.detail.target : null;
  if (place && place.matches(WAITS) && !place.querySelector(".long-run, .ask-for")) {
    place.dataset.came = "yes";
    place.style.minHeight = "";
  } else {
    hold(document);
  }
});
document.addEventListener("htmx:oobAfterSwap", () => hold(document));
