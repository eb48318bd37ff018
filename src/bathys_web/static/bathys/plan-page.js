// The plan page's small manners. All figures come from the server.
(() => {
  "use strict";

  // A request names the revision that stands in the page when it is sent, not when its form was
  // drawn: edits queue, and each repaints only a part of the page.
  document.addEventListener("htmx:configRequest", (event) => {
    if (event.detail.verb !== "post") return;
    const base = document.getElementById("base");
    const rows = document.querySelector("#inspector .rows");
    if (base) event.detail.parameters.base = base.value;
    if (rows) event.detail.parameters.part = rows.dataset.part;
  });

  const lost = () => document.getElementById("lost");
  for (const name of ["htmx:sendError", "htmx:responseError", "htmx:timeout"]) {
    document.addEventListener(name, () => { lost().hidden = false; });
  }
  document.addEventListener("htmx:beforeSwap", () => { lost().hidden = true; });

  // The part in the inspector is the part lit in the picture.
  document.addEventListener("htmx:afterSettle", () => {
    const rows = document.querySelector("#inspector .rows");
    if (!rows) return;
    for (const link of document.querySelectorAll("#side-view .badge-link")) {
      link.classList.toggle("is-picked", link.dataset.part === rows.dataset.part);
    }
  });

  // An opened figure lies over the page until something else is pressed.
  const closeFigures = (except) => {
    for (const open of document.querySelectorAll("#figures details[open]")) {
      if (open !== except) open.open = false;
    }
  };
  document.addEventListener("click", (event) => closeFigures(event.target.closest("details")));

  document.addEventListener("keydown", (event) => {
    if (event.key === "Escape") closeFigures(null);
    const inBox = event.target.closest("input, textarea, select");
    if (inBox || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
    const button = document.getElementById(event.shiftKey ? "redo" : "undo");
    if (button && !button.disabled) {
      event.preventDefault();
      button.click();
    }
  });
})();
