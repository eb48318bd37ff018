// Under a wide picture the boxes of a part may be typed into with the picture out of sight. It then
// floats beside them, so that what a change does is seen at once; its place in the page is kept.

const IN_SIGHT = 0.6; // of its height; less, and it floats
const roomy = matchMedia("(min-width: 1101px)");

const isWanted = (view) => {
  const inspector = document.getElementById("inspector");
  if (
    !roomy.matches || !view.closest(".desk.is-wide") ||
    !inspector.contains(document.activeElement)
  ) return false;
  const box = view.getBoundingClientRect();
  return Math.min(box.bottom, innerHeight) < IN_SIGHT * box.height;
};
const look = () => {
  const view = document.getElementById("side-view");
  if (!view || !document.getElementById("inspector")) return;
  const wanted = isWanted(view);
  if (wanted === view.classList.contains("is-afloat")) return;
  // On the page's own element, since what is swapped must bring no style of its own.
  const { style } = document.documentElement;
  style.setProperty("--view-height", `${view.offsetHeight}px`);
  style.setProperty("--beside", `${document.querySelector(".desk .findings").offsetWidth}px`);
  view.classList.toggle("is-afloat", wanted);
};
for (const name of ["focusin", "focusout", "scroll", "htmx:afterSettle", "htmx:oobAfterSwap"]) {
  document.addEventListener(name, name === "focusout" ? () => setTimeout(look, 0) : look, {
    passive: true,
  });
}
addEventListener("resize", look);
