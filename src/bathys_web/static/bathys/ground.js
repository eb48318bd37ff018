// The ground plan: dragged, or moved by keys. The server works out what follows.

const STEP = 0.05; // metres that a drag snaps to
const KEY = 0.1; // metres of a press of an arrow key
const plan = () => document.getElementById("ground-plan");
const grip = "[data-foot][data-turned], [data-joint], [data-mark], [data-corner], [data-site]";

let drag = null;

const snapped = (metres) => Math.round(metres / STEP) * STEP;
const at = (event) => {
  const svg = plan();
  const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(
    svg.getScreenCTM().inverse(),
  );
  return [point.x, point.y];
};
const metres = ([x, y]) => {
  const { perMetre, left, foot } = plan().dataset;
  return [(x - Number(left)) / Number(perMetre), (Number(foot) - y) / Number(perMetre)];
};
const middle = (group) => {
  const shape = group.matches("circle") ? group : group.querySelector("polygon, circle, rect");
  const { x, y, width, height } = shape.getBBox();
  return [x + width / 2, y + height / 2];
};
const kindOf = (group) => {
  const { foot, joint, mark } = group.dataset;
  if (foot) return ["place", foot];
  if (joint) return ["place", joint];
  return ["move_mark", mark];
};
const send = (verb, part, numbers, heights = []) => {
  const svg = plan();
  globalThis.htmx.ajax("POST", svg.dataset.here, {
    target: "#ground",
    swap: "outerHTML",
    values: {
      verb,
      part,
      base: svg.dataset.base,
      at: numbers.map((n) => n.toFixed(3)).join(","),
      heights: heights.join(","),
    },
  });
};
const pick = (part) => {
  globalThis.htmx.ajax("GET", `${plan().dataset.here}?part=${encodeURIComponent(part)}`, {
    target: "#ground",
    swap: "outerHTML",
  });
};
const corners = (way) =>
  [...way.querySelectorAll("[data-corner]")].map((c) =>
    metres([Number(c.getAttribute("cx")), Number(c.getAttribute("cy"))])
  );

const heightsOf = (way) =>
  [...way.querySelectorAll("[data-corner]")].map((c) => c.dataset.height || "");

const siteCorners = () =>
  [...plan().querySelectorAll("[data-site]")].map((c) =>
    metres([Number(c.getAttribute("cx")), Number(c.getAttribute("cy"))])
  );
const moveSiteCorner = (group, to) => {
  const all = siteCorners();
  all[Number(group.dataset.site)] = to;
  send("outline", "", all.flat());
};

const drop = (event) => {
  if (!drag) return;
  const { group, start, from, moved } = drag;
  drag = null;
  if (!moved) {
    group.removeAttribute("transform");
    const part = group.dataset.foot || group.dataset.joint || group.dataset.mark;
    if (part) pick(part);
    return;
  }
  const [x, y] = at(event);
  const [toX, toY] = metres([start[0] + x - from[0], start[1] + y - from[1]]).map(snapped);
  if (group.dataset.site) {
    moveSiteCorner(group, [toX, toY]);
    return;
  }
  if (group.dataset.corner) {
    const way = group.closest("[data-way]");
    const all = corners(way);
    all[Number(group.dataset.corner)] = [toX, toY];
    send("route", way.dataset.way, all.flat(), heightsOf(way));
    return;
  }
  const [verb, part] = kindOf(group);
  send(verb, part, [toX, toY]);
};

