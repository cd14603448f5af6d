import { api, type Catalogue, type Layer, type Part, type Schemas } from "../../../api/client";
import { freshId } from "../../../forms/ids";
import { Word } from "../../../words/Word";
import { bare, plain, show, unitOf } from "../../../forms/units";
import { patchShapes } from "../../../part/sketches/patchShapes";
import { ScaledSketch } from "../../../part/sketches/ScaledSketch";
import { MAX_LINES } from "../../../part/edits";
import { BreakFirst } from "./BreakFirst";
import { DetailForm } from "./DetailForm";
import { JointSheets } from "./JointSheets";
import { useStudy, type Subject } from "../../../part/useStudy";

interface Props {
  subject: Subject;
  part: Part;
  catalogue: Catalogue;
  change: (edit: (part: Part) => Part) => void;
  setSelected: (id: string | null) => void;
  stretches: Schemas["Stretch"][];
}

/** Whether its joints hold, what is cut away and what gives it back, what holds and lets go in time, and single places that a beam does not see. */
export function DetailsView({ subject, part, catalogue, change, setSelected, stretches }: Props) {
  const cuts = part.layers.some((l) => l.type === "cut" || (l.type === "fitting" && l.pocket));
  const study = useStudy(
    "openings",
    subject,
    (body, signal) => api.POST("/api/studies/openings", { body, signal }),
    cuts,
  );
  const put = (layer: Layer) => {
    const id = freshId(
      "line",
      part.layers.map((l) => l.id),
    );
    change((p) => ({ ...p, layers: [...p.layers, { ...layer, id }] }));
    setSelected(id);
  };
  return (
    <section className="px-5 py-3" aria-label="Joints, cut-outs, fasteners and details">
      <JointSheets {...{ subject, part, catalogue, change, setSelected, stretches }} />
      <h2 className="mt-6 border-b border-ink text-lead font-semibold">
        <Word k="opening">What do the cut-outs cost?</Word>
      </h2>
      {!cuts && (
        <p className="py-2 text-body text-soft">
          No cut-outs. Pockets, slits, hatches and recessed stock items appear here.
        </p>
      )}
      {cuts && study.isError && (
        <p className="py-2 text-fail">The cut-outs could not be computed. Correct the marked fields.</p>
      )}
      {cuts && !study.data && !study.isError && <p className="py-2 text-soft">Checking each cut-out…</p>}
      {cuts && study.data && (
        <div className={study.isFetching ? "stale" : ""}>
          {(study.data as Schemas["Opening"][]).map((o) => (
            <OpeningRow key={o.line_id} opening={o} put={put} full={part.layers.length >= MAX_LINES} />
          ))}
        </div>
      )}
      <BreakFirst subject={subject} />
      <DetailForm {...{ subject, part, catalogue }} />
    </section>
  );
}

const LEFT: [keyof Schemas["Losses"], string][] = [
  ["margin", "margin"],
  ["bend", "bending stiffness"],
  ["twist", "twist stiffness"],
  ["local_EI", "EI at the cut-out"],
  ["local_GJ", "GJ at the cut-out"],
];

function OpeningRow(props: { opening: Schemas["Opening"]; put: (layer: Layer) => void; full: boolean }) {
  const { opening: o, put, full } = props;
  const [long, wide, deep] = o.size_mm;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-4 border-b border-rule py-2 text-body max-md:grid-cols-1">
      <div>
        <p className="leading-snug">
          <strong>{o.name}</strong>{" "}
          <span className="text-soft">
            {bare(long, "length")} × {bare(wide, "length")} × {bare(deep, "length")} {unitOf("length")}
          </span>{" "}
          {o.says}.
        </p>
        <dl className="mt-1 flex flex-wrap gap-x-5 text-small">
          {LEFT.map(([key, label]) => (
            <div key={key} className="flex gap-1.5">
              <dt className="text-soft">{label}</dt>
              <dd className="figure-type">{plain(100 * o.left[key], 3)} %</dd>
            </div>
          ))}
        </dl>
      </div>
      {o.patch && (
        <div className="grid w-56 content-start justify-items-start gap-1 max-md:w-full">
          <div className="w-full">
            <ScaledSketch drawn={patchShapes(o, o.patch)} tallest={90} />
          </div>
          <button type="button" className="key-button" disabled={full} onClick={() => put(o.patch!.layer)}>
            Add patch, +{show(o.patch.grams, "mass", 2)}
            <span className="sr-only"> over {o.name}</span>
          </button>
        </div>
      )}
    </div>
  );
}
