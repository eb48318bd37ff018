// What is done to a plan reaches the server one edit after the other, in the order it was done,
// however slowly it answers. What is only looked at waits for the edits before it, so it is never
// of an older plan than the page.
import { EditQueue } from "./queue.js";

let refused = false; // what was done last came to nothing
let isOurs = false; // the request being made is one of the queue's own

const tell = (edit) => {
  const box = document.getElementById("undone");
  box.textContent =
    `“${edit.words}” was not done: the plan had changed by then. Look again, and press it once more if you still want it.`;
  box.hidden = false;
};

// Where an edit's answer goes; nothing when what it was meant for is no longer in the page.
const placeOf = (edit) => {
  if (edit.id) return document.getElementById(edit.id);
  return edit.form.isConnected || edit.holds ? document.getElementById("workspace") : null;
};

const queue = new EditQueue({
  send: async (edit) => {
    const button = document.getElementById(edit.button);
    const place = placeOf(edit);
    if (!place) tell(edit);
    if (!place || (button && button.disabled)) return;
    refused = false;
    isOurs = true;
    const answered = htmx.ajax("POST", edit.path, {
      source: "#workspace",
      target: place,
      swap: "outerHTML",
      values: edit.values,
    });
    isOurs = false;
    await answered.catch(() => null); // the page tells by itself that no answer came
  },
  done: () => {
    // What was typed and came to nothing is seen before the page goes on to another part.
    if (!refused) return;
    queue.forget("inspector");
    const box = document.querySelector(
      "#inspector .has-error [name=text], #inspector .row-form:has(.row-notice) [name=text]",
    );
    if (box) box.focus();
  },
  look: (wanted) => {
    if (wanted.elt.isConnected) wanted.go(true);
    else if (document.getElementById(wanted.place)) {
      const place = `#${wanted.place}`;
      htmx.ajax("GET", wanted.path, { source: place, target: place, swap: "outerHTML" });
    }
  },
});

document.addEventListener("htmx:confirm", (event) => {
  const { elt, path, verb, target, issueRequest, triggeringEvent } = event.detail;
  if (isOurs) return;
  if (verb === "get") {
    if (!queue.isBusy) return;
    event.preventDefault();
    // What was picked by hand goes before what asks for itself.
    if (elt === target && queue.waitsFor(target.id)) return;
    const asked = elt.matches("form") ? `${path}?${new URLSearchParams(new FormData(elt))}` : path;
    queue.look(target.id || elt, { elt, path: asked, place: target.id, go: issueRequest });
    return;
  }
  if (target.id !== "workspace" && !elt.classList.contains("row-form")) return;
  event.preventDefault();
  const button = (triggeringEvent && triggeringEvent.submitter) ||
    elt.querySelector("[type=submit]");
  const edit = {
    form: elt,
    path,
    values: new FormData(elt),
    id: elt.classList.contains("row-form") ? elt.id : "",
    holds: "holds" in elt.dataset,
    button: button ? button.id : "",
    words: (elt.querySelector("label, legend") || button || elt).textContent.trim(),
  };
  queue.push(edit);
});
document.addEventListener("htmx:afterRequest", (event) => {
  if (event.detail.requestConfig.verb === "post") {
    const { status } = event.detail.xhr;
    refused = status < 200 || status >= 400; // none at all, where the network failed
  }
});
document.addEventListener("click", () => {
  document.getElementById("undone").hidden = true;
}, true);

// A bench asked for again after an edit is the one last asked for, though it has not come yet.
let wanted = "";
document.addEventListener("htmx:configRequest", (event) => {
  const asked = event.detail;
  if (asked.verb !== "get" || !asked.target || asked.target.id !== "bench") return;
  if (asked.elt.id === "bench") {
    if (wanted) asked.path = wanted;
    return;
  }
  const query = `${new URLSearchParams(asked.formData)}`;
  wanted = query ? `${asked.path}${asked.path.includes("?") ? "&" : "?"}${query}` : asked.path;
});
document.addEventListener("htmx:afterSwap", (event) => {
  if (event.detail.target && event.detail.target.id === "bench") wanted = "";
});

// A bench that comes again by itself waits while something is pressed: between the finger's coming
// and its going the button would be another, and the press be lost.
let isPressed = false;
let isOwed = false;
const letGo = () => {
  isPressed = false;
  if (isOwed) setTimeout(() => htmx.trigger(document.body, "plan-changed"), 0);
  isOwed = false;
};
document.addEventListener("pointerdown", () => {
  isPressed = true;
}, true);
for (const name of ["pointerup", "pointercancel"]) document.addEventListener(name, letGo, true);
document.addEventListener("htmx:beforeSwap", (event) => {
  const { target, requestConfig } = event.detail;
  if (!isPressed || !target || target.id !== "bench" || requestConfig.elt.id !== "bench") return;
  event.detail.shouldSwap = false;
  isOwed = true;
});

// What is being typed stays in its box when the boxes come again, and still counts when it is left.
let kept = [];
document.addEventListener("htmx:beforeSwap", (event) => {
  const { target, requestConfig } = event.detail;
  if (!target || target.id !== "workspace") return;
  const done = requestConfig && requestConfig.formData ? requestConfig.formData.get("path") : null;
  kept = [...document.querySelectorAll("#inspector .row-form :is(input, textarea)[name=text]")]
    .filter(
      (box) =>
        box.type !== "checkbox" && box.value !== box.defaultValue &&
        box.form.elements.path.value !== done,
    ).map((box) => [box.id, box.value]);
});
document.addEventListener("htmx:afterSettle", () => {
  for (const [id, text] of kept) {
    const box = document.getElementById(id);
    if (!box) continue;
    box.value = text;
    box.addEventListener("blur", () => {
      if (box.isConnected && box.value !== box.defaultValue) {
        box.dispatchEvent(new Event("change", { bubbles: true }));
      }
    }, { once: true });
  }
  kept = [];
});
