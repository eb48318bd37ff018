// Plays levels on the side view. The levels were worked out on the server; here they are only drawn.

const WAIT = 500; // between two looks for what is still being followed [ms]
const at = (id) => document.getElementById(id);
let data = null;
let now = 0;
let last = 0;
let playing = false;
let address = "";
let steps = [];
let asking = 0; // counts what was asked for, so that an answer nobody waits for is left

const view = () => document.querySelector("#side-view > svg");
const within = (spans, time) => (spans || []).some(([from, to]) => time >= from && time < to);

const clock = (time) => {
  const whole = Math.round(time);
  const pad = (value) => String(value).padStart(2, "0");
  return `${Math.floor(whole / 3600)}:${pad(Math.floor(whole / 60) % 60)}:${pad(whole % 60)}`;
};

// The sample before a time, and how far it is to the next.
const place = (time, times = data.times) => {
  let low = 0;
  let high = times.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (times[middle] <= time) low = middle;
    else high = middle;
  }
  const share = (time - times[low]) / (times[high] - times[low] || 1);
  return [low, high, Math.min(Math.max(share, 0), 1)];
};

// A broken line where the water would stand had nothing been done.
const drawCalm = (svg, water, zero, up) => {
  const id = water.dataset.water;
  let line = svg.querySelector(`[data-calm="${id}"]`);
  const levels = data.calm && at("play-calm").checked ? data.calm.levels[id] : null;
  if (!levels) {
    if (line) line.remove();
    return;
  }
  if (!line) {
    line = document.createElementNS("http://www.w3.org/2000/svg", "line");
    line.setAttribute("class", "calm-line");
    line.dataset.calm = id;
    line.setAttribute("x1", water.getAttribute("x"));
    line.setAttribute(
      "x2",
      Number(water.getAttribute("x")) + Number(water.getAttribute("width")),
    );
    svg.append(line);
  }
  const [low, high, share] = place(now, data.calm.times);
  const y = zero - (levels[low] + share * (levels[high] - levels[low])) * up;
  line.setAttribute("y1", y.toFixed(1));
  line.setAttribute("y2", y.toFixed(1));
};

const draw = () => {
  const svg = view();
  if (!data || !svg) return;
  svg.classList.add("is-playing");
  const zero = Number(svg.dataset.zero);
  const up = Number(svg.dataset.up);
  const [low, high, share] = place(now);
  const dark = within(data.dark, now);
  for (const water of svg.querySelectorAll("[data-water]")) {
    const levels = data.levels[water.dataset.water];
    if (!levels) continue;
    const level = levels[low] + share * (levels[high] - levels[low]);
    const top = zero - level * up;
    const floor = zero - Number(water.dataset.floor) * up;
    water.setAttribute("y", top.toFixed(1));
    water.setAttribute("height", Math.max(floor - top, 0).toFixed(1));
    drawCalm(svg, water, zero, up);
    const shell = svg.querySelector(`[data-shell="${water.dataset.water}"]`);
    if (shell) shell.classList.toggle("is-over", level > data.rims[water.dataset.water] + 5e-4);
  }
  for (const pipe of svg.querySelectorAll("[data-pipe]")) {
    const spans = data.runs[pipe.dataset.pipe];
    pipe.classList.toggle("runs", spans ? within(spans, now) : !dark);
  }
  at("play-at").value = now;
  at("play-at").setAttribute("aria-valuetext", clock(now));
  at("play-time").textContent = clock(now);
  const past = data.events.filter(([time]) => time <= now).slice(-2);
  const words = past.map(([time, said]) => `${clock(time)} ${said}`).join(" · ");
  if (at("play-words").textContent !== words) at("play-words").textContent = words;
  at("play-toggle").querySelector("span").textContent = playing ? "Pause" : "Play";
  at("play-toggle").querySelector("use").setAttribute(
    "href",
    playing ? "#icon-pause" : "#icon-play",
  );
};

const frame = (stamp) => {
  if (!playing || !data) return;
  if (last) now += (stamp - last) / 1000 * Number(at("play-speed").value);
  last = stamp;
  if (now >= data.times[data.times.length - 1]) {
    now = data.times[data.times.length - 1];
    playing = false;
  }
  draw();
  if (playing) requestAnimationFrame(frame);
};

const play = (on) => {
  playing = on;
  last = 0;
  draw();
  if (on) requestAnimationFrame(frame);
};

const close = () => {
  asking += 1;
  playing = false;
  data = null;
  const svg = view();
  if (svg) {
    for (const line of svg.querySelectorAll("[data-calm]")) line.remove();
    svg.classList.remove("is-playing");
    for (const shell of svg.querySelectorAll(".is-over")) shell.classList.remove("is-over");
  }
  at("play-bar").hidden = true;
  at("play-bar").classList.remove("is-opening");
};

