// A stopwatch that writes each time it stopped into a box: one press starts, the next stops.
const TICK = 100; // between two looks at the clock [ms]

/** Seconds with one decimal, as they stand in the box. */
export const seconds = (milliseconds) => (milliseconds / 1000).toFixed(1);

/** What stands in the box once another time was taken. */
export const withTime = (typed, time) => (typed.trim() ? `${typed.trim()} ${time}` : time);

const arm = (watch) => {
  const box = document.getElementById(watch.dataset.stopwatch);
  const [told, button] = [watch.querySelector("output"), watch.querySelector("button")];
  let begun = null;
  let ticking = 0;
  watch.hidden = false;
  button.addEventListener("click", () => {
    if (begun === null) {
      begun = performance.now();
      button.textContent = "Stop";
      ticking = setInterval(() => {
        told.textContent = `${seconds(performance.now() - begun)} s`;
      }, TICK);
      return;
    }
    const time = seconds(performance.now() - begun);
    clearInterval(ticking);
    begun = null;
    told.textContent = `${time} s`;
    button.textContent = "Start again";
    box.value = withTime(box.value, time);
  });
};

/** Words for each next press and the box that it fills, as the page tells them. */
export const tapsOf = (text) =>
  text.split(";").map((one) => {
    const [words, box] = one.split("|");
    return { words, box };
  });

// One button, pressed again and again: each press after the first fills a box.
const armTaps = (watch) => {
  const taps = tapsOf(watch.dataset.taps);
  const [told, button] = [watch.querySelector("output"), watch.querySelector("button")];
  const first = button.textContent;
  let begun = null;
  let next = 0;
  let ticking = 0;
  watch.hidden = false;
  button.addEventListener("click", () => {
    if (begun === null) {
      [begun, next] = [performance.now(), 0];
      ticking = setInterval(() => {
        told.textContent = `${seconds(performance.now() - begun)} s`;
      }, TICK);
    } else {
      const time = seconds(performance.now() - begun);
      document.getElementById(taps[next].box).value = `${time} s`;
      told.textContent = `${time} s`;
      next += 1;
    }
    if (next < taps.length) {
      button.textContent = taps[next].words;
      return;
    }
    clearInterval(ticking);
    begun = null;
    button.textContent = first;
  });
};

if (typeof document !== "undefined") {
  for (const watch of document.querySelectorAll("[data-taps]")) armTaps(watch);
  for (const watch of document.querySelectorAll("[data-stopwatch]")) arm(watch);
}