document.addEventListener("pointerdown", (event) => {
  const svg = plan();
  if (event.button || !svg || !svg.contains(event.target)) return;
  const group = event.target.closest(grip);
  if (!group) return;
  event.preventDefault();
  group.focus?.();
  svg.setPointerCapture(event.pointerId);
  drag = { group, start: middle(group), from: at(event), moved: false };
});
document.addEventListener("pointermove", (event) => {
  if (!drag) return;
  const [x, y] = at(event);
  const by = [x - drag.from[0], y - drag.from[1]];
  if (!drag.moved && Math.hypot(...by) < 4) return;
  drag.moved = true;
  drag.group.setAttribute("transform", `translate(${by[0]} ${by[1]})`);
});
document.addEventListener("pointerup", drop);
document.addEventListener("pointercancel", () => {
  if (drag) drag.group.removeAttribute("transform");
  drag = null;
});
const nearestStretch = (here, points) => {
  const off = ([ax, ay], [bx, by]) => {
    const square = (bx - ax) ** 2 + (by - ay) ** 2 || 1e-9;
    const share = ((here[0] - ax) * (bx - ax) + (here[1] - ay) * (by - ay)) / square;
    const k = Math.min(Math.max(share, 0), 1);
    return Math.hypot(here[0] - ax - k * (bx - ax), here[1] - ay - k * (by - ay));
  };
  let nearest = 0;
  for (let n = 1; n + 1 < points.length; n++) {
    if (off(points[n], points[n + 1]) < off(points[nearest], points[nearest + 1])) nearest = n;
  }
  return nearest;
};
// A press on the edge of the site puts a corner there.
document.addEventListener("click", (event) => {
  if (!event.target.closest?.("#ground-plan .site-grip")) return;
  const all = siteCorners();
  if (!all.length) return;
  const here = metres(at(event));
  const after = nearestStretch(here, [...all, all[0]]);
  all.splice(after + 1, 0, here.map(snapped));
  send("outline", "", all.flat());
});
// A pipe is picked by a press; a second press on it puts a corner there.
document.addEventListener("click", (event) => {
  const svg = plan();
  const way = svg && svg.contains(event.target) && event.target.closest("[data-way]");
  if (!way || event.target.closest("[data-corner]")) return;
  if (!way.classList.contains("is-picked")) {
    pick(way.dataset.way);
    return;
  }
  const points = way.querySelector(".way-grip").getAttribute("points").split(" ").map((p) =>
    metres(p.split(",").map(Number))
  );
  const here = metres(at(event));
  const nearest = nearestStretch(here, points);
  const all = points.slice(1, -1);
  all.splice(nearest, 0, here.map(snapped));
  const heights = heightsOf(way);
  heights.splice(nearest, 0, "");
  send("route", way.dataset.way, all.flat(), heights);
});

const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
document.addEventListener("keydown", (event) => {
  const svg = plan();
  if (!svg || !svg.contains(event.target)) return;
  const group = event.target.closest("[data-foot][data-turned], [data-joint], [data-mark]");
  const way = event.target.closest("[data-way]");
  if (event.key === "Enter" || event.key === " ") {
    event.preventDefault();
    if (way) pick(way.dataset.way);
    else if (group) pick(kindOf(group)[1]);
    return;
  }
  const corner = event.target.closest("[data-site]");
  if (corner && event.key === "Delete") {
    event.preventDefault();
    const all = siteCorners();
    all.splice(Number(corner.dataset.site), 1);
    send("outline", "", all.flat());
  } else if (corner && ARROWS[event.key]) {
    event.preventDefault();
    const by = event.shiftKey ? KEY / 10 : KEY;
    const [x, y] = siteCorners()[Number(corner.dataset.site)];
    moveSiteCorner(corner, [x + by * ARROWS[event.key][0], y + by * ARROWS[event.key][1]]);
  }
  if (!group) return;
  const arrow = ARROWS[event.key];
  const turns = event.key === "r" || event.key === "R";
  if (!arrow && !(turns && group.dataset.foot)) return;
  event.preventDefault();
  const [x, y] = metres(middle(group));
  const [verb, part] = kindOf(group);
  if (turns) {
    const by = event.shiftKey ? -15 : 15;
    send("place", part, [x, y, (Number(group.dataset.turned) + by + 360) % 360]);
    return;
  }
  const by = event.shiftKey ? KEY / 10 : KEY;
  send(verb, part, [x + arrow[0] * by, y + arrow[1] * by]);
});
// What has the focus is not to be taken off the page: the browser would lay all of it out at once to
// see where the focus goes.
document.addEventListener("htmx:beforeSwap", () => {
  const held = document.activeElement;
  if (plan()?.contains(held)) held.blur();
});
// After a swap the part that was moved keeps the focus, so that the next key reaches it.
document.addEventListener("htmx:afterSettle", () => {
  const svg = plan();
  const picked = svg && svg.querySelector(".is-picked");
  if (picked && document.activeElement === document.body) picked.focus({ preventScroll: true });
});
