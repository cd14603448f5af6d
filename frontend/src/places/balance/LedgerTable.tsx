import type { Schemas } from "../../api/client";
import { bare, plain, show, unitOf } from "../../forms/units";
import { Scrolling } from "../../words/Scrolling";
import { Table } from "../../words/Table";

const GROUPS: Record<string, string> = {
  foam: "Foam and ribs",
  spars: "Spars",
  skins: "Skins and sheets",
  glue: "Glue",
  paint: "Paint and filler",
  hardware: "Hardware",
  equipment: "Equipment",
  "not listed": "Not listed",
};

/** Every gram by group, with its place and its price at the nose. */
export function LedgerTable({ sheet }: { sheet: Schemas["BalanceSheet"] }) {
  return (
    <section aria-label="Mass ledger" className="mt-6">
      <h2 className="border-b border-ink pb-1 font-semibold">Mass ledger</h2>
      {sheet.groups.map((g) => (
        <details key={g.group} className="border-b border-rule">
          <summary className="grid min-h-11 cursor-pointer grid-cols-[minmax(0,1fr)_5rem_7rem] items-center gap-x-3 hover:bg-pick-wash">
            <span className="font-semibold">{GROUPS[g.group] ?? g.group}</span>
            <span className="figure-type text-right">{show(g.grams.typ, "mass")}</span>
            <span className="text-right text-small text-soft">
              {bare(g.grams.low, "mass")} – {bare(g.grams.high, "mass")}
            </span>
          </summary>
          <Scrolling label={GROUPS[g.group] ?? g.group}>
            <Table
              caption={`Items of ${GROUPS[g.group] ?? g.group}`}
              heads={["Item", "mass", `aft of datum, ${unitOf("length")}`, "nose grams per gram"]}
              className="mb-3"
            >
              {sheet.lines
                .filter((l) => l.group === g.group)
                .map((l, i) => (
                  <tr key={l.name + i} className="border-b border-rule align-top">
                    <th scope="row" className="py-1 text-left leading-snug font-normal">
                      {l.name}
                    </th>
                    <td className="py-1 pl-3 text-right whitespace-nowrap">
                      <span className="figure-type">{show(l.grams.typ, "mass", 3)}</span>
                      <span className="block text-note text-soft">
                        {bare(l.grams.low, "mass", 2)} – {bare(l.grams.high, "mass", 2)}
                      </span>
                    </td>
                    <td className="figure-type py-1 pl-3 text-right">{bare(l.x_mm, "length", 4)}</td>
                    <td className="py-1 pl-3 text-right">{l.price == null ? "–" : plain(l.price, 2)}</td>
                  </tr>
                ))}
            </Table>
          </Scrolling>
        </details>
      ))}
      <p className="pt-2 text-small text-soft">
        Glue along spars is reckoned where none is entered. Glue under skins, and leads without an item, are
        in the 2 % for what is not listed.
      </p>
    </section>
  );
}
