import { useState } from "react";
import type { Schemas } from "../../api/client";

const STORE = "fletcher-field-box";

const USUAL: [string, string][] = [
  ["hotmelt_low", "Hot-melt, low-temperature"],
  ["ca_foamsafe", "Foam-safe cyanoacrylate"],
  ["contact_foamsafe_clear", "Foam-safe contact adhesive"],
  ["solvent_rubbery_clear", "Clear rubbery cement"],
  ["pu_foaming_white", "White foaming polyurethane"],
  ["epoxy_5min", "Five-minute epoxy"],
  ["epoxy_laminating", "Laminating epoxy"],
  ["bopp_tape_std", "Clear tape"],
  ["filament_tape_bi", "Crossed glass-thread tape"],
  ["filament_tape_uni", "Glass-thread tape"],
  ["glass_49", "Glass cloth, 49 g/m²"],
  ["bamboo_skewer_3", "Bamboo skewers"],
  ["craftstick_10x2", "Craft sticks"],
  ["carbon_rod_2", "Carbon rod 2 mm"],
  ["carbon_rod_3", "Carbon rod 3 mm"],
];

/** What is at hand, kept on this machine; an empty box says nothing of it. */
export function useFieldBox() {
  const [box, keep] = useState<string[]>(() => {
    try {
      const read: unknown = JSON.parse(window.localStorage.getItem(STORE) ?? "[]");
      return Array.isArray(read) ? read.filter((k): k is string => typeof k === "string") : [];
    } catch {
      return [];
    }
  });
  const set = (next: string[]) => {
    window.localStorage.setItem(STORE, JSON.stringify(next));
    keep(next);
  };
  return [box, set] as const;
}

interface Props {
  box: string[];
  setBox: (box: string[]) => void;
  options: Schemas["MendOption"][];
}

/** What is at hand: repairs that need nothing else are preferred. */
export function FieldBox({ box, setBox, options }: Props) {
  const needed = options.flatMap((o) => o.needs.map((n) => [n.key, n.name] as [string, string]));
  const known = new Map([...USUAL, ...needed.filter(([key]) => !USUAL.some(([k]) => k === key))]);
  return (
    <details className="relative">
      <summary className="key-button inline-flex cursor-pointer items-center">
        At hand: {box.length === 0 ? "not said" : `${box.length} things`}
      </summary>
      <fieldset className="absolute z-20 mt-1 grid max-h-80 w-[34rem] max-w-[90vw] grid-cols-2 gap-x-4 overflow-y-auto border border-ink bg-raised p-3">
        <legend className="sr-only">In the field box</legend>
        {[...known].map(([key, name]) => (
          <label key={key} className="flex min-h-9 items-center gap-2 text-body">
            <input
              type="checkbox"
              checked={box.includes(key)}
              onChange={(e) => setBox(e.target.checked ? [...box, key] : box.filter((k) => k !== key))}
            />
            {name}
          </label>
        ))}
      </fieldset>
    </details>
  );
}
