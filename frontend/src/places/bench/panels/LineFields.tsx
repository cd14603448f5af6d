import type { CutLayer, FilmLayer, Laminate, Layer, StripLayer, WallLayer } from "../../../api/client";
import { Choice, NumberField, OptionalNumber, Tick } from "../../../forms/fields";
import type { FieldsProps } from "./BarFields";
import { LaminateEditor } from "./LaminateEditor";
import { madeOf, optionsOf } from "../../../part/materialOptions";
import { OwnWeight } from "./OwnWeight";

const OWN = "@laminate";
const FIRST_LAMINATE: Laminate = {
  plies: [{ cloth: "glass_49", angle_deg: 45 }],
  resin: "epoxy_laminating",
  method: "squeegee",
};
const FACES = [
  { value: "both", label: "Both faces" },
  { value: "upper", label: "Upper face" },
  { value: "lower", label: "Lower face" },
] as const;

/** A tape, film, paper, cloth or own laminate, as a strip or over a face; a strip may be a piece of sheet. */
export function SkinFields(props: FieldsProps<StripLayer | FilmLayer>) {
  const { layer, part, catalogue, problems, path, at, set } = props;
  const own = typeof layer.skin !== "string";
  return (
    <>
      <div className="col-span-full">
        <Choice
          label="Material"
          value={typeof layer.skin === "string" ? layer.skin : OWN}
          options={[
            ...optionsOf(
              layer.type === "strip" ? [...catalogue.skins, ...catalogue.sheets] : catalogue.skins,
              madeOf(part, catalogue),
            ),
            { value: OWN, label: "Custom laminate (cloth, resin)", group: "Your laminates" },
          ]}
          problem={own ? undefined : at("skin")}
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
        options={layer.type === "film" ? [{ value: "wrapped", label: "Wrapped around" }, ...FACES] : FACES}
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
        <>
          <NumberField
            label="Width"
            value={layer.width_mm}
            quantity="length"
            problem={at("width_mm")}
            onChange={set("width_mm")}
          />
          <NumberField
            label="Width at far end"
            value={layer.end_width_mm ?? layer.width_mm}
            quantity="length"
            problem={at("end_width_mm")}
            onChange={(v) => set("end_width_mm")(v === layer.width_mm ? null : v)}
          />
          {layer.plies > 1 && (
            <div className="col-span-full">
              <NumberField
                label="Ply drop-off spacing"
                value={layer.drop_mm}
                quantity="length"
                step={10}
                problem={at("drop_mm")}
                onChange={set("drop_mm")}
              />
            </div>
          )}
        </>
      )}
      {layer.type === "film" && (
        <>
          <NumberField
            label="Strip width"
            value={layer.tape_width_mm ?? 0}
            quantity="length"
            problem={at("tape_width_mm")}
            hint={layer.tape_width_mm == null ? "0 = one piece" : undefined}
            onChange={(v) => set("tape_width_mm")(v > 0 ? v : null)}
          />
          <NumberField
            label="Strip overlap"
            value={layer.overlap_mm}
            quantity="length"
            problem={at("overlap_mm")}
            onChange={set("overlap_mm")}
          />
        </>
      )}
      <LaidFields {...props} />
    </>
  );
}

/** What makes a skin warp its bed: its shrink or pull, and which face is laid first. */
function LaidFields({ layer, at, set }: FieldsProps<StripLayer | FilmLayer>) {
  return (
    <>
      <OptionalNumber
        label="Shrinkage or pre-stretch, %"
        value={layer.shrink_percent ?? null}
        quantity="plain"
        problem={at("shrink_percent")}
        hint={layer.shrink_percent == null ? "typical for this material" : "negative = swells"}
        onChange={set("shrink_percent")}
      />
      {(layer.face === "both" || layer.face === "wrapped") && (
        <Choice
          label="Order of faces"
          value={layer.laid}
          options={[
            { value: "together", label: "Both at once" },
            { value: "upper_first", label: "Upper face first" },
            { value: "lower_first", label: "Lower face first" },
          ]}
          onChange={set("laid")}
        />
      )}
    </>
  );
}

const WALL_FACES = [
  { value: "both", label: "Both faces" },
  { value: "upper", label: "Upper face" },
  { value: "lower", label: "Lower face" },
  { value: "wrapped", label: "All four sides (box)" },
  { value: "sides", label: "Both sides" },
  { value: "front", label: "Front side" },
  { value: "rear", label: "Rear side" },
  { value: "web", label: "Shear web (upright)" },
  { value: "level", label: "Horizontal plate" },
] as const;

