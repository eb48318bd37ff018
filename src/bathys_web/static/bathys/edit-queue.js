// What is done to a plan reaches the server one edit after the other, in the order it was done,
// however slowly it answers. What is only looked at waits for the edits before it, so it is never
// of an older plan than the page.
(() => {
  "use strict";

  const edits = []; // in waiting
  const looks = new Map(); // in waiting: of each place in the page, the last one asked for
  let now = null; // the edit the server works at
  let refused = false; // what was done last came to nothing
  let isOurs = false; // the request being made is one of the queue's own

  const typed = (edit) => `${edit.path} ${new URLSearchParams(edit.values)}`;
  const tell = (edit) => {
    const box = document.getElementById("undone");
    box.textContent = `“${edit.words}” was not done: the plan had changed by then. Look again, and press it once more if you still want it.`;
    box.hidden = false;
  };

  // Where a edit's answer goes; nothing when what it was meant for is no longer in the page.
  const placeOf = (edit) => {
    if (edit.id) return document.getElementById(edit.id);
    return edit.form.isConnected || edit.holds ? document.getElementById("workspace") : null;
  };
  const send = async () => {
    while (edits.length) {
      now = edits.shift();
      const button = document.getElementById(now.button);
      const place = placeOf(now);
      if (!place) tell(now);
      if (!place || (button && button.disabled)) continue;
      refused = false;
      isOurs = true;
      const answered = htmx.ajax("POST", now.path, {
        source: "#workspace", target: place, swap: "outerHTML", values: now.values,
      });
      isOurs = false;
      await answered.catch(() => null); // the page tells by itself that no answer came
    }
    now = null;
    // What was typed and came to nothing is seen before the page goes on to another part.
    if (refused) {
      looks.delete("inspector");
      const box = document.querySelector("#inspector .has-error [name=text], #inspector .row-form:has(.row-notice) [name=text]");
      if (box) box.focus();
    }
    const all = [...looks.values()];
    looks.clear();
    for (const look of all) {
      if (look.elt.isConnected) look.go(true);
      else if (document.getElementById(look.place)) {
        htmx.ajax("GET", look.path, { source: `#${look.place}`, target: `#${look.place}`, swap: "outerHTML" });
      }
    }
  };

  document.addEventListener("htmx:confirm", (event) => {
    const { elt, path, verb, target, issueRequest, triggeringEvent } = event.detail;
    if (isOurs) return;
    if (verb === "get") {
      if (!now) return;
      event.preventDefault();
      // What was picked by hand goes before what asks for itself.
      if (elt === target && looks.has(target.id)) return;
      const asked = elt.matches("form") ? `${path}?${new URLSearchParams(new FormData(elt))}` : path;
      looks.set(target.id || elt, { elt, path: asked, place: target.id, go: issueRequest });
      return;
    }
    if (target.id !== "workspace" && !elt.classList.contains("row-form")) return;
    event.preventDefault();
    const button = (triggeringEvent && triggeringEvent.submitter) || elt.querySelector("[type=submit]");
    const edit = {
      form: elt, path, values: new FormData(elt), id: elt.classList.contains("row-form") ? elt.id : "",
      holds: "holds" in elt.dataset, button: button ? button.id : "",
      words: (elt.querySelector("label, legend") || button || elt).textContent.trim(),
    };
    // Enter in a box is two events for one edit, and a button pressed twice in haste is one
    // offer; a step, though, is as many steps as it is pressed.
    const last = edits[edits.length - 1] || now;
    if (!edit.holds && last && typed(last) === typed(edit)) return;
    edits.push(edit);
    if (!now) send();
  });
  document.addEventListener("htmx:afterRequest", (event) => {
    if (event.detail.requestConfig.verb === "post") {
      const { status } = event.detail.xhr;
      refused = status < 200 || status >= 400; // none at all, where the network failed
    }
  });
  document.addEventListener("click", () => { document.getElementById("undone").hidden = true; }, true);

  // A bench asked for anew after a edit is the one last asked for, though it has not come yet.
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

  // A bench that comes anew by itself waits while something is pressed: between the finger's coming
  // and its going the button would be another, and the press be lost.
  let isPressed = false;
  let isOwed = false;
  const letGo = () => {
    isPressed = false;
    if (isOwed) setTimeout(() => htmx.trigger(document.body, "plan-changed"), 0);
    isOwed = false;
  };
  document.addEventListener("pointerdown", () => { isPressed = true; }, true);
  for (const name of ["pointerup", "pointercancel"]) document.addEventListener(name, letGo, true);
  document.addEventListener("htmx:beforeSwap", (event) => {
    const { target, requestConfig } = event.detail;
    if (!isPressed || !target || target.id !== "bench" || requestConfig.elt.id !== "bench") return;
    event.detail.shouldSwap = false;
    isOwed = true;
  });

  // What is being typed stays in its box when the boxes come anew, and still counts when it is left.
  let kept = [];
  document.addEventListener("htmx:beforeSwap", (event) => {
    const { target, requestConfig } = event.detail;
    if (!target || target.id !== "workspace") return;
    const done = requestConfig && requestConfig.formData ? requestConfig.formData.get("path") : null;
    kept = [...document.querySelectorAll("#inspector .row-form :is(input, textarea)[name=text]")].filter(
      (box) => box.type !== "checkbox" && box.value !== box.defaultValue && box.form.elements.path.value !== done,
    ).map((box) => [box.id, box.value]);
  });
  document.addEventListener("htmx:afterSettle", () => {
    for (const [id, text] of kept) {
      const box = document.getElementById(id);
      if (!box) continue;
      box.value = text;
      box.addEventListener("blur", () => {
        if (box.isConnected && box.value !== box.defaultValue) box.dispatchEvent(new Event("change", { bubbles: true }));
      }, { once: true });
    }
    kept = [];
  });
})();
