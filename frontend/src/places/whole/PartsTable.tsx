import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, type Airframe, type Part, type Problem, type Schemas } from "../../api/client";
import { accepted, readAnew, troubleOf } from "../../api/changes";
import { keys, useShelf } from "../../api/queries";
import { withPart, problemAt } from "../../part/edits";
import { NumberField } from "../../forms/fields";
import { freshId } from "../../forms/ids";
import { show, type Quantity } from "../../forms/units";

interface Props {
  document: Airframe;
  airframeId: string;
  problems: Problem[];
  whole: Schemas["Whole"] | undefined;
  edit: (change: (d: Airframe) => Airframe) => void;
  flush: () => Promise<void>;
}

const PLACES: [keyof Part["place"], string, Quantity, number][] = [
  ["x_mm", "behind", "length", 5],
  ["y_mm", "out", "length", 5],
  ["z_mm", "above", "length", 5],
  ["dihedral_deg", "dihedral rise", "angle", 1],
];

const HANDS: Record<Part["hand"], string> = {
  both: "two, mirrored",
  left: "left only",
  right: "right only",
  single: "one",
};

/** The parts with their places: to move, to copy into another airframe, to take out. */
export function PartsTable({ document, airframeId, problems, whole, edit, flush }: Props) {
  const [told, setTold] = useState("");
  const parts = document.parts ?? [];
  return (
    <section aria-label="Parts" className="mt-6">
      <h2 className="border-b border-ink pb-1 font-semibold">Parts and positions</h2>
      <p aria-live="polite" className="min-h-5 text-body">
        {told}
      </p>
      <ul>
        {parts.map((part, i) => {
          const mass = whole?.parts.find((p) => p.part_id === part.id);
          const set = (key: keyof Part["place"]) => (v: number) =>
            edit((d) => withPart(d, part.id, (p) => ({ ...p, place: { ...p.place, [key]: v } })));
          const at = (key: string) => problemAt(problems, `parts[${i}].place.${key}`);
          return (
            <li
              key={part.id}
              className="grid grid-cols-[minmax(9rem,1fr)_repeat(4,6.4rem)_8rem_auto] items-end gap-x-3 gap-y-2 border-b border-rule py-2 max-xl:grid-cols-4"
            >
              <div className="self-center max-xl:col-span-full">
                <Link to={`/bench/${airframeId}/${part.id}`} className="font-semibold hover:underline">
                  {part.name}
                </Link>
                <span className="block text-small text-soft">
                  {mass ? `${mass.count > 1 ? `${mass.count} × ` : ""}${show(mass.grams.typ, "mass")}` : "–"}
                </span>
              </div>
              {PLACES.map(([key, label, quantity, step]) => (
                <NumberField
                  key={key}
                  label={label}
                  value={part.place[key]}
                  quantity={quantity}
                  step={step}
                  problem={at(key)}
                  onChange={set(key)}
                />
              ))}
              <label className="grid gap-1">
                <span className="label-type text-small">Number</span>
                <select
                  className="field-box"
                  aria-label={`Number of ${part.name}`}
                  value={part.hand}
                  onChange={(e) =>
                    edit((d) => withPart(d, part.id, (p) => ({ ...p, hand: e.target.value as Part["hand"] })))
                  }
                >
                  {Object.entries(HANDS).map(([value, label]) => (
                    <option key={value} value={value}>
                      {label}
                    </option>
                  ))}
                </select>
              </label>
              <span className="flex gap-1.5">
                <CopyTo part={part} from={airframeId} flush={flush} say={setTold} />
                <button
                  type="button"
                  className="key-button text-fail"
                  aria-label={`Remove ${part.name}`}
                  onClick={() => {
                    edit((d) => ({ ...d, parts: (d.parts ?? []).filter((p) => p.id !== part.id) }));
                    setTold(`${part.name} removed. Undo restores it.`);
                  }}
                >
                  ✕
                </button>
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

interface CopyProps {
  part: Part;
  from: string;
  flush: () => Promise<void>;
  say: (text: string) => void;
}

/** Copies a part into another airframe of the shelf. */
function CopyTo({ part, from, flush, say }: CopyProps) {
  const queries = useQueryClient();
  const shelf = useShelf();
  const put = async (id: string) => {
    await flush();
    const path = { airframe_id: id };
    const target = await accepted(api.GET("/api/airframes/{airframe_id}", { params: { path } }));
    const { revision, document } = target!;
    const parts = document.parts ?? [];
    const fresh = freshId(
      part.kind,
      parts.map((p) => p.id),
    );
    const body = { revision, document: { ...document, parts: [...parts, { ...part, id: fresh }] } };
    await accepted(api.PUT("/api/airframes/{airframe_id}", { params: { path }, body }));
    say(id === from ? `${part.name} duplicated.` : `${part.name} copied to ${document.name}.`);
    await readAnew(queries, keys.shelf, ...(id === from ? [["airframe", from]] : []));
  };
  const copy = async (id: string) => {
    const trouble = await troubleOf(put(id));
    if (trouble !== null) say(trouble);
  };
  return (
    <select
      className="field-box w-24"
      aria-label={`Copy ${part.name} to`}
      value=""
      onChange={(e) => e.target.value && void copy(e.target.value)}
    >
      <option value="">Copy to…</option>
      {(shelf.data ?? []).map((a) => (
        <option key={a.id} value={a.id}>
          {a.document.name}
        </option>
      ))}
    </select>
  );
}