// Levels are asked for again whenever something is done to the plan.
const load = async () => {
  const asked = steps.map((step) => `step=${encodeURIComponent(step)}`).join("&");
  const joint = asked && (address.includes("?") ? "&" : "?");
  const token = document.querySelector("[name=csrfmiddlewaretoken]").value;
  const headers = { Accept: "application/json", "X-CSRFToken": token };
  at("play-bar").setAttribute("aria-busy", "true");
  try {
    for (;;) {
      const answer = await fetch(address + joint + asked, { method: "POST", headers });
      if (!answer.ok) throw new Error(answer.status);
      const found = await answer.json();
      if (!("waits" in found)) return found;
      await new Promise((go) => setTimeout(go, WAIT));
    }
  } catch {
    at("lost").hidden = false;
    return null;
  } finally {
    at("play-bar").removeAttribute("aria-busy");
  }
};

const offer = () => {
  at("play-steps").hidden = !data.choices;
  at("play-undo").hidden = !steps.length;
  at("play-calm").closest("label").hidden = !data.calm;
  if (!data.choices || at("play-step").length) return;
  for (const [value, words] of data.choices) at("play-step").add(new Option(words, value));
};

const open = async (button) => {
  const form = at("scenario");
  address = button.dataset.play;
  steps = [];
  if (form && form.contains(button)) {
    const typed = new URLSearchParams(new FormData(form));
    steps = typed.getAll("step");
    typed.delete("step");
    typed.delete("csrfmiddlewaretoken");
    address += `?${typed}`;
  }
  close();
  const mine = ++asking;
  at("play-words").textContent = "Simulating…";
  at("play-bar").hidden = false;
  at("play-bar").classList.add("is-opening");
  const found = await load();
  if (mine !== asking) return; // closed, or something else is played
  if (!found) {
    close();
    return;
  }
  if (found.refusal) {
    at("play-words").textContent = found.refusal;
    return;
  }
  at("play-bar").classList.remove("is-opening");
  data = found;
  now = 0;
  at("play-step").length = 0;
  at("play-at").max = data.times[data.times.length - 1];
  at("play-bar").hidden = false;
  offer();
  at("side-view").scrollIntoView({ block: "start" });
  // Whoever wants no motion scrubs by hand.
  play(!matchMedia("(prefers-reduced-motion: reduce)").matches);
  at("play-toggle").focus({ preventScroll: true });
};

// Something is done at the moment shown; what was up to then stays as it was.
const change = async (next) => {
  const before = steps;
  const went = playing;
  playing = false;
  steps = next;
  const mine = asking;
  const found = await load();
  if (mine !== asking) return;
  if (!found || found.refusal) {
    steps = before;
    if (found) at("play-words").textContent = found.refusal;
    return;
  }
  data = found;
  offer();
  play(went);
  const form = at("scenario");
  if (form) {
    const typed = new URLSearchParams(new FormData(form));
    typed.delete("step");
    typed.delete("csrfmiddlewaretoken");
    for (const step of steps) typed.append("step", step);
    htmx.ajax("GET", `${form.getAttribute("action")}?${typed}`, {
      target: "#bench",
      swap: "outerHTML",
    });
  }
};
const moment = () => `@${Math.max(Math.round(now), 1)}s`;
const wanted = () => {
  const value = at("play-step").value;
  return value.startsWith("turn:") ? `${value}:${at("play-angle").value}` : value;
};

document.addEventListener("click", (event) => {
  const button = event.target.closest("button");
  if (!button) return;
  if (button.dataset.play) {
    open(button);
  } else if (button.id === "play-toggle" && data) {
    if (!playing && now >= data.times[data.times.length - 1]) now = 0;
    play(!playing);
  } else if (button.id === "play-plug" && data) {
    change([...steps, `plug:2h${moment()}`]);
  } else if (button.id === "play-do" && data) {
    change([...steps, wanted() + moment()]);
  } else if (button.id === "play-undo" && data) {
    change(steps.slice(0, -1));
  } else if (button.id === "play-close") {
    close();
  }
});
document.addEventListener("change", (event) => {
  if (event.target.id === "play-calm") draw();
  if (event.target.id === "play-step") {
    at("play-angle").hidden = !event.target.value.startsWith("turn:");
  }
});
document.addEventListener("keydown", (event) => {
  if (
    !data || event.target.closest("input:not(#play-at), textarea, select, button, a, summary")
  ) return;
  if (event.key === "Escape") close();
  if (event.key !== " ") return;
  event.preventDefault();
  play(!playing);
});
document.addEventListener("input", (event) => {
  if (event.target.id !== "play-at" || !data) return;
  now = Number(event.target.value);
  playing = false;
  draw();
});
// Another plan stands in the page after an edit: its levels are not these, nor those still asked for.
document.addEventListener("htmx:afterSwap", (event) => {
  if (event.detail.target && event.detail.target.id === "workspace") close();
});
document.addEventListener("htmx:oobAfterSwap", (event) => {
  if (event.detail.target && event.detail.target.id === "side-view") close();
});
