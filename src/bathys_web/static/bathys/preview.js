// Shows a change over the side view before it is made; what it does was worked out on the server.

const SVG = "http://www.w3.org/2000/svg";
let pressed = null;

const drop = () => {
  for (const old of document.querySelectorAll("#preview, #preview-words")) old.remove();
  if (pressed && pressed.isConnected) pressed.setAttribute("aria-pressed", "false");
  pressed = null;
};
const cell = (row, words, tag = "td") => {
  const made = document.createElement(tag);
  made.textContent = words;
  row.append(made);
  return made;
};

const tell = (found) => {
  const box = document.createElement("div");
  box.id = "preview-words";
  box.className = "preview-words";
  box.setAttribute("role", "status");
  const title = document.createElement("p");
  title.textContent = found.refusal
    ? found.refusal
    : `${found.words}: ${found.counts[0]} → ${found.counts[1]}`;
  box.append(title);
  if (found.rows && found.rows.length) {
    const table = document.createElement("table");
    table.className = "plain";
    const head = table.createTHead().insertRow();
    for (const words of ["Figure", "Now", "Then", ""]) cell(head, words, "th");
    const body = table.createTBody();
    for (const row of found.rows) {
      const line = body.insertRow();
      for (const words of [row.label, row.before, row.after, row.by]) cell(line, words);
    }
    box.append(table);
  }
  document.querySelector("#side-view").append(box);
};

const draw = (found) => {
  const view = document.querySelector("#side-view > svg");
  const group = document.createElementNS(SVG, "g");
  group.id = "preview";
  for (const outline of found.outlines || []) {
    const line = document.createElementNS(SVG, "polyline");
    line.setAttribute("points", outline.points);
    line.setAttribute("class", `preview-${outline.look}`);
    group.append(line);
  }
  for (const [x, y, wide] of found.levels || []) {
    const line = document.createElementNS(SVG, "polyline");
    line.setAttribute("points", `${x},${y} ${x + wide},${y}`);
    line.setAttribute("class", "preview-level");
    group.append(line);
  }
  view.querySelector(".zoomed").append(group);
};

document.addEventListener("click", async (event) => {
  const button = event.target.closest("[data-preview]");
  if (!button) return;
  const again = button === pressed;
  drop();
  if (again || !document.querySelector("#side-view > svg")) return;
  const asked = new URLSearchParams(new FormData(button.form));
  asked.delete("csrfmiddlewaretoken");
  pressed = button;
  button.setAttribute("aria-pressed", "true");
  const answer = await fetch(`${button.dataset.preview}?${asked}`, {
    headers: { Accept: "application/json" },
  }).catch(() => null);
  if (pressed !== button) return;
  if (!answer || !answer.ok) {
    document.getElementById("lost").hidden = false;
    drop();
    return;
  }
  const found = await answer.json();
  draw(found);
  tell(found);
  document.getElementById("side-view").scrollIntoView({ block: "nearest" });
});
document.addEventListener("keydown", (event) => {
  if (event.key === "Escape") drop();
});
// Another plan stands in the page: the preview was of the one before.
document.addEventListener("htmx:beforeSwap", (event) => {
  if (event.detail.target && ["workspace"].includes(event.detail.target.id)) drop();
});
document.addEventListener("htmx:oobBeforeSwap", (event) => {
  if (event.detail.target && event.detail.target.id === "side-view") drop();
});
// What it was asked from has gone: something else is asked there now.
document.addEventListener("htmx:afterSwap", () => {
  if (pressed && !pressed.isConnected) drop();
});
