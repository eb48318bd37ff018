// Light or dark as it was last chosen, before anything is drawn.
(() => {
  "use strict";

  const KEY = "bathys-theme";
  const root = document.documentElement;
  root.classList.add("js");
  const is_dark =
    () => (root.dataset.theme
      ? root.dataset.theme === "dark"
      : matchMedia("(prefers-color-scheme: dark)").matches);
  try {
    const kept = localStorage.getItem(KEY);
    if (kept === "light" || kept === "dark") root.dataset.theme = kept;
  } catch {
    // As the system has it.
  }
  document.addEventListener("click", (event) => {
    if (!event.target.closest("#switch-theme")) return;
    root.dataset.theme = is_dark() ? "light" : "dark";
    try {
      localStorage.setItem(KEY, root.dataset.theme);
    } catch {
      // Until the page is left.
    }
    document.dispatchEvent(new Event("bathys:theme"));
  });
})();
