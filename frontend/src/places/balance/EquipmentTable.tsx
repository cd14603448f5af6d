import type { Airframe, Catalogue, Problem } from "../../api/client";
import { Choice, NumberField, OptionalNumber, TextField, Tick } from "../../forms/fields";
import { freshId } from "../../forms/ids";
import { show } from "../../forms/units";
import { problemAt } from "../../part/edits";
import { nameOf } from "./SideView";
import { LeadFields, Thrust, Versions, type Lead } from "./ItemFields";
import { firstPlace, type Item } from "./sideShapes";

interface Props {
  document: Airframe;
  catalogue: Catalogue;
  problems: Problem[];
  /** What each item weighs in the ledger, by its id: one of a pair. */
  weighs: Map<string, number>;
  edit: (change: (d: Airframe) => Airframe) => void;
}

const WHAT: { value: NonNullable<Item["what"]>; label: string; family?: string }[] = [
  { value: "battery", label: "Battery", family: "battery" },
  { value: "motor", label: "Motor", family: "motor" },
  { value: "propeller", label: "Propeller", family: "propeller" },
  { value: "controller", label: "Motor controller", family: "controller" },
  { value: "servo", label: "Servo", family: "servo" },
  { value: "receiver", label: "Receiver", family: "receiver" },
  { value: "camera", label: "Camera", family: "payload" },
  { value: "wheel", label: "Wheel", family: "wheel" },
  { value: "lead", label: "Lead" },
  { value: "ballast", label: "Ballast" },
  { value: "other", label: "Something else" },
];
const OWN = "own";

const LEAD: Lead = {
  wires: 3,
  gauge: 26,
  area_mm2: null,
  length_mm: 300,
  insulation_mm: 0.45,
  plugs: 1,
  from_id: null,
  to_id: null,
};

/** What it carries: each thing with its mass and place, to change, add and remove. */
export function EquipmentTable({ document, catalogue, problems, weighs, edit }: Props) {
  const items = document.equipment ?? [];
  const change = (id: string, update: Partial<Item>) =>
    edit((d) => ({
      ...d,
      equipment: (d.equipment ?? []).map((e) => (e.id === id ? { ...e, ...update } : e)),
    }));
  const add = (what: NonNullable<Item["what"]>) =>
    edit((d) => {
      const known = d.equipment ?? [];
      const id = freshId(
        what,
        known.map((e) => e.id),
      );
      const stock = stockFor(what, catalogue)[0]?.key ?? null;
      const lead = what === "lead" ? LEAD : null;
      const mass_g = stock || lead ? null : 10;
      const item = { id, what, stock, mass_g, lead, ...firstPlace(what, d.parts ?? []) };
      return { ...d, equipment: [...known, item as Item] };
    });
  return (
    <section aria-label="Equipment" className="mt-6">
      <h2 className="border-b border-ink pb-1 font-semibold">Equipment</h2>
      {items.length === 0 && (
        <p className="py-2 text-body text-soft">
          Nothing yet. Add battery, motor, controller, receiver and servos where you plan to put them.
        </p>
      )}
      <ul>
        {items.map((e, i) => (
          <Row
            key={e.id}
            item={e}
            name={nameOf(e, catalogue)}
            catalogue={catalogue}
            grams={weighs.get(e.id)}
            others={items
              .filter((o) => o.id !== e.id)
              .map((o) => ({ value: o.id, label: nameOf(o, catalogue) }))}
            at={(key) => problemAt(problems, `equipment[${i}].${key}`)}
            change={(update) => change(e.id, update)}
            remove={() =>
              edit((d) => ({ ...d, equipment: (d.equipment ?? []).filter((o) => o.id !== e.id) }))
            }
          />
        ))}
      </ul>
      <div className="flex flex-wrap gap-2 pt-3" role="group" aria-label="Add equipment">
        {WHAT.map((w) => (
          <button key={w.value} type="button" className="key-button" onClick={() => add(w.value)}>
            + {w.label}
          </button>
        ))}
      </div>
    </section>
  );
}

const stockFor = (what: Item["what"], catalogue: Catalogue) => {
  const family = WHAT.find((w) => w.value === what)?.family;
  return catalogue.fittings.filter((f) => f.family === family);
};

