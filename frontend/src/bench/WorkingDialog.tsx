import { Dialog } from "radix-ui";
import { useRef } from "react";
import type { Band, Schemas } from "../api/client";
import { plain } from "../shared/units";

interface Props {
  working: Schemas["Working"];
  band: Band;
  unit: string;
  onClose: () => void;
}

/** How a figure came about: formula, numbers put in, band and its causes, sources, assumptions. */
export function WorkingDialog({ working, band, unit, onClose }: Props) {
  const opener = useRef(document.activeElement);
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
            <Dialog.Title className="text-xl font-bold">Working: {working.title}</Dialog.Title>
            <Dialog.Close className="key-button">Close</Dialog.Close>
          </div>
          <p className="mt-2">
            <span className="figure-type text-2xl">
              {plain(band.typ)} {unit}
            </span>{" "}
            <span className="text-soft">
              5–95 %: {plain(band.low)} to {plain(band.high)} {unit}
            </span>
          </p>
          {band.causes.length > 0 && (
            <p className="mt-1">The spread comes mostly from {band.causes.join(", then ")}.</p>
          )}
          <p className="figure-type mt-4 border-y border-ink py-3 text-lg">{working.formula}</p>
          <Dialog.Description className="mt-2 text-[0.9rem] text-soft">
            {working.explanation}
          </Dialog.Description>
          <table className="mt-4 w-full text-[0.9rem]">
            <caption className="label-type pb-1 text-left">Numbers put in</caption>
            <tbody>
              {working.symbols.map((s, i) => (
                <tr key={i} className="border-t border-rule align-top">
                  <th scope="row" className="py-1.5 pr-3 text-left font-semibold">
                    {s.symbol}
                  </th>
                  <td className="py-1.5 pr-3 text-soft">{s.meaning}</td>
                  <td className="figure-type py-1.5 text-right whitespace-nowrap">
                    {plain(s.value)} {s.unit}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <h3 className="label-type mt-5">Where the material values come from (low – typical – high)</h3>
          {working.sources.map((s) => (
            <div key={s.material} className="mt-2 border-t border-rule pt-2 text-[0.88rem] leading-snug">
              <p className="font-semibold">
                {s.material} <span className="font-normal text-soft">grade {s.grade}, reference</span>
              </p>
              {s.values.map((v) => (
                <p key={v}>{v}</p>
              ))}
              <p className="text-soft">{s.basis}</p>
            </div>
          ))}
          <h3 className="label-type mt-5">Assumptions</h3>
          <ul className="mt-1 list-disc pl-5 text-[0.88rem] leading-snug">
            {working.assumptions.map((a) => (
              <li key={a}>{a}</li>
            ))}
          </ul>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
