import type { Catalogue, Laminate, Problem } from "../../../api/client";
import { Choice, NumberField, OptionalNumber } from "../../../forms/fields";
import { problemAt } from "../../../part/edits";

interface Props {
  laminate: Laminate;
  catalogue: Catalogue;
  problems: Problem[];
  path: string;
  change: (laminate: Laminate) => void;
}

const METHODS = [
  { value: "hand", label: "Brushed by hand" },
  { value: "squeegee", label: "Squeegeed" },
  { value: "vacuum", label: "Vacuum-bagged" },
] as const;

/** Cloths, resin and method of a skin that is made on the part, the innermost cloth first. */
export function LaminateEditor({ laminate, catalogue, problems, path, change }: Props) {
  const at = (key: string) => problemAt(problems, `${path}.${key}`);
  const cloths = catalogue.cloths.map((c) => ({ value: c.key, label: c.name }));
  const plies = laminate.plies;
  const put = (n: number, ply: Laminate["plies"][number] | null) =>
    change({ ...laminate, plies: plies.flatMap((p, i) => (i !== n ? [p] : ply ? [ply] : [])) });
  const resin = catalogue.resins.find((r) => r.key === laminate.resin);
  return (
    <fieldset className="col-span-full grid gap-3 border-l-[3px] border-rule pl-3">
      <legend className="label-type text-small">Laminate, foam side first</legend>
      {plies.map((ply, n) => (
        <div key={n} className="grid grid-cols-[minmax(0,1fr)_4.2rem_2.6rem] items-end gap-2">
          <Choice
            label={`Cloth ${n + 1}`}
            value={ply.cloth}
            options={cloths}
            problem={at(`plies[${n}].cloth`)}
            onChange={(cloth) => put(n, { ...ply, cloth })}
          />
          <NumberField
            label={`Angle ${n + 1}`}
            value={ply.angle_deg ?? 0}
            quantity="angle"
            step={15}
            problem={at(`plies[${n}].angle_deg`)}
            onChange={(angle_deg) => put(n, { ...ply, angle_deg })}
          />
          <button
            type="button"
            className="key-button px-0"
            aria-label={`Remove cloth ${n + 1}`}
            disabled={plies.length === 1}
            onClick={() => put(n, null)}
          >
            ✕
          </button>
        </div>
      ))}
      <button
        type="button"
        className="key-button justify-self-start"
        disabled={plies.length >= 12}
        onClick={() => change({ ...laminate, plies: [...plies, plies.at(-1)!] })}
      >
        Add cloth
      </button>
      <Choice
        label="Resin"
        value={laminate.resin ?? "epoxy_laminating"}
        options={catalogue.resins.map((r) => ({ value: r.key, label: r.name }))}
        problem={at("resin")}
        hint={resin?.note}
        onChange={(v) => change({ ...laminate, resin: v })}
      />
      <Choice
        label="Wet-out method"
        value={laminate.method ?? "squeegee"}
        options={METHODS}
        problem={at("method")}
        onChange={(v) => change({ ...laminate, method: v })}
      />
      <OptionalNumber
        label="Fibre by volume, if you know it"
        value={laminate.fibre_percent ?? null}
        quantity="percent"
        problem={at("fibre_percent")}
        hint={laminate.fibre_percent == null ? "Empty: usual for this method." : undefined}
        onChange={(v) => change({ ...laminate, fibre_percent: v })}
      />
    </fieldset>
  );
}
