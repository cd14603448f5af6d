import type { Catalogue, CutLayer, Layer, Part, Problem } from "../../../api/client";
import { NumberField, OptionalNumber, TextField } from "../../../forms/fields";
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
  const set = (key: string) => (value: unknown) => change({ ...layer, [key]: value });
  const shared = { part, catalogue, problems, path, at, set };
  const level = layer.type === "wall" && layer.face === "level";
  return (
    <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3 px-4 pt-1 pb-4">
      {layer.type === "bar" && <BarFields layer={layer} {...shared} />}
      {(layer.type === "strip" || layer.type === "film") && <SkinFields layer={layer} {...shared} />}
      {layer.type === "wall" && <WallFields layer={layer} {...shared} />}
      {layer.type === "cut" && <CutFields layer={layer} {...shared} />}
      {layer.type === "cord" && <CordFields layer={layer} {...shared} />}
      {layer.type === "fitting" && <FittingFields layer={layer} {...shared} />}
      {layer.type === "joint" && <JointFields layer={layer} {...shared} />}
      {layer.type === "hinge" && <HingeFields layer={layer} {...shared} />}
      {acrossLine(layer) && !(layer.type === "cut" && (layer.width_mm == null || onEdge(layer))) && (
        <>
          <NumberField
            label={level ? "Above lower face, root" : "Behind nose, root"}
            value={layer.root_percent}
            quantity="percent"
            problem={at("root_percent")}
            onChange={set("root_percent")}
          />
          <NumberField
            label={level ? "Above lower face, tip" : "Behind nose, tip"}
            value={layer.tip_percent}
            quantity="percent"
            problem={at("tip_percent")}
            onChange={set("tip_percent")}
          />
        </>
      )}
      {!(layer.type === "joint" && layer.joint.kind === "bond") && (
        <NumberField
          label={layer.type === "joint" ? "Place, from the root" : "From"}
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
          hint="open: as long as it is"
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
          label="Own name for this line"
          value={layer.name}
          placeholder="from its material"
          problem={at("name")}
          onChange={set("name")}
        />
      </div>
      <div className="col-span-full">
        <TextField
          label="Note"
          value={layer.note}
          placeholder="for whoever builds or mends it"
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
          Take out
        </button>
      </div>
    </div>
  );
}
