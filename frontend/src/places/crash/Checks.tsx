import { type Schemas } from "../../api/client";
import { useMeasure } from "../../api/changes";
import { OptionalNumber } from "../../forms/fields";
import { plain, show, type Quantity } from "../../forms/units";
import { NotStored } from "../../words/NotStored";
import { ofWords, Table } from "../../words/Table";

/** The checks of a mended part: what is foreseen, what was measured, whether it passes. Open until it was measured. */
export function Checks({ job, airframeId }: { job: Schemas["JobOut"]; airframeId: string }) {
  const measure = useMeasure(airframeId);
  return (
    <>
      <h3 className="mt-4 border-b border-ink font-semibold">Check it before it flies</h3>
      <NotStored change={measure} what="The check" />
      <Table
        caption="Checks with what is foreseen and what was measured"
        heads={["check", "other half", "repaired half", "measured", ofWords("passes"), ofWords("Stop if")]}
      >
        {job.checks.map((c) => (
          <tr key={c.what} className="border-b border-rule align-top">
            <th scope="row" className="py-1 text-left font-normal">
              <strong>{c.what}</strong>
              <span className="block text-small text-soft">{c.how}</span>
            </th>
            <Foreseen band={c.whole} unit={c.unit} />
            <Foreseen band={c.mended} unit={c.unit} />
            <td className="w-36 py-1 pl-3">
              <OptionalNumber
                label={`${c.what}, measured`}
                value={c.value}
                quantity={QUANTITY[c.unit] ?? "plain"}
                onChange={(value) => measure.mutate({ job, check: c, value })}
              />
            </td>
            <td className="py-1 pl-3 whitespace-nowrap">
              {c.holds === null ? (
                <span className="text-soft">not measured yet</span>
              ) : c.holds ? (
                "✓ passes"
              ) : (
                <strong className="text-fail">✕ does not pass</strong>
              )}
            </td>
            <td className="py-1 pl-3 leading-snug">{c.stop}</td>
          </tr>
        ))}
      </Table>
    </>
  );
}

const QUANTITY: Record<string, Quantity> = { mm: "length", g: "mass", "°": "angle" };

/** A figure whose unit the core names, as it is read. */
function withUnit(value: number, unit: string): string {
  const quantity = QUANTITY[unit];
  return quantity ? show(value, quantity) : `${plain(value, 3)} ${unit}`.trim();
}

function Foreseen({ band, unit }: { band: Schemas["Band"] | null; unit: string }) {
  if (!band) return <td className="py-1 pl-3 text-right text-soft">the same</td>;
  return (
    <td className="py-1 pl-3 text-right whitespace-nowrap">
      <span className="figure-type">{withUnit(band.typ, unit)}</span>
      <span className="block text-note text-soft">
        {withUnit(band.low, unit)} – {withUnit(band.high, unit)}
      </span>
    </td>
  );
}
