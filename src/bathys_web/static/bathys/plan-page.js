// The plan page's small manners. All figures come from the server.

// A request names the revision that stands in the page when it is sent, not when its form was
// drawn: edits queue, and each repaints only a part of the page.
document.addEventListener("htmx:configRequest", (event) => {
  if (event.detail.verb !== "post") return;
  const base = document.getElementById("base");
  const rows = document.querySelector("#inspector .rows");
  if (base) event.detail.parameters.base = base.value;
  if (rows) event.detail.parameters.part = rows.dataset.part;
});

// What was opened by its own address stands alone: there is no plan beside it to repaint, so a form is
// sent as any other, a link is followed, and a figure is explained on a page of its own.
document.addEventListener("htmx:targetError", (event) => {
  const figure = event.target.closest("button[hx-get]");
  const form = event.target.closest("form");
  const link = event.target.closest("a[href]");
  if (figure) location.assign(figure.getAttribute("hx-get"));
  else if (form) form.submit();
  else if (link) location.assign(link.href);
});

// Other units are shown of the part that is in the inspector by then.
document.addEventListener("submit", (event) => {
  const rows = document.querySelector("#inspector .rows");
  const back = event.target.elements?.back;
  if (rows && back && event.target.matches(".units-switch")) {
    back.value = `${location.pathname}?part=${rows.dataset.part}`;
  }
});

const lost = () => document.getElementById("lost");
for (const name of ["htmx:sendError", "htmx:responseError", "htmx:timeout"]) {
  document.addEventListener(name, () => {
    lost().hidden = false;
  });
}
document.addEventListener("htmx:beforeSwap", () => {
  lost().hidden = true;
});

// The part in the inspector is the part lit in the picture.
document.addEventListener("htmx:afterSettle", () => {
  const rows = document.querySelector("#inspector .rows");
  if (!rows) return;
  for (const one of document.querySelectorAll("#side-view :is(.badge-link, .handle)")) {
    one.classList.toggle(
      "is-picked",
      (one.dataset.part || one.dataset.lift) === rows.dataset.part,
    );
  }
});

// The focus stays where it was, or else at the head of what it was in; and the page where it was
// looked at, though what it is made of was put in again.
const HEADS = { findings: "findings-title", bench: "bench-title", inspector: "inspector-title" };
let picked = []; // what had the focus, else the head of what it was in
let looked = null;
document.addEventListener("htmx:beforeSwap", (event) => {
  const now = document.activeElement;
  const region = now && now.closest("#findings, #bench, #inspector");
  const wanted = [now && now.id, region && HEADS[region.id]].filter(Boolean);
  if (wanted.length) picked = wanted;
  looked = ["workspace", "bench"].includes(event.detail.target && event.detail.target.id)
    ? scrollY
    : null;
});
// Who has gone elsewhere on the page meanwhile stays there.
document.addEventListener("click", (event) => {
  if (event.target.closest('a[href^="#"]')) looked = null;
}, true);
document.addEventListener("htmx:afterSettle", () => {
  if (looked !== null) scrollTo({ top: looked, behavior: "instant" });
  looked = null;
  if (document.activeElement !== document.body) return;
  for (const id of picked) {
    const again = document.getElementById(id);
    if (again) again.focus({ preventScroll: true });
    if (again && document.activeElement === again) {
      picked = [];
      break;
    }
  }
});

// On a phone, what the last change moved lies over the page until the next press.
document.addEventListener("click", (event) => {
  const figures = document.querySelector("#moved .moved-figures");
  if (!figures || !matchMedia("(max-width: 760px)").matches) return;
  if (event.target.closest("#moved-close") || !event.target.closest("#moved")) figures.remove();
});

// How a figure came to be lies over the page.
document.addEventListener("htmx:afterSwap", (event) => {
  if (event.target.id !== "explained-words") return;
  const over = document.getElementById("explained");
  if (!over.open) over.showModal();
});

