import type { Estimate } from "../../../api/client";
import { Plot, type Series } from "../../../charts/Plot";
import { bare, plain, shownValue, unitOf, type Quantity } from "../../../forms/units";

interface Props {
  estimate: Estimate;
  cursor: number;
  setCursor: (y: number) => void;
  name: string;
}

const LINES: Series["line"][] = ["full", "dashed", "dotted", "thin"];
const TONES: Series["tone"][] = ["ink", "pick", "fail"];
const ASKED: Record<string, string> = {
  bend: "Bending moment",
  swing: "Fore-and-aft bending moment",
  twist: "Torque",
};

/** What runs along the part: asked for and carried, bend, twist, and the share of strength by way to give. */
export function PlotsView({ estimate, cursor, setCursor, name }: Props) {
  const { curves, safety_factor } = estimate;
  const in_ =
    (quantity: Quantity, k = 1) =>
    (v: number | null) =>
      v === null ? null : shownValue(v * k, quantity);
  const moment = in_("moment", 1e-3);
  const force = in_("force");
  const length = in_("length");
  const asked = curves.moment_N_mm.map((m) => moment(Math.abs(m) * safety_factor));
  const peak = Math.max(...asked.map((m) => m ?? 0));
  const file = (what: string) =>
    `${name} ${what}`
      .toLowerCase()
      .replaceAll(/[^a-z0-9]+/g, "-")
      .replaceAll(/^-|-$/g, "");
  const shared = {
    x: curves.y_mm.map((y) => shownValue(y, "length")),
    xTitle: `from the root, ${unitOf("length")}`,
    xWritten: (v: number) => plain(v, 4),
    written: (v: number) => plain(v, 3),
    cursor: shownValue(cursor, "length"),
    setCursor: (v: number) => setCursor(v / shownValue(1, "length")),
  };
  const modes: Series[] = estimate.modes.slice(0, 6).map((m, i) => ({
    label: m.label,
    values: m.use.map((u) => 100 * u),
    line: LINES[Math.floor(i / 2) % LINES.length]!,
    tone: TONES[i % 2 === 0 ? 0 : 1]!,
  }));
  return (
    <section className="px-5 pb-6" aria-label="Plots along the part">
      <Plot
        {...shared}
        title={`${ASKED[estimate.reads] ?? "Bending moment"}: needed and strength`}
        unit={unitOf("moment")}
        most={3 * peak}
        fileName={file("moment")}
        series={[
          { label: `needed (load × ${plain(safety_factor)})`, values: asked, line: "filled", tone: "pick" },
          {
            label: "strength",
            values: curves.capacity_N_mm.map(moment),
            line: "full",
            tone: "ink",
            band: { low: curves.capacity_low_N_mm.map(moment), high: curves.capacity_high_N_mm.map(moment) },
          },
        ]}
      />
      <Plot
        {...shared}
        title="Strength used by failure, with safety factor"
        unit="%"
        most={250}
        fileName={file("strength-used")}
        series={[
          ...modes,
          { label: "100 %", values: curves.y_mm.map(() => 100), line: "thin", tone: "fail" },
        ]}
      />
      <Plot
        {...shared}
        title="Shear force (magnitude)"
        unit={unitOf("force")}
        fileName={file("shear")}
        series={[{ label: "shear", values: curves.shear_N.map(force), line: "filled", tone: "ink" }]}
      />
      <Plot
        {...shared}
        title={estimate.reads === "swing" ? "Fore-and-aft deflection" : "Deflection"}
        unit={unitOf("length")}
        fileName={file("bend")}
        series={[
          {
            label: "bend",
            values: curves.deflection_mm.map(length),
            line: "full",
            tone: "ink",
            band: { low: curves.deflection_low_mm.map(length), high: curves.deflection_high_mm.map(length) },
          },
        ]}
      />
      {estimate.twist_deg && (
        <Plot
          {...shared}
          title="Twist (nose up positive)"
          unit="°"
          fileName={file("twist")}
          series={[{ label: "twist", values: curves.twist_deg, line: "full", tone: "ink" }]}
        />
      )}
      {estimate.twist_deg && estimate.reads !== "twist" && (
        <Plot
          {...shared}
          title="Torque"
          unit={unitOf("moment")}
          fileName={file("torque")}
          series={[{ label: "torque", values: curves.torque_N_mm.map(moment), line: "filled", tone: "ink" }]}
        />
      )}
      <p className="pt-2 text-small text-soft">
        Shaded: 5–95 % range. Largest deflection{" "}
        {bare(Math.max(...curves.deflection_mm.map(Math.abs)), "length")} {unitOf("length")}. Move the
        pointer, or focus a plot and use the arrow keys.
      </p>
    </section>
  );
}
