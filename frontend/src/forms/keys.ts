import { useEffect, useRef } from "react";
import { usePreferences } from "./preferences";

/** A key that does something on a place. `combo` as it is shown: "Ctrl+Z", "?", "Alt+↑", "Del". */
export interface Shortcut {
  combo: string;
  says: string;
  run: () => void;
}

const SHOWN: Record<string, string> = {
  ArrowUp: "↑",
  ArrowDown: "↓",
  ArrowLeft: "←",
  ArrowRight: "→",
  Delete: "Del",
  Backspace: "Del",
  Escape: "Esc",
};

/** How a key press is written. Shift is part of the character, but for letters with Ctrl. */
export function comboOf(
  e: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "altKey" | "shiftKey">,
): string {
  const key = SHOWN[e.key] ?? (e.key.length === 1 ? e.key.toUpperCase() : e.key);
  const ctrl = e.ctrlKey || e.metaKey;
  const shift = ctrl && e.shiftKey;
  return `${ctrl ? "Ctrl+" : ""}${e.altKey ? "Alt+" : ""}${shift ? "Shift+" : ""}${key}`;
}

/** Whether what has the focus takes this key itself. */
function taken(target: EventTarget | null, combo: string): boolean {
  if (!(target instanceof HTMLElement || target instanceof SVGElement)) return false;
  if (target.closest("[role=dialog], [role=menu], [role=listbox]")) return true;
  if (target.matches("input, select, textarea")) return true;
  return (
    combo.length <= 3 && "↑↓←→".includes(combo) && target.closest("[role=slider], [role=tablist]") !== null
  );
}

/** Listen for keys while a place is open. Keys without Ctrl or Alt can be switched off by the person. */
export function useShortcuts(shortcuts: Shortcut[]): void {
  const { preferences } = usePreferences();
  const current = useRef(shortcuts);
  useEffect(() => {
    current.current = shortcuts;
  });
  const single = preferences.single_keys;
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const combo = comboOf(e);
      const found = current.current.find((s) => s.combo === combo);
      if (!found || taken(e.target, combo)) return;
      if (!single && !combo.includes("+") && combo !== "?") return;
      e.preventDefault();
      found.run();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [single]);
}
