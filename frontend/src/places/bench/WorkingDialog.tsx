import { Dialog } from "radix-ui";
import { useRef } from "react";
import type { Band, Estimate } from "../../api/client";
import { plain } from "../../forms/units";

interface Props {
  estimate: Estimate;
  /** The figure whose working is shown, as the estimate names it. */
  figure: string;
  onClose: () => void;
}

/** The band and unit of a figure; those that are a table of their own have none. */
function bandOf(estimate: Estimate, figure: string): { band: Band; unit: string } | null {
  const failure = estimate.failures.find((f) => f.figure === figure);
  if (failure) return { band: failure.comes_at, unit: "× this load" };
  const { shakes, control } = estimate;
  const percent = (b: Band): Band => ({ ...b, typ: 100 * b.typ, low: 100 * b.low, high: 100 * b.high });
  const found: Record<string, [Band | null | undefined, string]> = {
    mass: [estimate.mass_g, "g"],
    added: [estimate.added_g, "g"],
    bend: [estimate.deflection_mm, "mm"],
    twist: [estimate.twist_deg, "°"],
    balance: [estimate.balance_mm, "mm"],
    cost: [estimate.effort.cost, ""],
    hours: [estimate.effort.hours, "h"],
    control: [control && percent(control.arrives), "%"],
    flap_Hz: [shakes?.flap_Hz, "Hz"],
    edge_Hz: [shakes?.edge_Hz, "Hz"],
    twist_Hz: [shakes?.twist_Hz, "Hz"],
    divergence_m_s: [shakes?.divergence_m_s, "m/s"],
    reversal_m_s: [shakes?.reversal_m_s, "m/s"],
  };
  const [band, unit] = found[figure] ?? [null, ""];
  return band ? { band, unit } : null;
}

/** A formula or symbol with what follows an underscore set below the line. */
function Formula({ text }: { text: string }) {
  return text
    .split(/_([A-Za-z0-9′]+|\S)/)
    .map((piece, i) => (i % 2 ? <sub key={i}>{piece}</sub> : <span key={i}>{piece}</span>));
}

/** How a figure came about: formula, numbers put in, band and its causes, sources, assumptions. */
export function WorkingDialog({ estimate, figure, onClose }: Props) {
  const opener = useRef(document.activeElement);
  const working = estimate.workings.find((w) => w.figure === figure);
  const shown = bandOf(estimate, figure);
  if (!working) return null;
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-black/45" />
        <Dialog.Content
          onCloseAutoFocus={(e) => {
            e.preventDefault();
            if (opener.current instanceof HTMLElement) opener.current.focus();
          }}
          className="fixed top-0 right-0 z-30 h-dvh w-[min(36rem,96vw)] overflow-y-auto border-l border-ink bg-sheet p-7"
        >
          <div className="flex items-start justify-between gap-4">
            <Dialog.Title className="text-title font-bold">Working: {working.title}</Dialog.Title>
            <Dialog.Close className="key-button">Close</Dialog.Close>
          </div>
          {shown && (
            <p className="mt-2">
              <span className="figure-type text-figure">
                {plain(shown.band.typ)} {shown.unit}
              </span>{" "}
              <span className="text-soft">
                5–95 % range: {plain(shown.band.low)} to {plain(shown.band.high)} {shown.unit}
              </span>
            </p>
          )}
          {shown && shown.band.causes.length > 0 && (
            <p className="mt-1">The range comes mainly from {shown.band.causes.join(", then ")}.</p>
          )}
          <p className="figure-type mt-4 border-y border-ink py-3 text-lead">
            <Formula text={working.formula} />
          </p>
          <Dialog.Description className="mt-2 text-body text-soft">{working.explanation}</Dialog.Description>
          <table className="mt-4 w-full text-body">
            <caption className="label-type pb-1 text-left">Inputs</caption>
            <tbody>
              {working.symbols.map((s, i) => (
                <tr key={i} className="border-t border-rule align-top">
                  <th scope="row" className="py-1.5 pr-3 text-left font-semibold">
                    <Formula text={s.symbol} />
                  </th>
                  <td className="py-1.5 pr-3 text-soft">{s.meaning}</td>
                  <td className="figure-type py-1.5 text-right whitespace-nowrap">
                    {plain(s.value)} {s.unit}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <h3 className="label-type mt-5">Material values and their sources (low – typical – high)</h3>
          {estimate.sources.map((s) => (
            <div key={s.material} className="mt-2 border-t border-rule pt-2 text-small leading-snug">
              <p className="font-semibold">
                {s.material}{" "}
                <span className="font-normal text-soft">data quality {s.grade}, reference table</span>
              </p>
              {s.values.map((v) => (
                <p key={v}>{v}</p>
              ))}
              <p className="text-soft">{s.basis}</p>
            </div>
          ))}
          <h3 className="label-type mt-5">Assumptions</h3>
          <ul className="mt-1 list-disc pl-5 text-small leading-snug">
            {working.assumptions.map((a) => (
              <li key={a}>{a}</li>
            ))}
          </ul>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