/** A sheet or board as a wall. */
export function WallFields({ layer, part, catalogue, at, set }: FieldsProps<WallLayer>) {
  const sheet = catalogue.sheets.find((s) => s.key === layer.sheet);
  return (
    <>
      <div className="col-span-full">
        <Choice
          label="Sheet"
          value={layer.sheet}
          options={optionsOf(catalogue.sheets, madeOf(part, catalogue))}
          problem={at("sheet")}
          onChange={set("sheet")}
        />
      </div>
      <div className="col-span-full">
        <Choice
          label="Position"
          value={layer.face}
          options={WALL_FACES}
          problem={at("face")}
          onChange={set("face")}
        />
      </div>
      <Choice
        label={sheet?.build === "twin_wall" ? "Flute direction" : "Grain direction"}
        value={layer.grain}
        options={[
          { value: "along", label: "Along the part" },
          { value: "across", label: "Across the part" },
        ]}
        onChange={set("grain")}
      />
      <NumberField
        label="Sheets laminated together"
        value={layer.plies}
        quantity="plain"
        whole
        problem={at("plies")}
        onChange={set("plies")}
      />
      {sheet?.build === "faced" && (
        <div className="col-span-full">
          <Choice
            label="Paper kept on"
            value={layer.paper}
            options={[
              { value: "both", label: "On both sides" },
              { value: "outer", label: "Outside only" },
              { value: "inner", label: "Inside only" },
              { value: "none", label: "Neither side" },
            ]}
            onChange={set("paper")}
          />
        </div>
      )}
      {layer.face !== "web" && layer.face !== "level" && (
        <div className="col-span-full">
          <Choice
            label="How it is bent"
            value={layer.formed}
            options={[
              { value: "plain", label: "As supplied" },
              { value: "rolled", label: "Pre-rolled over an edge or tube" },
              { value: "scored", label: "Scored on the inside" },
              { value: "creased", label: "Creased" },
              { value: "warm", label: "Heat-formed" },
            ]}
            problem={at("formed")}
            onChange={set("formed")}
          />
        </div>
      )}
      <OwnWeight
        label="Measured mass, g/m²"
        weighed={layer.weighed_g_per_m2}
        table={sheet?.areal_mass_g_m2.typ}
        step={5}
        problem={at("weighed_g_per_m2")}
        why="In balsa and hardwood the weight tells stiffness and strength."
        set={set("weighed_g_per_m2")}
      />
    </>
  );
}

const CUT_FACES = [
  { value: "upper", label: "Into the upper face" },
  { value: "lower", label: "Into the lower face" },
  { value: "through", label: "Right through" },
  { value: "inside", label: "Internal cavity" },
  { value: "front", label: "Front edge (slit or notch)" },
  { value: "rear", label: "Rear edge (slit or notch)" },
] as const;

/** A pocket, hole, slit or opening. */
export function CutFields({ layer, part, at, set }: FieldsProps<CutLayer>) {
  const edge = layer.face === "front" || layer.face === "rear";
  const whole = layer.width_mm == null;
  return (
    <>
      <div className="col-span-full">
        <Choice
          label="Cut-out"
          value={layer.face}
          options={CUT_FACES}
          problem={at("face")}
          onChange={set("face")}
        />
      </div>
      {!edge && (
        <div className="col-span-full">
          <Tick
            label="Whole face (removes its skins)"
            checked={whole}
            onChange={(on) => set("width_mm")(on ? null : Math.floor(part.tip_chord_mm / 4))}
          />
        </div>
      )}
      {!whole && !edge && (
        <NumberField
          label="Width"
          value={layer.width_mm ?? 0}
          quantity="length"
          problem={at("width_mm")}
          onChange={set("width_mm")}
        />
      )}
      <NumberField
        label={edge ? "Depth where it starts" : "Depth in foam"}
        value={layer.depth_mm}
        quantity="length"
        problem={at("depth_mm") ?? (whole ? at("width_mm") : undefined)}
        hint={layer.depth_mm === 0 ? "0 = skins only" : edge && part.foam ? "notch right through" : undefined}
        onChange={set("depth_mm")}
      />
      {edge && (
        <NumberField
          label="Depth where it ends"
          value={layer.end_depth_mm ?? layer.depth_mm}
          quantity="length"
          problem={at("end_depth_mm")}
          onChange={set("end_depth_mm")}
        />
      )}
      {edge && (
        <div className="col-span-full">
          <Tick
            label="Shape of the part: cut out of what is laid later too"
            checked={layer.outline === true}
            onChange={set("outline")}
          />
        </div>
      )}
      <NumberField
        label="Corner radius"
        value={layer.corner_radius_mm}
        quantity="length"
        step={0.5}
        problem={at("corner_radius_mm")}
        onChange={set("corner_radius_mm")}
      />
    </>
  );
}

/** A cord let into an edge. */
export function CordFields({ layer, catalogue, at, set }: FieldsProps<Extract<Layer, { type: "cord" }>>) {
  return (
    <>
      <div className="col-span-full">
        <Choice
          label="Cord"
          value={layer.cord}
          options={optionsOf(catalogue.cords)}
          problem={at("cord")}
          hint={catalogue.cords.find((c) => c.key === layer.cord)?.note}
          onChange={set("cord")}
        />
      </div>
      <div className="col-span-full">
        <Choice
          label="Edge"
          value={layer.face}
          options={[
            { value: "both", label: "Front and rear" },
            { value: "front", label: "Front edge" },
            { value: "rear", label: "Rear edge" },
          ]}
          onChange={set("face")}
        />
      </div>
    </>
  );
}
