// Where a picture of a pump's curve is pressed; the server reads flows and heads from it.

const STEPS = [
  "Press the first mark on the flow axis.",
  "Press the second mark on the flow axis.",
  "Press the first mark on the lift axis.",
  "Press the second mark on the lift axis.",
  "Press a point on the curve at its left end.",
  "Press more points along the curve, to its right end; then read them.",
];
const MARKS = 4; // on the axes, before the curve
const at = (id) => document.getElementById(id);
let pressed = [];

const tell = () => {
  at("curve-next").textContent = STEPS[Math.min(pressed.length, STEPS.length - 1)];
  at("curve-back").disabled = !pressed.length;
  at("curve-read").disabled = pressed.length < MARKS + 2;
  at("curve-pressed").value = pressed.map((p) => p.map((n) => n.toFixed(1)).join(",")).join(" ");
  const image = at("curve-image");
  const svg = at("curve-marks");
  svg.setAttribute("viewBox", `0 0 ${image.naturalWidth} ${image.naturalHeight}`);
  const size = image.naturalWidth / 90;
  svg.replaceChildren(...pressed.map(([x, y], number) => {
    const mark = document.createElementNS("http://www.w3.org/2000/svg", "path");
    mark.setAttribute("d", `M${x - size} ${y}h${2 * size}M${x} ${y - size}v${2 * size}`);
    mark.setAttribute("class", number < MARKS ? "on-axis" : "on-curve");
    mark.setAttribute("stroke-width", size / 4);
    return mark;
  }));
};

document.addEventListener("change", (event) => {
  if (event.target.id !== "curve-file" || !event.target.files.length) return;
  const reader = new FileReader();
  reader.addEventListener("load", () => {
    const image = at("curve-image");
    image.addEventListener("load", () => {
      pressed = [];
      at("curve-sheet").hidden = false;
      tell();
    }, { once: true });
    image.addEventListener("error", () => {
      at("curve-sheet").hidden = true;
      at("curve-next").textContent = "That file is no picture; choose another.";
    }, { once: true });
    image.src = reader.result;
  });
  reader.readAsDataURL(event.target.files[0]);
});
document.addEventListener("click", (event) => {
  if (event.target.id === "curve-back") {
    pressed.pop();
    tell();
    return;
  }
  const sheet = event.target.closest("#curve-sheet");
  if (!sheet) return;
  const image = at("curve-image");
  const box = image.getBoundingClientRect();
  const by = image.naturalWidth / box.width;
  pressed.push([(event.clientX - box.left) * by, (event.clientY - box.top) * by]);
  tell();
});
