import { useQueryClient } from "@tanstack/react-query";
import {
  ArrowRightLeft,
  Cable,
  CircleHelp,
  LogOut,
  Moon,
  Play,
  Rows3,
  Search,
  Sun,
  Sunrise,
  Table2,
  Undo2,
} from "lucide-react";
import { type ReactNode, useEffect, useState } from "react";
import { NavLink, useLocation } from "react-router";
import { api, ask, type Schemas } from "../api/client";
import { ChangePassword } from "../signin/change-password";
import { typing } from "../ui/keys";
import { CommandBox } from "./command-box";
import { Shortcuts } from "./shortcuts";
import type { Theme } from "./theme";

const places = [
  { to: "/today", label: "Today", icon: Sunrise },
  { to: "/jobs", label: "Jobs", icon: Table2 },
  { to: "/layouts", label: "Layouts", icon: Rows3 },
  { to: "/runs", label: "Runs", icon: Play },
  { to: "/rejects", label: "Rejects", icon: Undo2 },
  { to: "/code-lists", label: "Code lists", icon: ArrowRightLeft },
  { to: "/connections", label: "Connections", icon: Cable },
];

type Props = {
  facts: Schemas["Facts"];
  person: string;
  theme: { theme: Theme; toggle: () => void };
  children: ReactNode;
};

export function Frame({ facts, person, theme, children }: Props) {
  const queries = useQueryClient();
  const where = useLocation().pathname.split("/").filter(Boolean);
  const [finding, setFinding] = useState(false);
  const [help, setHelp] = useState(false);
  const [account, setAccount] = useState(false);

  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if ((e.ctrlKey || e.metaKey) && e.key === "k") {
        e.preventDefault();
        setFinding(true);
      } else if (e.key === "?" && !typing(e)) {
        setHelp(true);
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);

  const signOut = async () => {
    await ask(api.DELETE("/api/v1/session"));
    queries.clear();
    location.reload();
  };

  return (
    <div className="flex h-full">
      <nav aria-label="Main" className="flex w-[92px] shrink-0 flex-col border-r border-line bg-sunk py-3">
        <img src="/icon.svg" alt="Ninepin" className="mx-auto mb-4 size-9" />
        {places.map(({ to, label, icon: Icon }) => (
          <NavLink
            key={to}
            to={to}
            className={({ isActive }) =>
              `mx-2 mb-1 flex flex-col items-center gap-1 rounded py-2 text-xs ${isActive ? "bg-pine-wash font-semibold text-pine" : "text-faint hover:text-ink"}`
            }
          >
            <Icon size={18} aria-hidden />
            {label}
          </NavLink>
        ))}
        <div className="mt-auto flex flex-col items-center gap-2 text-xs text-faint">
          <button
            type="button"
            onClick={() => setHelp(true)}
            className="rounded p-1 hover:text-ink"
            aria-label="Shortcuts"
          >
            <CircleHelp size={17} />
          </button>
          <button
            type="button"
            onClick={theme.toggle}
            className="rounded p-1 hover:text-ink"
            aria-label={theme.theme === "light" ? "Dark theme" : "Light theme"}
          >
            {theme.theme === "light" ? <Moon size={17} /> : <Sun size={17} />}
          </button>
          <button type="button" onClick={signOut} className="rounded p-1 hover:text-ink" aria-label="Sign out">
            <LogOut size={17} />
          </button>
          <button
            type="button"
            onClick={() => setAccount(true)}
            className="max-w-full truncate rounded px-1 hover:text-ink"
            title={`Signed in as ${person}; change the password`}
          >
            {person}
          </button>
        </div>
      </nav>
      <div className="flex min-w-0 flex-1 flex-col">
        <header className="flex h-10 shrink-0 items-center gap-3 border-b border-line px-5 text-sm text-faint">
          <span className="truncate">{["Ninepin", ...where.map(decodeURIComponent)].join(" › ")}</span>
          <span className="rounded border border-line px-1.5 text-xs text-ink">{facts.environment}</span>
          <button
            type="button"
            onClick={() => setFinding(true)}
            className="ml-auto inline-flex h-7 w-64 items-center gap-2 rounded border border-line bg-card px-2 text-faint hover:border-pine"
          >
            <Search size={14} aria-hidden /> Find anything
            <kbd className="ml-auto font-mono text-xs">Ctrl K</kbd>
          </button>
        </header>
        <main className="min-h-0 flex-1 overflow-auto">{children}</main>
      </div>
      <CommandBox open={finding} onClose={() => setFinding(false)} toggleTheme={theme.toggle} />
      {account && <ChangePassword person={person} onClose={() => setAccount(false)} />}
      <Shortcuts open={help} onClose={() => setHelp(false)} />
    </div>
  );
}