interface RowProps {
  item: Item;
  name: string;
  catalogue: Catalogue;
  grams: number | undefined;
  /** What a lead can begin and end at. */
  others: { value: string; label: string }[];
  at: (key: string) => Problem | undefined;
  change: (update: Partial<Item>) => void;
  remove: () => void;
}

function Row({ item: e, name, catalogue, grams: weighed, others, at, change, remove }: RowProps) {
  const known = stockFor(e.what, catalogue);
  const options = [
    ...known.map((f) => ({ value: f.key, label: `${f.name}, ${show(f.mass_g.typ, "mass")}` })),
    { value: OWN, label: "Own mass" },
  ];
  const grams = known.find((f) => f.key === e.stock)?.mass_g.typ;
  const place = (key: "x_mm" | "y_mm" | "z_mm", label: string) => (
    <NumberField
      label={label}
      value={e[key] ?? 0}
      quantity="length"
      step={5}
      problem={at(key)}
      onChange={(v) => change({ [key]: v })}
    />
  );
  return (
    <li className="border-b border-rule">
      <details>
        <summary className="grid min-h-11 cursor-pointer grid-cols-[minmax(0,1fr)_6rem_6rem] items-center gap-x-3 hover:bg-pick-wash">
          <span className="font-semibold">
            {name}
            {e.pair && " × 2"}
            {Object.keys(PLACES).some((key) => at(key)) && <span className="text-fail"> ✕</span>}
          </span>
          <span className="figure-type text-right">{show(weighed ?? e.mass_g ?? grams ?? 0, "mass", 3)}</span>
          <span className="figure-type text-right">{show(e.x_mm ?? 0, "length", 4)}</span>
        </summary>
        <div className="grid grid-cols-3 items-start gap-x-4 gap-y-3 pt-1 pb-4 max-sm:grid-cols-2">
          <div className="col-span-full">
            <TextField
              label="Item name"
              value={e.name ?? ""}
              placeholder={name}
              problem={at("name")}
              onChange={(v) => change({ name: v })}
            />
          </div>
          {known.length > 0 && (
            <div className="col-span-full">
              <Choice
                label="Stock item"
                value={e.stock ?? OWN}
                options={options}
                problem={at("stock")}
                onChange={(v) =>
                  change(
                    v === OWN ? { stock: null, mass_g: e.mass_g ?? grams ?? 10 } : { stock: v, mass_g: null },
                  )
                }
              />
            </div>
          )}
          <OptionalNumber
            label="Measured mass"
            value={e.mass_g ?? null}
            quantity="mass"
            problem={at("mass_g")}
            hint={e.stock ? "empty: the table's" : undefined}
            onChange={(v) => change({ mass_g: v })}
          />
          {place("x_mm", "Behind the datum")}
          {place("y_mm", "To the right")}
          {place("z_mm", "Above the datum line")}
          <OptionalNumber
            label="May move from"
            value={e.from_mm ?? null}
            quantity="length"
            problem={at("from_mm")}
            hint="empty: it stays"
            onChange={(v) => change({ from_mm: v })}
          />
          <OptionalNumber
            label="May move to"
            value={e.to_mm ?? null}
            quantity="length"
            problem={at("to_mm")}
            onChange={(v) => change({ to_mm: v })}
          />
          {e.what === "motor" && <Thrust {...{ item: e, at, change }} />}
          {e.lead && <LeadFields {...{ lead: e.lead, others, at, change }} />}
          <div className="col-span-2">
            <Versions
              names={e.versions ?? []}
              problem={at("versions")}
              change={(versions) => change({ versions })}
            />
          </div>
          <Tick label="One on each side" checked={e.pair ?? false} onChange={(pair) => change({ pair })} />
          <button type="button" className="key-button justify-self-start text-fail" onClick={remove}>
            Remove<span className="sr-only"> {name}</span>
          </button>
        </div>
      </details>
    </li>
  );
}

const PLACES = { stock: 1, mass_g: 1, x_mm: 1, y_mm: 1, z_mm: 1, from_mm: 1, to_mm: 1 };
