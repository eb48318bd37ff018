// Every key of the plan page; each does what a button does.

import { tinykeys } from "../vendor/tinykeys/tinykeys.js";
import { closeFigures, letGo, onward, raise } from "./plan-page.js";
import { fit, STEP, zoomBy } from "./view.js";

const isTyping = (event) => event.target.closest("input, textarea, select");
// Not in a box, where a key is a letter, nor under an open dialog.
const free = (does) => (event) => {
  if (isTyping(event) || document.querySelector("dialog[open]")) return;
  if (does(event) !== false) event.preventDefault();
};
const press = (id) => () => {
  const button = document.getElementById(id);
  if (!button || button.disabled) return false;
  button.click();
  return true;
};
// Elsewhere the arrow keys scroll the page, as they always do.
const step = (id) =>
  free((event) => event.target.closest("#side-view, .stations, .part-acts") ? press(id)() : false);
const find = (event) => {
  const box = document.getElementById("find-box");
  if (!box || document.querySelector("dialog[open]")) return;
  event.preventDefault();
  raise();
  box.focus();
};
const help = free(() => document.getElementById("keys").showModal());
const slash = (event) => {
  if (!isTyping(event)) find(event);
};
const closer = free(() => zoomBy(STEP));

tinykeys(globalThis, {
  "ArrowUp": step("act-up"),
  "ArrowDown": step("act-down"),
  "ArrowLeft": step("act-left"),
  "ArrowRight": step("act-right"),
  "d": step("act-duplicate"),
  "Delete": step("act-remove"),
  "n": free(() => onward(1)),
  "p": free(() => onward(-1)),
  "?": help,
  "Shift+?": help,
  "/": slash,
  "Shift+/": slash,
  "$mod+k": find,
  "$mod+z": free(press("undo")),
  "$mod+Shift+z": free(press("redo")),
  "+": closer,
  "Shift++": closer,
  "=": closer,
  "-": free(() => zoomBy(1 / STEP)),
  "0": free(fit),
  "Escape": () => {
    letGo();
    closeFigures(null);
    raise(false);
  },
});
