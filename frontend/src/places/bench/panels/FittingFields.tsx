import type { Layer } from "../../../api/client";
import { Choice, NumberField, OptionalNumber, Tick } from "../../../forms/fields";
import { bare, show, unitOf } from "../../../forms/units";
import type { FieldsProps } from "./BarFields";
import { optionsOf } from "../../../part/materialOptions";

const FACES = [
  { value: "lower", label: "Lower face" },
  { value: "upper", label: "Upper face" },
  { value: "through", label: "Right through" },
  { value: "inside", label: "Inside" },
] as const;

/** Something from stock that the part carries. */
export function FittingFields({
  layer,
  catalogue,
  at,
  set,
}: FieldsProps<Extract<Layer, { type: "fitting" }>>) {
  const stock = catalogue.fittings.find((f) => f.key === layer.stock);
  const sizes = stock && [stock.long_mm, stock.wide_mm, stock.high_mm].filter((v) => v > 0);
  return (
    <>
      <div className="col-span-full">
        <Choice
          label="Stock item"
          value={layer.stock}
          options={optionsOf(catalogue.fittings)}
          problem={at("stock")}
          hint={
            stock &&
            `${sizes!.map((v) => bare(v, "length")).join(" × ")} ${unitOf("length")}, ${show(stock.mass_g.typ, "mass")}${stock.long_mm ? "" : " per metre"}; estimate, data quality ${stock.grade}`
          }
          onChange={set("stock")}
        />
      </div>
      <Choice
        label="Position"
        value={layer.face}
        options={FACES}
        problem={at("face")}
        onChange={set("face")}
      />
      <OptionalNumber
        label="Your measurement"
        value={layer.weighed_g ?? null}
        quantity="mass"
        problem={at("weighed_g")}
        onChange={set("weighed_g")}
      />
      <div className="col-span-full grid gap-1">
        <Tick label="Recessed in foam" checked={layer.pocket} onChange={set("pocket")} />
        <Tick label="On its narrow side" checked={layer.upright} onChange={set("upright")} />
      </div>
      {layer.pocket && (
        <NumberField
          label="Clearance around it"
          value={layer.clearance_mm}
          quantity="length"
          step={0.5}
          problem={at("clearance_mm")}
          onChange={set("clearance_mm")}
        />
      )}
    </>
  );
}
