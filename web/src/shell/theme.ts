/** Light or dark: the person's choice, else the system's wish. */

export type Theme = "system" | "light" | "dark";
const KEY = "dakika.theme";

export function chosenTheme(): Theme {
  const kept = localStorage.getItem(KEY);
  return kept === "light" || kept === "dark" ? kept : "system";
}

export function applyTheme(theme: Theme = chosenTheme()): void {
  const wish = matchMedia("(prefers-color-scheme: dark)");
  const set = () => {
    const dark = theme === "dark" || (theme === "system" && wish.matches);
    document.documentElement.dataset.theme = dark ? "dark" : "light";
  };
  set();
  wish.onchange = () => chosenTheme() === "system" && applyTheme();
}

export function chooseTheme(theme: Theme): void {
  if (theme === "system") localStorage.removeItem(KEY);
  else localStorage.setItem(KEY, theme);
  applyTheme(theme);
}
