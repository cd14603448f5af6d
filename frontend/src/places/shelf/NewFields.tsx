import type { Problem, Schemas } from "../../api/client";
import { Choice, NumberField, OptionalNumber, TextField, Tick } from "../../forms/fields";
import { bare, unitOf } from "../../forms/units";
import { TOOLS } from "./tools";

export type Wish = Schemas["NewWish"];

const STUFF: [NonNullable<Wish["at_hand"]>[number], string][] = [
  ["board", "Foam board"],
  ["bead", "Bead foam"],
  ["extruded", "Extruded foam"],
  ["twin_wall", "Twin-wall sheet"],
  ["balsa", "Balsa"],
];
interface Props {
  wish: Wish;
  types: Schemas["TypeOut"][];
  type: Schemas["TypeOut"] | undefined;
  set: <K extends keyof Wish>(key: K, value: Wish[K]) => void;
  at: (key: string) => Problem | undefined;
}

/** What a new airframe is to be. */
export function NewFields({ wish, types, type, set, at }: Props) {
  const byLoading = wish.all_up_mass_g == null;
  return (
    <>
      <TextField
        label="Name"
        value={wish.name}
        placeholder="What you call it"
        problem={at("name")}
        onChange={(v) => set("name", v)}
      />
      <Choice<string>
        label="Type"
        value={wish.type ?? "trainer"}
        options={types.map((t) => ({ value: t.key, label: t.title }))}
        hint={type?.why}
        onChange={(v) => set("type", v as NonNullable<Wish["type"]>)}
      />
      <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
        <NumberField
          label={wish.type === "plank" ? "Length" : "Full span"}
          value={wish.span_mm}
          quantity="length"
          step={50}
          problem={at("span_mm")}
          hint={
            wish.type === "plank"
              ? undefined
              : `half span ${bare(wish.span_mm / 2, "length", 4)} ${unitOf("length")}`
          }
          onChange={(v) => set("span_mm", v)}
        />
        <NumberField
          label="Top speed"
          value={wish.top_speed_m_s ?? 20}
          quantity="speed"
          problem={at("top_speed_m_s")}
          onChange={(v) => set("top_speed_m_s", v)}
        />
        {byLoading ? (
          <NumberField
            label="Wing loading, g/dm²"
            value={wish.wing_loading_g_dm2 ?? 30}
            quantity="plain"
            problem={at("wing_loading_g_dm2") ?? at("all_up_mass_g")}
            onChange={(v) => set("wing_loading_g_dm2", v)}
          />
        ) : (
          <NumberField
            label="All-up mass"
            value={wish.all_up_mass_g ?? 900}
            quantity="mass"
            step={50}
            problem={at("all_up_mass_g")}
            onChange={(v) => set("all_up_mass_g", v)}
          />
        )}
        <OptionalNumber
          label="Load factor, × gravity"
          value={wish.load_factor ?? null}
          quantity="plain"
          problem={at("load_factor")}
          hint="empty: what its speed gives"
          onChange={(v) => set("load_factor", v)}
        />
        <div className="col-span-full">
          <Tick
            label="I know the wing loading, not the mass"
            checked={byLoading}
            onChange={(on) => {
              set("all_up_mass_g", on ? null : 900);
              set("wing_loading_g_dm2", on ? 30 : null);
            }}
          />
        </div>
      </div>
      <Ticks
        title="Foam and sheet at hand"
        says="None ticked: assume anything can be bought."
        all={STUFF}
        value={wish.at_hand ?? []}
        onChange={(v) => set("at_hand", v)}
      />
      <Ticks title="Tools" all={TOOLS} value={wish.tools ?? []} onChange={(v) => set("tools", v)} />
    </>
  );
}

interface TicksProps<V extends string> {
  title: string;
  says?: string;
  all: [V, string][];
  value: readonly V[];
  onChange: (value: V[]) => void;
}

function Ticks<V extends string>({ title, says, all, value, onChange }: TicksProps<V>) {
  return (
    <fieldset>
      <legend className="label-type w-full border-b border-rule text-small">{title}</legend>
      {says && <p className="mt-1 text-note text-soft">{says}</p>}
      <div className="grid grid-cols-2 gap-x-4">
        {all.map(([key, label]) => (
          <Tick
            key={key}
            label={label}
            checked={value.includes(key)}
            onChange={(on) => onChange(on ? [...value, key] : value.filter((k) => k !== key))}
          />
        ))}
      </div>
    </fieldset>
  );
}
