import type { Schemas } from "../../api/client";
import { plain, show } from "../../forms/units";
import { SIGN } from "../../words/grades";
import { Scrolling } from "../../words/Scrolling";
import { Table } from "../../words/Table";
import { Word } from "../../words/Word";

/** Targets, sideways balance, thrust line and inertia of the whole airframe. */
export function Handling({ sheet: s }: { sheet: Schemas["BalanceSheet"] }) {
  return (
    <section aria-label="How it handles" className="mt-6">
      <h2 className="border-b border-ink pb-1 font-semibold">How it handles</h2>
      {s.targets.length > 0 && <Targets targets={s.targets} />}
      {s.versions.length > 0 && <Versions sheet={s} />}
      <dl className="text-body leading-snug">
        <Item name="Sideways">{s.sideways.says}</Item>
        {s.thrust && (
          <Item name="Thrust line">
            {s.thrust.says}{" "}
            <span className="text-soft">
              Full thrust {show(s.thrust.thrust_N, "force", 2)}, {plain(s.thrust.per_weight, 2)} of the weight
              {Math.abs(s.thrust.pitch_N_mm) >= 1 &&
                `; it turns the nose ${s.thrust.pitch_N_mm > 0 ? "up" : "down"} with ${show(Math.abs(s.thrust.pitch_N_mm), "couple", 2)}`}
              .
            </span>
          </Item>
        )}
        <Item name={<Word k="inertia">Inertia</Word>}>
          {s.inertia.says}{" "}
          <span className="text-soft">
            Roll {plain(1000 * s.inertia.roll_kg_m2, 2)}, pitch {plain(1000 * s.inertia.pitch_kg_m2, 2)}, yaw{" "}
            {plain(1000 * s.inertia.yaw_kg_m2, 2)} g·m². To check: hung level on two strings{" "}
            {show(1000, "length")} long and {show(300, "length")} apart, one swing in yaw lasts{" "}
            {plain(s.inertia.swing_s, 2)} s.
          </span>
        </Item>
      </dl>
    </section>
  );
}

function Item({ name, children }: { name: React.ReactNode; children: React.ReactNode }) {
  return (
    <div className="grid grid-cols-[6rem_minmax(0,1fr)] gap-x-3 border-b border-rule py-2">
      <dt className="label-type text-small text-soft">{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}

/** Versions side by side; the one that all else is about is marked. */
function Versions({ sheet: s }: { sheet: Schemas["BalanceSheet"] }) {
  return (
    <>
      <Scrolling label="Versions">
        <Table
          caption="Versions"
          heads={["Version", "mass", "balances at", "battery at", "wing loading", "stall", "thrust / weight"]}
          className="mb-1"
        >
          {s.versions.map((v) => (
            <tr
              key={v.name}
              aria-current={v.name === s.version ? "true" : undefined}
              className="border-b border-rule aria-[current]:font-bold"
            >
              <th scope="row" className="py-1 text-left font-[inherit]">
                {v.name === s.version ? "▸ " : ""}
                {v.name}
              </th>
              {[
                show(v.mass_g, "mass", 3),
                show(v.centre_mm, "length", 3),
                v.battery_mm == null ? "–" : show(v.battery_mm, "length", 3),
                v.loading_g_dm2 == null ? "–" : `${plain(v.loading_g_dm2, 3)} g/dm²`,
                v.stall_m_s == null ? "–" : show(v.stall_m_s, "speed", 2),
                v.thrust_per_weight == null ? "–" : plain(v.thrust_per_weight, 2),
              ].map((text, n) => (
                <td key={n} className="figure-type py-1 pl-3 text-right whitespace-nowrap">
                  {text}
                </td>
              ))}
            </tr>
          ))}
        </Table>
      </Scrolling>
      {s.bay_of_all && <p className="pb-2 text-body leading-snug">{s.bay_of_all}</p>}
    </>
  );
}

function Targets({ targets }: { targets: Schemas["TargetAt"][] }) {
  return (
    <Table caption="Targets" heads={["Target", "foreseen", "5 – 95 %"]} className="mb-1">
      {targets.map((t) => (
        <tr key={t.name} className="border-b border-rule align-top">
          <th scope="row" className="py-1 text-left leading-snug font-normal">
            <span className={t.grade === "no" ? "font-bold text-fail" : ""}>
              {SIGN[t.grade]} {t.name}
            </span>
            <span className="block text-small text-soft">{t.says}</span>
          </th>
          <td className="figure-type py-1 pl-3 text-right whitespace-nowrap">
            {plain(t.band.typ, 3)} {t.unit}
          </td>
          <td className="py-1 pl-3 text-right text-small whitespace-nowrap text-soft">
            {plain(t.band.low, 3)} – {plain(t.band.high, 3)}
          </td>
        </tr>
      ))}
    </Table>
  );
}