// What was opened in a bench stays open when the bench is worked out again.
let opened = [];
document.addEventListener("htmx:beforeSwap", (event) => {
  if (!event.detail.target || event.detail.target.id !== "bench") return;
  opened = [...document.querySelectorAll("#bench details[open] > summary")].map((one) =>
    one.textContent.trim()
  );
});
document.addEventListener("htmx:afterSettle", (event) => {
  if (event.target.id !== "bench") return;
  for (const one of event.target.querySelectorAll("details > summary")) {
    if (opened.includes(one.textContent.trim())) one.parentElement.open = true;
  }
  opened = [];
});

// What is pressed in the picture is picked: the pipe under the finger, or near it, before the
// shell it lies in. Its number does the same by keyboard.
const NEAR = [[0, 0], [5, 0], [-5, 0], [0, 5], [0, -5]];
const partAt = (x, y) => {
  for (const [across, down] of NEAR) {
    const over = document.elementsFromPoint(x + across, y + down).find((one) => one.dataset.pipe);
    if (over) return over.dataset.pipe;
  }
  const within = document.elementsFromPoint(x, y).find((one) => one.dataset.of || one.dataset.lift);
  return within ? within.dataset.of || within.dataset.lift : "";
};
const pickAt = (x, y) => {
  const part = partAt(x, y);
  const badge = part && document.querySelector(`#side-view .badge-link[data-part="${part}"]`);
  if (!badge) return;
  badge.focus({ preventScroll: true }); // the arrow keys step it from here
  badge.dispatchEvent(new MouseEvent("click", { bubbles: true, cancelable: true }));
};
document.addEventListener("click", (event) => {
  if (
    !event.target.closest("#side-view > svg") || event.target.closest(".badge-link, [data-lift]")
  ) return;
  pickAt(event.clientX, event.clientY);
});

// Drag a vessel higher, lower or aside in the picture, one way at a time: sent as steps when it
// is let go. Escape lets it go where it was. A finger moves only what it has picked before, so
// that the picture can be pulled about with it.
let drag = null;
let wasMoved = false; // the press that has just ended was a drag
const shift = (x, y) => {
  for (const part of drag.svg.querySelectorAll(`[data-of="${drag.id}"]`)) {
    part.setAttribute("transform", `translate(${x} ${y})`);
  }
};
document.addEventListener("pointerdown", (event) => {
  const shell = event.target.closest("#side-view [data-lift]");
  wasMoved = false;
  if (!shell || event.button) return;
  if (event.pointerType === "touch" && !shell.classList.contains("is-picked")) return;
  const svg = shell.ownerSVGElement;
  drag = {
    id: shell.dataset.lift,
    x: event.clientX,
    y: event.clientY,
    scale: shell.getScreenCTM().d,
    svg,
    verb: "",
    steps: 0,
  };
  shell.setPointerCapture(event.pointerId);
  event.preventDefault();
});
document.addEventListener("pointermove", (event) => {
  if (!drag) return;
  const across = event.clientX - drag.x;
  const up = drag.y - event.clientY;
  if (!drag.verb && Math.max(Math.abs(across), Math.abs(up)) > 4) {
    drag.verb = Math.abs(up) >= Math.abs(across) ? "raise" : "move";
  }
  if (!drag.verb) return;
  const per = Number(drag.verb === "raise" ? drag.svg.dataset.step : drag.svg.dataset.beside);
  drag.steps = Math.round((drag.verb === "raise" ? up : across) / (per * drag.scale));
  if (drag.verb === "raise") shift(0, -drag.steps * per);
  else shift(drag.steps * per, 0);
});
document.addEventListener("click", (event) => {
  if (event.target.closest("#side-view [data-lift]") && !wasMoved) {
    pickAt(event.clientX, event.clientY);
  }
});
document.addEventListener("pointerup", () => {
  if (!drag) return;
  const { id, verb, steps } = drag;
  wasMoved = Boolean(verb);
  drag = null;
  if (steps) {
    const form = document.getElementById("drag-form");
    form.elements.target.value = id;
    form.elements.verb.value = verb;
    form.elements.steps.value = steps;
    form.requestSubmit();
  }
});
export const letGo = () => {
  if (!drag) return;
  shift(0, 0);
  drag = null;
  wasMoved = true; // nor is it a press
};
document.addEventListener("pointercancel", letGo);

