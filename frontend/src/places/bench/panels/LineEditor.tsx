import type { Catalogue, CutLayer, Layer, Part, Problem } from "../../../api/client";
import { NumberField, OptionalNumber, TextField } from "../../../forms/fields";
import { setterOf } from "../../../forms/form";
import { BarFields } from "./BarFields";
import { acrossLine, problemAt } from "../../../part/edits";
import { FittingFields } from "./FittingFields";
import { HingeFields } from "./HingeFields";
import { JointFields } from "./JointFields";
import { CordFields, CutFields, SkinFields, WallFields } from "./LineFields";

interface Props {
  layer: Layer;
  part: Part;
  catalogue: Catalogue;
  problems: Problem[];
  path: string;
  /** The changed line, or null to take it out. */
  change: (layer: Layer | null) => void;
  duplicate: () => void;
}

const onEdge = (cut: CutLayer) => cut.face === "front" || cut.face === "rear";

/** The fields of one lay-up line. */
export function LineEditor({ layer, part, catalogue, problems, path, change, duplicate }: Props) {
  const at = (key: string) => problemAt(problems, `${path}.${key}`);
  const set = setterOf(layer, change);
  const of = <L extends Layer>(line: L) => ({
    ...{ layer: line, part, catalogue, problems, path, at },
    set: setterOf(line, change),
  });
  const level = layer.type === "wall" && layer.face === "level";
  return (
    <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3 px-4 pt-1 pb-4">
      {layer.type === "bar" && <BarFields {...of(layer)} />}
      {(layer.type === "strip" || layer.type === "film") && <SkinFields {...of(layer)} />}
      {layer.type === "wall" && <WallFields {...of(layer)} />}
      {layer.type === "cut" && <CutFields {...of(layer)} />}
      {layer.type === "cord" && <CordFields {...of(layer)} />}
      {layer.type === "fitting" && <FittingFields {...of(layer)} />}
      {layer.type === "joint" && <JointFields {...of(layer)} />}
      {layer.type === "hinge" && <HingeFields {...of(layer)} />}
      {acrossLine(layer) && !(layer.type === "cut" && (layer.width_mm == null || onEdge(layer))) && (
        <>
          <NumberField
            label={level ? "Height at root" : "Chord position, root"}
            value={layer.root_percent}
            quantity="percent"
            problem={at("root_percent")}
            onChange={set("root_percent")}
          />
          <NumberField
            label={level ? "Height at tip" : "Chord position, tip"}
            value={layer.tip_percent}
            quantity="percent"
            problem={at("tip_percent")}
            onChange={set("tip_percent")}
          />
        </>
      )}
      {!(layer.type === "joint" && layer.joint.kind === "bond") && (
        <NumberField
          label={layer.type === "joint" ? "Position from root" : "From"}
          value={layer.start_mm}
          quantity="length"
          step={5}
          problem={at("start_mm")}
          onChange={set("start_mm")}
        />
      )}
      {layer.type === "joint" ? null : layer.type === "fitting" ? (
        <OptionalNumber
          label="To"
          value={layer.end_mm ?? null}
          quantity="length"
          problem={at("end_mm")}
          hint="empty: full length"
          onChange={set("end_mm")}
        />
      ) : (
        <NumberField
          label="To"
          value={layer.end_mm ?? part.span_mm}
          quantity="length"
          step={5}
          problem={at("end_mm")}
          onChange={(v) => change({ ...layer, end_mm: v === part.span_mm ? null : v })}
        />
      )}
      <div className="col-span-full">
        <TextField
          label="Item name"
          value={layer.name}
          placeholder="name of the material"
          problem={at("name")}
          onChange={set("name")}
        />
      </div>
      <div className="col-span-full">
        <TextField
          label="Note"
          value={layer.note}
          placeholder="for whoever builds or repairs it"
          longest={400}
          lines={2}
          problem={at("note")}
          onChange={set("note")}
        />
      </div>
      <div className="col-span-full flex flex-wrap gap-2">
        <button type="button" className="key-button" onClick={duplicate}>
          Duplicate
        </button>
        <button type="button" className="key-button ml-auto text-fail" onClick={() => change(null)}>
          Remove
        </button>
      </div>
    </div>
  );
}
