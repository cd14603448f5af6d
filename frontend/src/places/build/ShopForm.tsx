import type { Problem } from "../../api/client";
import { NumberField, OptionalNumber, Tick } from "../../forms/fields";
import { DAY, DAYS, type Hours, type Shop } from "./shop";

interface Props {
  shop: Shop;
  problems: Problem[];
  change: (update: Partial<Shop>) => void;
}

/** From such a width on the form stands beside the steps; on less it is folded above them. */
const WIDE_PX = 1024;

/** Who works, when, how warm it is, and what holds things while glue sets. */
export function ShopForm({ shop, problems, change }: Props) {
  const at = (key: string) => problems.find((p) => p.path.endsWith(key));
  const hours = shop.hours ?? [];
  const set = (n: number, update: Partial<Hours>) =>
    change({ hours: hours.map((h, m) => (m === n ? { ...h, ...update } : h)) });
  return (
    <section aria-label="Workshop" className="mt-6 print:hidden">
      <details open={window.innerWidth >= WIDE_PX}>
        <summary className="cursor-pointer border-b border-ink pb-1 font-semibold">Workshop</summary>
        <div className="grid grid-cols-2 gap-x-4 gap-y-3 pt-3">
          <NumberField
            label="People"
            value={shop.people ?? 1}
            quantity="plain"
            whole
            problem={at("people")}
            onChange={(people) => change({ people })}
          />
          <NumberField
            label="Workshop temperature"
            value={shop.warmth_C ?? 20}
            quantity="warmth"
            problem={at("warmth_C")}
            onChange={(warmth_C) => change({ warmth_C })}
          />
          <NumberField
            label="Flat boards"
            value={shop.boards ?? 1}
            quantity="plain"
            whole
            problem={at("boards")}
            onChange={(boards) => change({ boards })}
          />
          <NumberField
            label="Clamps"
            value={shop.clamps ?? 8}
            quantity="plain"
            whole
            problem={at("clamps")}
            onChange={(clamps) => change({ clamps })}
          />
          <OptionalNumber
            label="Hardener to 100 of resin"
            hint="by weight, from the tin"
            value={shop.hardener_parts ?? null}
            quantity="plain"
            problem={at("hardener_parts")}
            onChange={(hardener_parts) => change({ hardener_parts })}
          />
          <NumberField
            label="Hot wire, diameter"
            value={shop.wire_mm ?? 0.4}
            quantity="length"
            problem={at("wire_mm")}
            onChange={(wire_mm) => change({ wire_mm })}
          />
        </div>
        <BoxForm shop={shop} at={at} change={change} />
        <Tick
          label="Iron measured with a thermometer"
          checked={shop.probe ?? true}
          onChange={(probe) => change({ probe })}
        />
        <h3 className="label-type mt-4 text-small">Working hours</h3>
        {hours.length === 0 && <p className="py-1 text-small text-soft">At any time, nights too.</p>}
        <ul>
          {hours.map((h, n) => (
            <HoursRow
              key={n}
              n={n}
              hours={h}
              at={at}
              set={(update) => set(n, update)}
              remove={() => change({ hours: hours.filter((_, m) => m !== n) })}
            />
          ))}
        </ul>
        <button
          type="button"
          className="key-button mt-2"
          disabled={hours.length >= 7}
          onClick={() => change({ hours: [...hours, { days: ["sat"], from_hour: 9, to_hour: 17 }] })}
        >
          + Hours
        </button>
      </details>
    </section>
  );
}

const USUAL_BOX = { warm_C: 35, places: 1, long_mm: 1000, thermostat: false };

/** A box in which glue sets warm: only where there is one. */
function BoxForm({
  shop,
  at,
  change,
}: Pick<Props, "shop" | "change"> & { at: (key: string) => Problem | undefined }) {
  const box = shop.warm_box ? { ...USUAL_BOX, ...shop.warm_box } : null;
  const set = (update: Partial<typeof USUAL_BOX>) =>
    change({ warm_box: { ...USUAL_BOX, ...box, ...update } });
  return (
    <>
      <Tick
        label="A warm box for glue to set in"
        checked={box !== null}
        onChange={(on) => change({ warm_box: on ? USUAL_BOX : null })}
      />
      {box && (
        <div className="grid grid-cols-2 gap-x-4 gap-y-3 border-l-2 border-rule pl-3">
          <NumberField
            label="Its temperature"
            value={box.warm_C}
            quantity="warmth"
            problem={at("warm_C")}
            onChange={(warm_C) => set({ warm_C })}
          />
          <NumberField
            label="Pieces it takes"
            value={box.places}
            quantity="plain"
            whole
            problem={at("places")}
            onChange={(places) => set({ places })}
          />
          <NumberField
            label="Longest piece"
            value={box.long_mm}
            quantity="length"
            problem={at("long_mm")}
            onChange={(long_mm) => set({ long_mm })}
          />
          <div className="col-span-full">
            <Tick
              label="Held by a thermostat, where nothing can catch fire"
              checked={box.thermostat}
              onChange={(thermostat) => set({ thermostat })}
            />
            <p className="text-small text-soft">
              {box.thermostat
                ? "May be left alone, at night too."
                : "Used only in working hours: somebody stays with it."}
            </p>
          </div>
        </div>
      )}
    </>
  );
}

interface RowProps {
  n: number;
  hours: Hours;
  at: (key: string) => Problem | undefined;
  set: (update: Partial<Hours>) => void;
  remove: () => void;
}

function HoursRow({ n, hours: h, at, set, remove }: RowProps) {
  const days = h.days ?? [...DAYS];
  const toggle = (day: (typeof DAYS)[number], on: boolean) => {
    const next = DAYS.filter((d) => (d === day ? on : days.includes(d)));
    if (next.length > 0) set({ days: next });
  };
  return (
    <li className="border-b border-rule py-2" aria-label={`Working hours ${n + 1}`}>
      <div className="grid grid-cols-4 gap-x-2" role="group" aria-label={`Days ${n + 1}`}>
        {DAYS.map((d) => (
          <Tick key={d} label={DAY[d]} checked={days.includes(d)} onChange={(on) => toggle(d, on)} />
        ))}
      </div>
      <div className="grid grid-cols-[1fr_1fr_auto] items-end gap-x-3">
        <NumberField
          label="From, hour"
          value={h.from_hour ?? 18}
          quantity="plain"
          problem={at(`hours[${n}].from_hour`)}
          onChange={(from_hour) => set({ from_hour })}
        />
        <NumberField
          label="To, hour"
          value={h.to_hour ?? 22}
          quantity="plain"
          problem={at(`hours[${n}].to_hour`)}
          onChange={(to_hour) => set({ to_hour })}
        />
        <button
          type="button"
          className="key-button border-transparent text-fail"
          aria-label={`Remove working hours ${n + 1}`}
          onClick={remove}
        >
          ×
        </button>
      </div>
    </li>
  );
}
