import type { Problem, Schemas } from "../../../api/client";
import { Choice, NumberField, OptionalNumber, Tick } from "../../../forms/fields";
import { show } from "../../../forms/units";
import { LiveReading } from "../../../part/LiveReading";
import { expected, linesOn, piecesOf, readAs, STAGES, stagesOf, type Stage, type Weighing } from "./onScale";

interface Props {
  weighing: Weighing;
  sheet: Schemas["BalanceSheet"];
  at: (key: string) => Problem | undefined;
  change: (w: Weighing) => void;
}

const TAKEN_OFF = [
  { value: "", label: "nothing" },
  { value: "scraped", label: "old glue scraped off" },
  { value: "sanded", label: "sanded" },
  { value: "peeled", label: "skin or paper peeled off" },
] as const;

/** What lies on the scale, at which stage, and what the scale reads. */
export function WeighingFields({ weighing: w, sheet, at, change }: Props) {
  const all = sheet.weighed.pieces;
  const chosen = piecesOf(all, w.lines);
  const stage = w.stage ?? "finished";
  const put = (pieces: typeof all, on: Stage) => {
    const stages = stagesOf(pieces);
    const now = stages.includes(on) ? on : (stages.at(-1) ?? on);
    const lines = linesOn(pieces, all, now);
    change({ ...w, stage: now, lines: lines });
  };
  const offered = STAGES.filter((s) => stagesOf(chosen).includes(s.value) || s.value === stage);
  return (
    <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
      <fieldset className="col-span-full">
        <legend className="label-type text-small text-soft">On the scale</legend>
        <div className="grid max-h-56 grid-cols-2 overflow-y-auto border-y border-rule max-sm:grid-cols-1">
          <Tick
            label="The whole airframe"
            checked={chosen.length === all.length}
            onChange={(on) => put(on ? all : all.slice(0, 1), "finished")}
          />
          {all.map((p) => (
            <Tick
              key={p.key}
              label={p.name}
              checked={chosen.includes(p)}
              onChange={(on) => put(on ? [...chosen, p] : chosen.filter((c) => c !== p), stage)}
            />
          ))}
        </div>
        <p className="pt-1 text-small text-soft">
          {w.lines.length > 0
            ? `Should weigh about ${show(expected(sheet, w.lines), "mass", 3)}.`
            : "Nothing lies on the scale yet."}
        </p>
        {at("lines") && <p className="text-small text-fail">{at("lines")?.message}</p>}
      </fieldset>
      <Choice
        label="Stage"
        value={stage}
        options={offered}
        problem={at("stage")}
        onChange={(v) => put(chosen, v)}
      />
      <Choice
        label="Taken off since the last weighing"
        value={w.taken_off ?? ""}
        options={TAKEN_OFF}
        onChange={(taken_off) => change({ ...w, taken_off })}
      />
      <Reading {...{ weighing: w, at, change }} />
      <NumberField
        label="Smallest step of the scale"
        value={w.step_g ?? 1}
        quantity="mass"
        problem={at("step_g")}
        onChange={(step_g) => change({ ...w, step_g })}
      />
    </div>
  );
}

/** One reading, or two under two supports. */
function Reading({ weighing: w, at, change }: Omit<Props, "sheet">) {
  const r = w.reading;
  const set = (update: object) => change({ ...w, reading: { ...r, ...update } });
  const kind = (
    <div className="col-span-full">
      <Choice
        label="How it is weighed"
        value={r.kind ?? "scale"}
        options={[
          { value: "scale", label: "one reading" },
          { value: "supports", label: "on two supports: mass and centre of gravity" },
        ]}
        onChange={(k) => change(readAs(k, w))}
      />
    </div>
  );
  if (r.kind !== "supports")
    return (
      <>
        {kind}
        <div className="col-span-full">
          <LiveReading unit="g" quantity="mass" onTake={(grams) => set({ grams })} />
        </div>
        <OptionalNumber
          label="The scale reads"
          value={r.grams || null}
          quantity="mass"
          problem={at("reading.grams")}
          onChange={(grams) => set({ grams: grams ?? 0 })}
        />
      </>
    );
  const number = (
    key:
      | "first_g"
      | "second_g"
      | "first_cradle_g"
      | "second_cradle_g"
      | "first_mm"
      | "second_mm"
      | "nose_up_deg",
    label: string,
    quantity: "mass" | "length" | "angle",
    hint?: string,
  ) => (
    <NumberField
      key={key}
      label={label}
      value={r[key] ?? 0}
      quantity={quantity}
      hint={hint}
      problem={at(`reading.${key}`)}
      onChange={(v) => set({ [key]: v })}
    />
  );
  const apart = Math.abs(r.second_mm - r.first_mm);
  return (
    <>
      {kind}
      <p className="col-span-full text-small leading-snug text-soft">
        Set the root chord of the wing level. Measure from the datum to where each edge touches. With supports{" "}
        {show(apart, "length")} apart the centre of gravity comes out to about ±1 mm.
      </p>
      {number("first_g", "First scale reads", "mass")}
      {number("second_g", "Second scale reads", "mass")}
      {number("first_mm", "First support behind the datum", "length")}
      {number("second_mm", "Second support behind the datum", "length")}
      {number("first_cradle_g", "Cradle on the first scale", "mass", "0: tared")}
      {number("second_cradle_g", "Cradle on the second scale", "mass")}
      {number("nose_up_deg", "Nose up", "angle", "0°: level")}
    </>
  );
}
