import { useRef, useState, type PointerEvent } from "react";
import { api, type Catalogue, type Estimate, type Layer, type Part, type Problem } from "../../../api/client";
import { Word } from "../../../words/Word";
import { cutWith } from "../../../part/CutSketch";
import { JointSketch } from "../../../part/sketches/JointSketch";
import { movedTo } from "../../../part/edits";
import { GramsPanel } from "./GramsPanel";
import { COLUMNS, CoreRow, LineRow, type Drag } from "./LineRow";
import { AddLine } from "./AddLine";
import { AT_LEISURE, useStudy, type Subject } from "../../../part/useStudy";

interface Props {
  part: Part;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
  catalogue: Catalogue;
  estimate: Estimate | null;
  subject: Subject;
  selected: string | null;
  setSelected: (id: string | null) => void;
}

/** The lay-up from the foam outwards: what each line weighs, what it gives, and whether it earns its grams. */
export function LayupPanel(props: Props) {
  const { part, problems, path, change, catalogue, estimate, subject, selected, setSelected } = props;
  const layers = part.layers;
  const worth = useStudy(
    "worth",
    subject,
    (body, signal) => api.POST("/api/studies/worth", { body, signal }),
    estimate !== null && layers.length > 0,
    AT_LEISURE,
  );
  const list = useRef<HTMLOListElement>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const resultOf = (id: string) => estimate?.lines.find((l) => l.id === id);
  const ids = layers.map((l) => l.id);
  const add = (layer: Layer) => {
    change((p) => ({ ...p, layers: [...p.layers, layer] }));
    setSelected(layer.id);
  };
  const over = (e: PointerEvent) => {
    const rows = [...(list.current?.querySelectorAll<HTMLElement>("[data-line]") ?? [])];
    const at = rows.findIndex((r) => {
      const box = r.getBoundingClientRect();
      return e.clientY < box.top + box.height / 2;
    });
    return at < 0 ? rows.length : at;
  };
  const drop = () => {
    if (drag) {
      const from = ids.indexOf(drag.id);
      change((p) => movedTo(p, drag.id, drag.to > from ? drag.to - 1 : drag.to));
    }
    setDrag(null);
  };
  return (
    <div className="pb-6">
      <div className={`${COLUMNS} label-type border-b border-ink px-3 py-2 text-note text-soft`}>
        <span />
        <span>From the foam outwards</span>
        <span className="text-right">
          mass, <Word k="shares">shares</Word>
        </span>
      </div>
      <ol ref={list} aria-label="Lay-up">
        <CoreRow {...{ part, catalogue }} result={resultOf(part.foam ? "foam" : "ribs")} />
        {layers.map((layer, i) => (
          <LineRow
            key={layer.id}
            {...{
              layer,
              i,
              part,
              catalogue,
              problems,
              change,
              selected,
              setSelected,
              drag,
              setDrag,
              over,
              drop,
            }}
            path={`${path}.layers[${i}]`}
            result={resultOf(layer.id)}
            cut={estimate && cutWith(estimate.stretches, layer.id)}
            sketch={
              estimate &&
              (layer.type === "joint" || layer.type === "hinge") && (
                <JointSketch {...{ layer, part, catalogue }} stretches={estimate.stretches} />
              )
            }
            remark={worth.data?.find((w) => w.line_id === layer.id)?.remark}
          />
        ))}
      </ol>
      <AddLine {...{ part, add }} />
      {worth.data && worth.data.length > 0 && (
        <GramsPanel worth={worth.data} {...{ part, catalogue, change }} waiting={worth.isFetching} />
      )}
      {estimate && (
        <details className="px-4 pt-5 text-small leading-snug text-soft">
          <summary className="label-type min-h-10 cursor-pointer">Assumptions</summary>
          <ul className="mt-1 grid gap-1.5">
            {estimate.assumptions.map((a) => (
              <li key={a}>{a}</li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}
