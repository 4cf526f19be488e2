// What the pages of the reference have beyond their text: trying a call, copying, and the choice of light or dark.
import { tryIt } from "./tryIt";

const key = "tidy-appearance";
const root = document.documentElement;
const isDark = () => (root.dataset["appearance"] ?? (matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light")) === "dark";

const appearance = document.querySelector<HTMLButtonElement>("button.appearance");
if (appearance !== null) {
  const name = () => {
    appearance.textContent = isDark() ? "Light" : "Dark";
    appearance.setAttribute("aria-label", `Use the ${isDark() ? "light" : "dark"} appearance`);
  };
  appearance.hidden = false;
  appearance.addEventListener("click", () => {
    const other = isDark() ? "light" : "dark";
    root.dataset["appearance"] = other;
    localStorage.setItem(key, other);
    name();
  });
  name();
}

for (const text of document.querySelectorAll<HTMLElement>(".copy")) {
  const block = text.tagName === "PRE";
  const frame = document.createElement(block ? "div" : "span");
  frame.className = block ? "copied" : "copied in-line";
  const button = document.createElement("button");
  button.type = "button";
  button.className = "copy-button";
  button.textContent = "Copy";
  button.addEventListener("click", async () => {
    await navigator.clipboard.writeText(text.textContent ?? "");
    button.textContent = "Copied";
    setTimeout(() => (button.textContent = "Copy"), 1500);
  });
  text.replaceWith(frame);
  frame.append(text, button);
}

for (const form of document.querySelectorAll<HTMLFormElement>("form.try")) {
  tryIt(form);
  form.closest("section")?.removeAttribute("hidden");
}

// whoever works in a language wants it on the next page, too
const languageKey = "tidy-language";
const languages = [...document.querySelectorAll<HTMLDetailsElement>("details.language")];
const wanted = languages.find(({ dataset }) => dataset["language"] === localStorage.getItem(languageKey));
if (wanted !== undefined) {
  wanted.open = true;
}
for (const language of languages) {
  language.addEventListener("toggle", () => language.open && localStorage.setItem(languageKey, language.dataset["language"] ?? ""));
}

// the list of operations is long on a small screen
const side = document.querySelector<HTMLDetailsElement>("details.side");
if (side !== null && matchMedia("(max-width: 860px)").matches) {
  side.open = false;
}
side?.querySelector('[aria-current="page"]')?.scrollIntoView({ block: "nearest" });

document.addEventListener("keydown", (event) => {
  const typing = event.target instanceof HTMLElement && event.target.matches("input, textarea, select");
  if (event.key === "/" && !typing && !event.ctrlKey && !event.metaKey && !event.altKey) {
    event.preventDefault();
    document.querySelector<HTMLInputElement>(".within input, .search input")?.focus();
  }
});
