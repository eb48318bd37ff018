// Plays levels on the side view. The levels were worked out on the server; here they are only drawn.
(() => {
  "use strict";

  const at = (id) => document.getElementById(id);
  let data = null;
  let now = 0;
  let last = 0;
  let playing = false;

  const view = () => document.querySelector("#side-view svg");
  const within = (spans, time) => (spans || []).some(([from, to]) => time >= from && time < to);

  const clock = (time) => {
    const whole = Math.round(time);
    const pad = (value) => String(value).padStart(2, "0");
    return `${Math.floor(whole / 3600)}:${pad(Math.floor(whole / 60) % 60)}:${pad(whole % 60)}`;
  };

  // The sample before a time, and how far it is to the next.
  const place = (time) => {
    const times = data.times;
    let low = 0;
    let high = times.length - 1;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (times[middle] <= time) low = middle; else high = middle;
    }
    const share = (time - times[low]) / (times[high] - times[low] || 1);
    return [low, high, Math.min(Math.max(share, 0), 1)];
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
    at("play-toggle").textContent = playing ? "Pause" : "Play";
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
    playing = false;
    data = null;
    const svg = view();
    if (svg) {
      svg.classList.remove("is-playing");
      for (const shell of svg.querySelectorAll(".is-over")) shell.classList.remove("is-over");
    }
    at("play-bar").hidden = true;
  };

  document.addEventListener("click", (event) => {
    const button = event.target.closest("button");
    if (!button) return;
    if (button.id === "play-open") {
      data = JSON.parse(button.dataset.play);
      now = 0;
      at("play-at").max = data.times[data.times.length - 1];
      at("play-bar").hidden = false;
      at("side-view").scrollIntoView({ block: "start" });
      // Whoever wants no motion scrubs by hand.
      play(!matchMedia("(prefers-reduced-motion: reduce)").matches);
      at("play-toggle").focus({ preventScroll: true });
    } else if (button.id === "play-toggle" && data) {
      if (!playing && now >= data.times[data.times.length - 1]) now = 0;
      play(!playing);
    } else if (button.id === "play-close") {
      close();
    }
  });
  document.addEventListener("keydown", (event) => {
    if (!data || event.target.closest("input:not(#play-at), textarea, select, button, a, summary")) return;
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
  // Another plan stands in the page after an edit: its levels are not these.
  document.addEventListener("htmx:afterSwap", (event) => {
    if (event.detail.target && event.detail.target.id === "workspace") data = null;
  });
  document.addEventListener("htmx:oobAfterSwap", (event) => {
    if (data && event.detail.target && event.detail.target.id === "side-view") close();
  });
})();
