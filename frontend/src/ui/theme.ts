export type Theme = "daylight" | "dusk";

export function keptTheme(): Theme {
  return localStorage.getItem("furrow.theme") === "dusk" ? "dusk" : "daylight";
}

export function setTheme(theme: Theme): void {
  localStorage.setItem("furrow.theme", theme);
  document.documentElement.dataset.theme = theme;
}
