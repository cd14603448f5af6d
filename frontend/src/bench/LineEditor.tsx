import type { Catalogue, Laminate, Layer, Part, Problem } from "../api/client";
import { Choice, NumberField, TextField, Tick } from "../shared/fields";
import { problemAt } from "./edits";
import { LaminateEditor } from "./LaminateEditor";

interface Props {
  layer: Layer;
  part: Part;
  catalogue: Catalogue;
  problems: Problem[];
  path: string;
  /** The changed line, or null to take it out. */
  change: (layer: Layer | null) => void;
  move: (by: -1 | 1) => void;
  first: boolean;
  last: boolean;
}

const OWN = "@laminate";
const FIRST_LAMINATE: Laminate = {
  plies: [{ cloth: "glass_49", angle_deg: 45 }],
  resin: "epoxy_laminating",
  method: "squeegee",
};

const BAR_PLACES = [
  { value: "pair", label: "Top and bottom" },
  { value: "upper", label: "Top only" },
  { value: "lower", label: "Bottom only" },
  { value: "middle", label: "In the middle" },
];
const FACES = [
  { value: "both", label: "Both faces" },
  { value: "upper", label: "Upper face" },
  { value: "lower", label: "Lower face" },
];
const BAR_GROUPS: Record<string, string> = {
  carbon_pultruded: "Carbon, pultruded",
  carbon_rollwrapped: "Carbon, wound",
  glass_pultruded: "Glass, pultruded",
};
const worded = (family: string) => {
  const text = (BAR_GROUPS[family] ?? family).replaceAll("_", " ");
  return text[0]!.toUpperCase() + text.slice(1);
};

/** The fields of one lay-up line. */
export function LineEditor({ layer, part, catalogue, problems, path, change, move, first, last }: Props) {
  const at = (key: string) => problemAt(problems, `${path}.${key}`);
  const set = (key: string) => (value: unknown) => change({ ...layer, [key]: value } as Layer);
  const skins = catalogue.skins.map((s) => ({ value: s.key, label: s.name, group: worded(s.family) }));
  const bars = catalogue.bars.map((b) => ({ value: b.key, label: b.name, group: worded(b.family) }));
  const fractions = layer.type !== "film" && (
    <>
      <NumberField
        label="Behind nose, root"
        value={layer.root_percent}
        quantity="percent"
        problem={at("root_percent")}
        onChange={set("root_percent")}
      />
      <NumberField
        label="Behind nose, tip"
        value={layer.tip_percent}
        quantity="percent"
        problem={at("tip_percent")}
        onChange={set("tip_percent")}
      />
    </>
  );
  return (
    <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3 px-4 pt-1 pb-4">
      {layer.type === "bar" ? (
        <>
          <div className="col-span-full">
            <Choice
              label="Bar"
              value={layer.stock}
              options={bars}
              problem={at("stock")}
              onChange={set("stock")}
            />
          </div>
          <Choice
            label="Place"
            value={layer.place}
            options={BAR_PLACES}
            problem={at("place")}
            onChange={set("place")}
          />
          <NumberField
            label="Foam over it"
            value={layer.cover_mm}
            quantity="length"
            step={0.5}
            problem={at("cover_mm")}
            onChange={set("cover_mm")}
          />
        </>
      ) : (
        <>
          <div className="col-span-full">
            <Choice
              label="Material"
              value={typeof layer.skin === "string" ? layer.skin : OWN}
              options={[
                ...skins,
                { value: OWN, label: "Own laminate: cloth, resin, method", group: "Made here" },
              ]}
              problem={typeof layer.skin === "string" ? at("skin") : undefined}
              onChange={(key) => set("skin")(key === OWN ? FIRST_LAMINATE : key)}
            />
          </div>
          {typeof layer.skin !== "string" && (
            <LaminateEditor
              laminate={layer.skin}
              catalogue={catalogue}
              problems={problems}
              path={`${path}.skin`}
              change={set("skin")}
            />
          )}
          <Choice
            label="Face"
            value={layer.face}
            options={
              layer.type === "film" ? [{ value: "wrapped", label: "Wrapped all round" }, ...FACES] : FACES
            }
            problem={at("face")}
            onChange={set("face")}
          />
          <NumberField
            label="Plies"
            value={layer.plies}
            quantity="plain"
            whole
            problem={at("plies")}
            onChange={set("plies")}
          />
          {layer.type === "strip" && (
            <div className="col-span-full">
              <NumberField
                label="Width"
                value={layer.width_mm}
                quantity="length"
                problem={at("width_mm")}
                onChange={set("width_mm")}
              />
            </div>
          )}
        </>
      )}
      {fractions}
      <NumberField
        label="From"
        value={layer.start_mm}
        quantity="length"
        step={5}
        problem={at("start_mm")}
        onChange={set("start_mm")}
      />
      <NumberField
        label="To"
        value={layer.end_mm ?? part.span_mm}
        quantity="length"
        step={5}
        problem={at("end_mm")}
        onChange={(v) => change({ ...layer, end_mm: v === part.span_mm ? null : v })}
      />
      {layer.type === "bar" && (
        <div className="col-span-full grid gap-2">
          <NumberField
            label="Weighed, g per metre"
            value={layer.weighed_g_per_m ?? catalogue.bar_g_per_m[layer.stock] ?? 0}
            quantity="plain"
            step={0.1}
            problem={at("weighed_g_per_m")}
            hint={
              layer.weighed_g_per_m == null
                ? "From the table. Weigh the very bar: in wood its weight tells its stiffness and strength."
                : "Weighed by you."
            }
            onChange={set("weighed_g_per_m")}
          />
          {layer.weighed_g_per_m != null && (
            <button type="button" className="key-button" onClick={() => set("weighed_g_per_m")(null)}>
              Back to the table's weight
            </button>
          )}
          <Tick
            label="Runs on through the root"
            checked={layer.joined_at_root !== false}
            onChange={set("joined_at_root")}
          />
          <Tick label="A flat stands on edge" checked={layer.on_edge === true} onChange={set("on_edge")} />
        </div>
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
      <div className="col-span-full flex flex-wrap gap-2">
        <button type="button" className="key-button" onClick={() => set("enabled")(layer.enabled === false)}>
          {layer.enabled === false ? "Switch on" : "Switch off"}
        </button>
        <button
          type="button"
          className="key-button"
          disabled={first}
          onClick={() => move(-1)}
          aria-label="Build earlier"
        >
          ↑
        </button>
        <button
          type="button"
          className="key-button"
          disabled={last}
          onClick={() => move(1)}
          aria-label="Build later"
        >
          ↓
        </button>
        <button type="button" className="key-button ml-auto text-fail" onClick={() => change(null)}>
          Take out
        </button>
      </div>
    </div>
  );
}
