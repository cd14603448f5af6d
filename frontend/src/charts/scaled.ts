import type { Band, Estimate } from "../api/client";

const band = (b: Band, k: number): Band => ({ ...b, typ: b.typ * k, low: b.low * k, high: b.high * k });

/** The drawn state at another multiple of the load: bends, moments and shares of strength grow in proportion. */
export function scaled(estimate: Estimate, k: number): Estimate {
  if (k === 1) return estimate;
  const times = (values: number[]) => values.map((v) => v * k);
  const { curves } = estimate;
  return {
    ...estimate,
    measure: { ...estimate.measure, value: estimate.measure.value * k },
    deflection_mm: band(estimate.deflection_mm, k),
    modes: estimate.modes.map((m) => ({ ...m, use: times(m.use) })),
    lines: estimate.lines.map((l) => ({ ...l, use: times(l.use) })),
    curves: {
      ...curves,
      moment_N_mm: times(curves.moment_N_mm),
      shear_N: times(curves.shear_N),
      torque_N_mm: times(curves.torque_N_mm),
      deflection_mm: times(curves.deflection_mm),
      deflection_low_mm: times(curves.deflection_low_mm),
      deflection_high_mm: times(curves.deflection_high_mm),
      twist_deg: times(curves.twist_deg),
      use: times(curves.use),
    },
  };
}
