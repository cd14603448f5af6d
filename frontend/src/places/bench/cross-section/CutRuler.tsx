import { Slider } from "radix-ui";
import type { Estimate, Schemas } from "../../../api/client";
import { readAt } from "../../../charts/interpolate";
import { bare, show, unitOf } from "../../../forms/units";

interface Props {
  estimate: Estimate;
  cut: Schemas["Cut"];
  cursor: number;
  setCursor: (y: number) => void;
}

/** Under the large cut: where it is made, and the table of everything in it. */
export function CutRuler({ estimate, cut, cursor, setCursor }: Props) {
  const { curves } = estimate;
  const label = (id: string) => estimate.lines.find((l) => l.id === id)?.label ?? "";
  const at = (values: number[]) => readAt(curves.y_mm, values, cursor) ?? 0;
  const rows = [
    ...cut.bars.map((b) => ({
      key: `${b.line_id}${b.side}`,
      name: label(b.line_id),
      where: `${b.side}, ${show(b.x_mm, "length", 4)} from the leading edge, ${show(Math.abs(b.z_mm), "length", 4)} ${b.z_mm < 0 ? "below" : "above"} the chord line`,
      size:
        b.shape === "flat"
          ? `${bare(b.width_mm, "length", 4)} × ${show(b.height_mm, "length", 4)}`
          : `⌀ ${show(b.width_mm, "length", 4)}`,
    })),
    ...cut.skins
      .filter((s) => s.wall || (s.face !== "front" && s.face !== "rear"))
      .map((s, i) => ({
        key: `${s.line_id}${s.face}${i}`,
        name: label(s.line_id),
        where: `${s.face}, from ${bare(s.points[0]![0], "length", 4)} to ${show(s.points.at(-1)![0], "length", 4)}`,
        size: `${show(s.thickness_mm, "length")} thick`,
      })),
  ];
  return (
    <div className="pb-4">
      <div className="flex items-center gap-4">
        <span className="label-type text-soft">root</span>
        <Slider.Root
          className="relative flex h-11 flex-1 touch-none items-center"
          value={[cursor]}
          min={0}
          max={Math.round(estimate.span_mm)}
          step={1}
          onValueChange={([v]) => setCursor(v!)}
        >
          <Slider.Track className="relative h-[3px] flex-1 bg-ink" />
          <Slider.Thumb
            aria-label="Cross-section position along the part"
            className="grid size-10 place-items-center rounded-full after:size-6 after:rounded-full after:border-[3px] after:border-pick after:bg-raised"
          />
        </Slider.Root>
        <span className="label-type text-soft">tip</span>
      </div>
      <table className="mt-1 w-full text-body">
        <caption className="sr-only">Everything in this cross-section</caption>
        <tbody>
          {rows.map((r) => (
            <tr key={r.key} className="border-t border-rule">
              <th scope="row" className="py-1 text-left font-semibold">
                {r.name}
              </th>
              <td className="px-3 text-soft">{r.where}</td>
              <td className="figure-type text-right whitespace-nowrap">{r.size}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-small text-soft">
        EI {show(at(curves.EI_N_mm2) / 1e6, "stiffness")}, fore and aft{" "}
        {show(at(curves.edge_EI_N_mm2) / 1e6, "stiffness")}, GJ {show(at(curves.GJ_N_mm2) / 1e6, "stiffness")}
        ; neutral line {show(at(curves.centroid_z_mm), "length")} above the chord line; axis leans{" "}
        {bare(at(curves.principal_deg), "angle")}
        {unitOf("angle")}.
      </p>
    </div>
  );
}
