import { useState } from "react";
import type { Problem } from "../../api/client";
import { Choice, NumberField, OptionalNumber, TextField } from "../../forms/fields";
import type { Item } from "./sideShapes";

export type Lead = NonNullable<Item["lead"]>;

interface Props {
  at: (key: string) => Problem | undefined;
  change: (update: Partial<Item>) => void;
}

/** A motor's thrust and where its shaft points. */
export function Thrust({ item: e, at, change }: Props & { item: Item }) {
  return (
    <>
      <OptionalNumber
        label="Full thrust"
        value={e.thrust_N ?? null}
        quantity="force"
        problem={at("thrust_N")}
        onChange={(thrust_N) => change({ thrust_N })}
      />
      <NumberField
        label="Down thrust"
        value={e.down_deg ?? 0}
        quantity="angle"
        problem={at("down_deg")}
        onChange={(down_deg) => change({ down_deg })}
      />
      <NumberField
        label="Right thrust"
        value={e.right_deg ?? 0}
        quantity="angle"
        problem={at("right_deg")}
        onChange={(right_deg) => change({ right_deg })}
      />
    </>
  );
}

interface LeadProps extends Props {
  lead: Lead;
  /** The other items, at which it can begin and end. */
  others: { value: string; label: string }[];
}

/** A lead: its wires, their gauge, how long it is, and from where to where. */
export function LeadFields({ lead, others, at, change }: LeadProps) {
  const set = (update: Partial<Lead>) => change({ lead: { ...lead, ...update } });
  const ends = [{ value: "", label: "not said" }, ...others];
  const end = (key: "from_id" | "to_id", label: string) => (
    <Choice
      label={label}
      value={lead[key] ?? ""}
      options={ends}
      problem={at(`lead.${key}`)}
      onChange={(v) => set({ [key]: v || null })}
    />
  );
  return (
    <>
      <NumberField
        label="Lead length"
        value={lead.length_mm ?? 300}
        quantity="length"
        step={10}
        problem={at("lead.length_mm")}
        onChange={(length_mm) => set({ length_mm })}
      />
      <NumberField
        label="Wires"
        value={lead.wires ?? 3}
        quantity="plain"
        whole
        problem={at("lead.wires")}
        onChange={(wires) => set({ wires })}
      />
      <NumberField
        label="Wire gauge number"
        value={lead.gauge ?? 26}
        quantity="plain"
        hint="larger is thinner"
        problem={at("lead.gauge")}
        onChange={(gauge) => set({ gauge })}
      />
      <OptionalNumber
        label="Copper of one wire, mm²"
        value={lead.area_mm2 ?? null}
        quantity="plain"
        hint="empty: by its gauge"
        problem={at("lead.area_mm2")}
        onChange={(area_mm2) => set({ area_mm2 })}
      />
      <NumberField
        label="Pairs of plugs"
        value={lead.plugs ?? 1}
        quantity="plain"
        whole
        problem={at("lead.plugs")}
        onChange={(plugs) => set({ plugs })}
      />
      {end("from_id", "From")}
      {end("to_id", "To")}
    </>
  );
}

/** Names that are typed with commas between them, each once. */
export const namesOf = (typed: string) => [
  ...new Set(
    typed
      .split(",")
      .map((n) => n.trim().slice(0, 40))
      .filter((n) => n !== ""),
  ),
];

interface VersionsProps {
  names: string[];
  problem: Problem | undefined;
  change: (names: string[]) => void;
}

/** The versions of the airframe that have an item; what is typed stays as it is typed while it means the same. */
export function Versions({ names, problem, change }: VersionsProps) {
  const [typed, setTyped] = useState(names.join(", "));
  const same = namesOf(typed).join() === names.join();
  return (
    <TextField
      label="Only in versions"
      value={same ? typed : names.join(", ")}
      placeholder="all, or names with commas"
      problem={problem}
      onChange={(v) => {
        setTyped(v);
        change(namesOf(v));
      }}
    />
  );
}