// Next and previous part in the order of the water; go to one by its name.
const stations = () => [...document.querySelectorAll("#inspector .stations a")];
// Of many parts the picked one is in sight in the list, without the page being moved.
const inSight = () => {
  const list = document.querySelector("#inspector .stations");
  const here = list && list.querySelector("[aria-current]");
  if (!here) return;
  const within = (size, from, long) => Math.max(from + long - size, 0);
  list.scrollTop = within(
    list.clientHeight,
    here.offsetTop - list.offsetTop,
    2 * here.offsetHeight,
  );
  list.scrollLeft = within(
    list.clientWidth,
    here.offsetLeft - list.offsetLeft,
    here.offsetWidth + 40,
  );
};
document.addEventListener("DOMContentLoaded", inSight);
document.addEventListener("htmx:afterSettle", inSight);
export const onward = (by) => {
  const all = stations();
  if (!all.length) return false;
  const here = all.findIndex((link) => link.getAttribute("aria-current"));
  const next = all[(here + by + all.length) % all.length];
  next.focus({ preventScroll: true });
  next.click();
  return true;
};
// The box by / takes the name of a part, of a bench, or of what else the page can do.
const ACTS = "#bench .bench-row a, #history .history-acts button, #history .history-acts a," +
  " .part-acts button, .view-tools button, #switch-theme, #show-keys";
document.addEventListener("submit", (event) => {
  if (event.target.id !== "find-part") return;
  const typed = document.getElementById("find-box").value.trim().toLowerCase();
  const named = (link) => {
    const label = link.querySelector("b");
    return link.textContent.slice(label ? label.textContent.length : 0).trim().toLowerCase();
  };
  const acts = [...document.querySelectorAll(ACTS)].filter((act) => !act.disabled);
  const all = [...stations(), ...acts];
  const found = stations().find((link) => link.id.toLowerCase() === `station-${typed}`) ||
    all.find((link) => named(link).startsWith(typed)) ||
    all.find((link) => named(link).includes(typed));
  event.preventDefault();
  const told = document.getElementById("find-told");
  told.textContent = found || !typed ? "" : `No part, bench or action is called “${typed}”.`;
  if (!found || !typed) return;
  found.focus({ preventScroll: true });
  found.click();
});
// On a phone the inspector is a sheet at the foot of the page.
export const raise = (up = true) => {
  document.body.classList.toggle("sheet-up", up);
  const bar = document.getElementById("sheet-bar");
  if (bar) bar.setAttribute("aria-expanded", String(up));
};
document.addEventListener("click", (event) => {
  if (event.target.closest("#sheet-bar")) raise(!document.body.classList.contains("sheet-up"));
  else if (event.target.closest("#side-view .badge-link, .finding-why a")) raise();
});
document.addEventListener(
  "htmx:afterSettle",
  () => raise(document.body.classList.contains("sheet-up")),
);

// On paper nothing is folded; afterwards it is as it was.
const FOLDED = "main details:not([open], .ask, .figure, .plans-label, #inspector *)";
let unfolded = [];
addEventListener("beforeprint", () => {
  unfolded = [...document.querySelectorAll(FOLDED)];
  for (const one of unfolded) one.open = true;
});
addEventListener("afterprint", () => {
  for (const one of unfolded) one.open = false;
});

document.addEventListener("click", (event) => {
  if (event.target.closest("#show-keys")) document.getElementById("keys").showModal();
});

// An opened figure lies over the page until something else is pressed.
export const closeFigures = (except) => {
  for (const open of document.querySelectorAll("#figures details[open]")) {
    if (open !== except) open.open = false;
  }
};
document.addEventListener("click", (event) => closeFigures(event.target.closest("details")));
