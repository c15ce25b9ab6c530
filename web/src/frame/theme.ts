import { useEffect, useState } from "react";

export type Theme = "light" | "dark";

/** The theme: what the person chose in this browser, or what the system asks for. */
export function useTheme() {
  const [theme, setTheme] = useState<Theme>(() => {
    const kept = localStorage.getItem("theme");
    if (kept === "light" || kept === "dark") return kept;
    return matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
  });
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  const toggle = () => {
    const next = theme === "light" ? "dark" : "light";
    localStorage.setItem("theme", next);
    setTheme(next);
  };
  return { theme, toggle };
}
