// before anything is drawn: what was chosen here, or in the console, goes before what the system says
(() => {
  const kept = localStorage.getItem("tidy-appearance");
  if (kept === "light" || kept === "dark") {
    document.documentElement.dataset.appearance = kept;
  }
})();
