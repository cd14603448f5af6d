import type { BarLayer } from "../../../api/client";
import { Choice, NumberField, Tick } from "../../../forms/fields";
import type { FieldsProps } from "./BarFields";
import { barOptions } from "../../../part/materialOptions";
import { OwnWeight } from "./OwnWeight";

type Props = Pick<FieldsProps<BarLayer>, "layer" | "part" | "catalogue" | "at" | "set">;

const SPLICED = [
  { value: "side_by_side", label: "Overlapped side by side" },
  { value: "scarf", label: "scarfed" },
  { value: "sleeved", label: "Butted in a sleeve" },
  { value: "wrapped", label: "Split, bound with thread" },
] as const;

/** How a bar is made up: weighed, tapered, faced, sleeved, spliced. */
export function BarMakeUp({ layer, part, catalogue, at, set, flat }: Props & { flat: boolean }) {
  return (
    <details
      className="col-span-full"
      open={Boolean(
        layer.faced_with || layer.sleeve || layer.splices.length || layer.end_size_percent !== 100,
      )}
    >
      <summary className="label-type min-h-10 cursor-pointer py-2 text-body">
        Mass, taper, sleeve, splice
      </summary>
      <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
        <OwnWeight
          label="Measured mass, g/m"
          weighed={layer.weighed_g_per_m}
          table={catalogue.bar_g_per_m[layer.stock]}
          step={0.1}
          problem={at("weighed_g_per_m")}
          why="Weigh the very bar: in wood its weight tells its stiffness and strength."
          set={set("weighed_g_per_m")}
        />
        <NumberField
          label="Size at far end"
          value={layer.end_size_percent}
          quantity="percent"
          step={5}
          problem={at("end_size_percent")}
          hint="of size at start"
          onChange={set("end_size_percent")}
        />
        {flat && (
          <Choice
            label="Facing strips"
            value={layer.faced_with ?? ""}
            options={[
              { value: "", label: "nothing" },
              ...barOptions(catalogue, (b) => b.shape === "flat" && b.key !== layer.stock),
            ]}
            problem={at("faced_with")}
            onChange={(v) => set("faced_with")(v || null)}
          />
        )}
        <Sleeve {...{ layer, part, catalogue, at, set }} />
        <Splices {...{ layer, part, at, set }} />
      </div>
    </details>
  );
}

const middleOf = ({ layer, part }: Pick<Props, "layer" | "part">) =>
  Math.round((layer.start_mm + (layer.end_mm ?? part.span_mm)) / 2);

function Sleeve({ layer, part, catalogue, at, set }: Props) {
  return (
    <>
      <div className="col-span-full">
        <Choice
          label="Sleeve over or core inside"
          value={layer.sleeve?.stock ?? ""}
          options={[{ value: "", label: "none" }, ...barOptions(catalogue, (b) => b.shape !== "flat")]}
          problem={at("sleeve.stock") ?? at("sleeve.start_mm")}
          onChange={(v) =>
            set("sleeve")(
              v
                ? {
                    stock: v,
                    start_mm: layer.sleeve?.start_mm ?? layer.start_mm,
                    end_mm: layer.sleeve?.end_mm ?? middleOf({ layer, part }),
                  }
                : null,
            )
          }
        />
      </div>
      {layer.sleeve && (
        <>
          <NumberField
            label="Sleeve from"
            value={layer.sleeve.start_mm}
            quantity="length"
            step={5}
            onChange={(v) => set("sleeve")({ ...layer.sleeve!, start_mm: v })}
          />
          <NumberField
            label="Sleeve to"
            value={layer.sleeve.end_mm}
            quantity="length"
            step={5}
            onChange={(v) => set("sleeve")({ ...layer.sleeve!, end_mm: v })}
          />
        </>
      )}
    </>
  );
}

function Splices({ layer, part, at, set }: Omit<Props, "catalogue">) {
  return (
    <>
      {layer.splices.map((s, i) => {
        const put = (changed: Partial<typeof s> | null) =>
          set("splices")(
            layer.splices.flatMap((o, n) => (n !== i ? [o] : changed === null ? [] : [{ ...o, ...changed }])),
          );
        return (
          <div key={i} className="col-span-full grid grid-cols-2 gap-x-4 gap-y-2">
            <NumberField
              label={`Splice ${i + 1} position`}
              value={s.at_mm}
              quantity="length"
              step={5}
              problem={at(`splices[${i}].at_mm`)}
              onChange={(v) => put({ at_mm: v })}
            />
            <NumberField
              label="Overlap"
              value={s.overlap_mm}
              quantity="length"
              step={5}
              problem={at(`splices[${i}].overlap_mm`)}
              onChange={(v) => put({ overlap_mm: v })}
            />
            <Choice
              label={`Splice ${i + 1} type`}
              value={s.how}
              options={SPLICED}
              problem={at(`splices[${i}].how`)}
              onChange={(how) => put({ how })}
            />
            {layer.place === "pair" && s.how !== "wrapped" && (
              <NumberField
                label="Lower one nearer root"
                value={s.stagger_mm}
                quantity="length"
                step={5}
                problem={at(`splices[${i}].stagger_mm`)}
                hint="by so much, so that both are not joined at one place"
                onChange={(v) => put({ stagger_mm: v })}
              />
            )}
            {s.how === "sleeved" && (
              <div className="col-span-full">
                <Tick
                  label="Thread bound round the mouths of the tube"
                  checked={s.bound}
                  onChange={(bound) => put({ bound })}
                />
              </div>
            )}
            <button type="button" className="key-button col-span-full" onClick={() => put(null)}>
              Remove splice {i + 1}
            </button>
          </div>
        );
      })}
      {layer.splices.length < 4 && (
        <button
          type="button"
          className="key-button col-span-full"
          onClick={() =>
            set("splices")([
              ...layer.splices,
              {
                at_mm: middleOf({ layer, part }),
                overlap_mm: 60,
                how: "side_by_side",
                bound: false,
                stagger_mm: 0,
              },
            ])
          }
        >
          Add a splice
        </button>
      )}
    </>
  );
}
