import { type ReactNode, createContext, useContext, useEffect, useState } from "react";
import type { UnitHabit } from "../../core/design/units";
import type { Snapping } from "../drawing/Part";
import { VIEWS, type ViewName } from "../drawing/views";
import { useMoneyHere } from "./money";

interface Preferences {
  habit: UnitHabit;
  theme: "paper" | "night";
  keys: boolean;
  /** Views of the layout drawing. */
  views: readonly ViewName[];
  /** The craft seen from anywhere in place of those views. */
  turned: boolean;
  snapping: Snapping;
  set: (change: Partial<Omit<Preferences, "set">>) => void;
}

const KEY = "ultraform-preferences";
const defaults = {
  habit: "metric",
  theme: "paper",
  keys: true,
  views: ["side", "top"] as readonly ViewName[],
  turned: false,
  snapping: { grid: 0.001, faces: false },
} as const;
const Context = createContext<Preferences>({ ...defaults, set: () => {} });

function stored(): Omit<Preferences, "set"> {
  try {
    const held = JSON.parse(localStorage.getItem(KEY) ?? "{}") as Partial<Preferences>;
    return {
      habit: held.habit === "imperial" ? "imperial" : "metric",
      theme: held.theme === "night" ? "night" : "paper",
      keys: held.keys !== false,
      views: Array.isArray(held.views) && held.views.some((v) => VIEWS.includes(v)) ? held.views : defaults.views,
      turned: held.turned === true,
      snapping: { grid: held.snapping?.grid === 0.005 ? 0.005 : 0.001, faces: held.snapping?.faces === true },
    };
  } catch {
    return defaults;
  }
}

/** What this user prefers, kept in this browser: units shown, theme, single keys on or off. */
export function PreferencesProvider({ children }: { children: ReactNode }) {
  const [held, setHeld] = useState(stored);
  // Amounts are shown with their sign wherever units are: a change of it draws the same anew.
  useMoneyHere();
  useEffect(() => {
    localStorage.setItem(KEY, JSON.stringify(held));
    document.documentElement.dataset.theme = held.theme;
  }, [held]);
  return (
    <Context.Provider value={{ ...held, set: (change) => setHeld((h) => ({ ...h, ...change })) }}>
      {children}
    </Context.Provider>
  );
}

export const usePreferences = () => useContext(Context);
