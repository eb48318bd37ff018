// Draws ordinary charts with the charting library; all figures come from the server.

// A canvas needs the colour itself: a token may say one for light and one for dark.
const token = (name) => {
  const probe = document.createElement("span");
  probe.style.color = `var(${name})`;
  document.body.append(probe);
  const found = getComputedStyle(probe).color;
  probe.remove();
  return found;
};
const colour = (look) => {
  const name = {
    deep: "--deep",
    mark: "--mark",
    good: "--good",
    clay: "--clay-ink",
    soft: "--ink-soft",
    plum: "--plum",
    olive: "--olive",
    sky: "--sky",
  };
  return token(name[look] || "--deep");
};
const FONT = "12px 'Atkinson Hyperlegible Next', system-ui, sans-serif";

// Level lines and points, over the curves.
const drawn = (chart) => (plot) => {
  const ctx = plot.ctx;
  const ratio = devicePixelRatio || 1;
  ctx.save();
  ctx.font = FONT.replace("12px", `${12 * ratio}px`);
  ctx.lineWidth = ratio;
  const { left, top, width, height } = plot.bbox;
  const sheet = token("--sheet");
  const says = (words, x, y, align) => {
    ctx.textAlign = align;
    ctx.strokeStyle = sheet;
    ctx.lineWidth = 4 * ratio;
    ctx.strokeText(words, x, y);
    ctx.lineWidth = ratio;
    ctx.fillText(words, x, y);
  };
  for (const mark of chart.marks) {
    const y = plot.valToPos(mark.at, "y", true);
    if (y < top - 1 || y > top + height + 1) continue;
    ctx.strokeStyle = colour("soft");
    ctx.setLineDash([4 * ratio, 4 * ratio]);
    ctx.beginPath();
    ctx.moveTo(left, y);
    ctx.lineTo(left + width, y);
    ctx.stroke();
    ctx.setLineDash([]);
    ctx.fillStyle = colour("soft");
    ctx.textBaseline = "bottom";
    says(mark.words, left + width - 4 * ratio, y - 2 * ratio, "right");
  }
  for (const spot of chart.spots) {
    const x = plot.valToPos(spot.x, "x", true);
    const y = plot.valToPos(spot.y, "y", true);
    ctx.fillStyle = colour(spot.look);
    ctx.beginPath();
    ctx.arc(x, y, 5 * ratio, 0, 2 * Math.PI);
    ctx.fill();
  }
  // The last are named first; words that would run into others are left to the list below.
  const taken = [];
  for (const spot of chart.spots.filter((one) => one.words).reverse()) {
    const x = plot.valToPos(spot.x, "x", true);
    const y = plot.valToPos(spot.y, "y", true);
    const wide = ctx.measureText(spot.words).width;
    // Below and left of where a falling and a rising line cross, both leave room.
    const flip = x - wide - 14 * ratio > left;
    const from = flip ? x - 6 * ratio - wide : x + 6 * ratio;
    const isNear = (other) => Math.abs(other.y - y) < 15 * ratio;
    if (taken.some((o) => isNear(o) && from < o.to && from + wide > o.from)) continue;
    taken.push({ y, from, to: from + wide });
    ctx.fillStyle = colour(spot.look);
    ctx.textBaseline = "middle";
    says(spot.words, from, y + 17 * ratio, "left");
  }
  ctx.restore();
};

const build = (place) => {
  const chart = JSON.parse(place.dataset.plot);
  const data = uPlot.join(chart.curves.map((curve) => [curve.xs, curve.ys]));
  const ink = colour("soft");
  const grid = token("--depth-1");
  const axis = (label) => ({
    label,
    stroke: ink,
    font: FONT,
    labelFont: FONT,
    labelSize: 22,
    grid: { stroke: grid, width: 1 },
    ticks: { stroke: grid, width: 1 },
  });
  const size = () => ({
    width: place.clientWidth,
    height: Math.min(300, Math.max(220, place.clientWidth * 0.45)),
  });
  const reach = (values, marks) => {
    const all = [...values, ...marks];
    const low = Math.min(...all);
    const high = Math.max(...all);
    const room = 0.06 * (high - low || 1);
    return [low >= 0 && low < 0.4 * high ? 0 : low - room, high + room];
  };
  const ys = chart.curves.flatMap((curve) => curve.ys).concat(chart.spots.map((spot) => spot.y));
  place.textContent = "";
  const plot = new uPlot(
    {
      ...size(),
      pxAlign: 0, // a line rounded to whole pixels goes down in stairs
      scales: {
        x: { time: false, distr: chart.log ? 3 : 1 },
        y: { range: reach(ys, chart.marks.map((mark) => mark.at)) },
      },
      axes: [axis(chart.x), { ...axis(chart.y), size: 58 }],
      series: [
        { label: chart.x },
        ...chart.curves.map((curve) => ({
          label: curve.label,
          stroke: colour(curve.look),
          width: 2,
          dash: curve.dash ? [6, 5] : undefined,
          spanGaps: true,
          points: { show: false },
          show: !curve.quiet,
          value: (
            _,
            value,
          ) => (value === null || value === undefined
            ? "–"
            : Number(value.toPrecision(3)).toString()),
        })),
      ],
      cursor: { drag: { x: false, y: false } },
      legend: { live: true },
      hooks: { draw: [drawn(chart)] },
    },
    data,
    place,
  );
  place.plot = plot;
  // The picture is what is told in words; its key is pressed.
  const picture = plot.root.querySelector(".u-wrap");
  picture.setAttribute("role", "img");
  picture.setAttribute("aria-label", place.getAttribute("aria-label"));
  place.setAttribute("role", "group");
  // The key shows and hides lines; by keyboard as well.
  for (const name of [...place.querySelectorAll(".u-series th")].slice(1)) {
    name.tabIndex = 0;
    name.setAttribute("role", "button");
    name.setAttribute("aria-pressed", String(!name.parentElement.classList.contains("u-off")));
    name.addEventListener("click", () =>
      setTimeout(() => {
        name.setAttribute(
          "aria-pressed",
          String(!name.parentElement.classList.contains("u-off")),
        );
      }));
    name.addEventListener("keydown", (event) => {
      if (event.key !== "Enter" && event.key !== " ") return;
      event.preventDefault();
      name.click();
    });
  }
  new ResizeObserver(() => {
    if (place.isConnected && place.clientWidth && Math.abs(place.clientWidth - plot.width) > 2) {
      plot.setSize(size());
    }
  }).observe(place);
};

// A closed leaf, or an answer that is still hidden, has no width yet; it is drawn once it has.
const waiting = new ResizeObserver((changes) => {
  for (const { target } of changes) {
    if (!target.clientWidth) continue;
    waiting.unobserve(target);
    if (target.isConnected && !target.plot) build(target);
  }
});
const draw = () => {
  for (const place of document.querySelectorAll(".plot[data-plot]")) {
    if (place.plot) continue;
    if (place.clientWidth) build(place);
    else waiting.observe(place);
  }
};
document.addEventListener("DOMContentLoaded", draw);
document.addEventListener("htmx:afterSettle", draw);
document.addEventListener("toggle", draw, true);
matchMedia("(prefers-color-scheme: dark)").addEventListener("change", () => {
  for (const place of document.querySelectorAll(".plot[data-plot]")) place.plot = null;
  draw();
});
document.addEventListener("bathys:theme", () => {
  for (const place of document.querySelectorAll(".plot[data-plot]")) place.plot = null;
  draw();
});
