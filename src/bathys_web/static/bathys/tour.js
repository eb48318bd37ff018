// The guided tour: a card beside what it speaks of, one step after the other. The steps are a page's
// words, loaded only while the tour runs. Where it stands is kept in this browser.

const KEY = "bathys.tour";
const load = () => {
  try {
    return JSON.parse(localStorage.getItem(KEY)) || null;
  } catch {
    return null;
  }
};
const save = (state) => {
  if (state) localStorage.setItem(KEY, JSON.stringify(state));
  else localStorage.removeItem(KEY);
};

let state = null;
let steps = [];
let card = null;
let revision = "";
let already = false; // what the step asks for was so when it was shown

const base = () => document.getElementById("base")?.value ?? "";
const isDone = () => {
  const { until } = steps[state.step].dataset;
  if (until === "revision") return base() !== revision;
  return Boolean(until && document.querySelector(until));
};
const target = () => document.querySelector(steps[state.step].dataset.target);

const element = (tag, text, does) => {
  const made = document.createElement(tag);
  made.textContent = text;
  if (does) {
    made.type = "button";
    made.className = "btn btn-secondary btn-sm";
    made.addEventListener("click", does);
  }
  return made;
};

const build = () => {
  card = document.createElement("section");
  card.id = "tour";
  card.className = "tour";
  card.setAttribute("role", "dialog");
  card.setAttribute("aria-label", "Guided tour");
  document.body.append(card);
};

// Under what it speaks of where there is room, else over it, else at the foot of the window.
const place = () => {
  if (!card) return;
  for (const old of document.querySelectorAll(".tour-target")) old.classList.remove("tour-target");
  const at = target();
  const gap = 12;
  const high = card.offsetHeight;
  const box = at ? at.getBoundingClientRect() : { left: gap, top: gap, bottom: gap, right: gap };
  if (at) at.classList.add("tour-target");
  let top = innerHeight - high - gap;
  let left = box.left;
  if (box.bottom + gap + high < innerHeight) top = box.bottom + gap;
  else if (box.top - gap - high > 0) top = box.top - gap - high;
  else if (box.right + gap + card.offsetWidth < innerWidth) left = box.right + gap;
  else if (box.left - gap - card.offsetWidth > 0) left = box.left - gap - card.offsetWidth;
  left = Math.max(gap, Math.min(left, innerWidth - card.offsetWidth - gap));
  card.style.top = `${Math.max(gap, top)}px`;
  card.style.left = `${left}px`;
};

const show = (moves = true) => {
  const step = steps[state.step];
  const at = target();
  revision = base();
  already = isDone();
  if (step.hasAttribute("data-opens")) {
    for (let one = at; one; one = one.parentElement) if (one.tagName === "DETAILS") one.open = true;
  }
  if (moves && at) at.scrollIntoView({ block: "center", behavior: "instant" });
  const count = element("p", `Step ${state.step + 1} of ${steps.length}`);
  count.className = "hint";
  const acts = document.createElement("div");
  acts.className = "tour-acts";
  if (state.step) acts.append(element("button", "Back", () => go(state.step - 1)));
  const isLast = state.step === steps.length - 1;
  acts.append(isLast ? element("button", "Finish", finish) : element("button", "Next", next));
  acts.lastChild.classList.replace("btn-secondary", "btn-primary");
  if (!isLast) acts.append(element("button", "Leave the tour", leave));
  card.replaceChildren(count, ...step.cloneNode(true).childNodes, acts);
  const title = card.querySelector("h2");
  title.tabIndex = -1;
  place();
  if (moves) title.focus({ preventScroll: true });
};

const go = (step) => {
  state.step = Math.max(0, Math.min(step, steps.length - 1));
  save(state);
  show();
};
const next = () => go(state.step + 1);
const close = () => {
  for (const old of document.querySelectorAll(".tour-target")) old.classList.remove("tour-target");
  card.remove();
  card = null;
};
const leave = () => {
  save({ ...state, left: true });
  close();
};
const finish = () => {
  save(null);
  close();
};

// A step that asks for something goes on by itself when it is done; one that was done before it was
// shown, when it is done once more in its own place.
const look = (swapped) => {
  if (!card) return;
  const own = (steps[state.step].dataset.until ?? "").split(" ")[0];
  if (isDone() && (!already || `#${swapped?.id}` === own)) next();
  else place();
};

const begin = async () => {
  const wanted = new URLSearchParams(location.search).has("tour");
  if (wanted) {
    save({ path: location.pathname, step: 0 });
    history.replaceState(null, "", location.pathname);
  }
  state = load();
  const resume = document.getElementById("tour-resume");
  if (resume && state) {
    resume.hidden = false;
    resume.firstElementChild.href = state.path;
    resume.addEventListener("click", () => save({ ...state, left: false }));
  }
  if (!state || state.left || state.path !== location.pathname) return;
  const answer = await fetch("/learn/tour/steps/");
  if (!answer.ok) return;
  const page = new DOMParser().parseFromString(await answer.text(), "text/html");
  steps = [...page.querySelectorAll("#tour-steps > li")];
  state.step = Math.min(state.step, steps.length - 1);
  build();
  show();
  document.addEventListener(
    "htmx:afterSettle",
    (event) => setTimeout(() => look(event.detail.target), 50),
  );
  addEventListener("scroll", place, { passive: true });
  addEventListener("resize", place);
};
begin();
