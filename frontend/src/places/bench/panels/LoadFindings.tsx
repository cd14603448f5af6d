import { useQuery } from "@tanstack/react-query";
import {
  api,
  must,
  type Airframe,
  type Band,
  type Estimate,
  type LoadCase,
  type Part,
} from "../../../api/client";
import { tagOf } from "../../../words/tags";
import { bare, place, plain, show, type Quantity } from "../../../forms/units";
import { Table } from "../../../words/Table";

interface ControlProps {
  part: Part;
  document: Airframe;
  chosen: LoadCase;
  estimate: Estimate | null;
  openWorking: (figure: string) => void;
}

const SHAKES = [
  ["flap_Hz", "Natural frequency, bending"],
  ["edge_Hz", "… fore and aft"],
  ["twist_Hz", "… twist"],
] as const;

/** A band with its unit. */
const written = (b: Band, unit: string) => `${plain(b.typ)} ${unit} (${plain(b.low, 2)}–${plain(b.high, 2)})`;

/** A band in the person's units. */
export const inKind = (b: Band, of: Quantity) =>
  `${show(b.typ, of)} (${bare(b.low, of, 2)}–${bare(b.high, of, 2)})`;

/** A figure whose working opens when it is pressed. */
function Row({ label, text, open }: { label: string; text: string; open: () => void }) {
  return (
    <button
      type="button"
      onClick={open}
      aria-label={`${label} ${text}, show working`}
      className="flex min-h-10 w-full items-center justify-between gap-3 border-b border-rule text-left hover:bg-pick-wash"
    >
      <span className="text-soft">{label}</span>
      <span className="figure-type whitespace-nowrap">{text}</span>
    </button>
  );
}

/** Frequencies, and the speeds that are cautions. */
export function Speeds(props: {
  shakes: NonNullable<Estimate["shakes"]>;
  openWorking: (figure: string) => void;
}) {
  const { shakes, openWorking } = props;
  return (
    <div className="mt-3 border-t border-ink">
      {SHAKES.map(([key, label]) => (
        <Row key={key} label={label} text={written(shakes[key], "Hz")} open={() => openWorking(key)} />
      ))}
      <Row
        label="Divergence speed"
        text={shakes.divergence_m_s ? inKind(shakes.divergence_m_s, "speed") : "none"}
        open={() => openWorking("divergence_m_s")}
      />
      {shakes.divergence_at_load_m_s && (
        <Row
          label="At this load, softened, from"
          text={inKind(shakes.divergence_at_load_m_s, "speed")}
          open={() => openWorking("divergence_m_s")}
        />
      )}
      {shakes.reversal_m_s && (
        <Row
          label="Control reversal speed"
          text={inKind(shakes.reversal_m_s, "speed")}
          open={() => openWorking("reversal_m_s")}
        />
      )}
      <p className="pt-2">{shakes.caution}</p>
    </div>
  );
}

/** What of a deflection arrives, and the same surface built in other ways. */
export function Control({ part, document, chosen, estimate, openWorking }: ControlProps) {
  const ways = useQuery({
    queryKey: ["surface-ways", tagOf(document), part.id, chosen.id],
    queryFn: () =>
      must(
        api.POST("/api/studies/surface-ways", { body: { document, part_id: part.id, case_id: chosen.id } }),
      ),
    enabled: false,
  });
  const control = estimate!.control!;
  return (
    <div className="mt-3 border-t border-ink">
      <Row
        label="Effective deflection"
        text={`${plain(100 * control.arrives.typ)} % (${plain(100 * control.arrives.low, 2)}–${plain(100 * control.arrives.high, 2)})`}
        open={() => openWorking("control")}
      />
      <Row
        label={control.run ? "Hinge moment" : "Servo torque needed"}
        text={inKind(control.servo_N_mm, "couple")}
        open={() => openWorking("control")}
      />
      {control.run && <RunRows run={control.run} openWorking={openWorking} />}
      <p className="flex min-h-10 items-center justify-between gap-3 border-b border-rule">
        <span className="text-soft">Best horn position</span>
        <span className="figure-type">{place(control.best_horn_mm)}</span>
      </p>
      <button type="button" className="key-button mt-3 w-full" onClick={() => void ways.refetch()}>
        {ways.isFetching ? "Comparing…" : "Compare other builds"}
      </button>
      {ways.isError && <p className="text-fail">The comparison failed. Try again.</p>}
      {ways.data && (
        <Table
          caption="This control surface in other constructions"
          heads={["Construction", "Mass, g", "Twist", "effective deflection", "breaks at"]}
          className="mt-2 text-small"
        >
          {ways.data.map((w) => (
            <tr key={w.name} className="border-b border-rule" title={w.sentence}>
              <th scope="row" className="py-1.5 text-left font-semibold">
                {w.name}
              </th>
              <td className="figure-type text-right">{plain(w.grams.typ)}</td>
              <td className="figure-type text-right">{plain(Math.abs(w.twist_deg.typ), 2)}°</td>
              <td className="figure-type text-right">{plain(100 * w.arrives.typ)} %</td>
              <td className="figure-type text-right">{plain(w.breaks_at.typ, 2)} ×</td>
            </tr>
          ))}
        </Table>
      )}
    </div>
  );
}

/** What the rod or wire to the horn bears, gives and needs. */
function RunRows(props: {
  run: NonNullable<NonNullable<Estimate["control"]>["run"]>;
  openWorking: (figure: string) => void;
}) {
  const { run } = props;
  const open = () => props.openWorking("run");
  return (
    <>
      <Row label="Pushrod force" text={inKind(run.push_N, "force")} open={open} />
      <Row label="Pushrod buckles at" text={inKind(run.buckles_N, "force")} open={open} />
      <Row label="Throw left after flex" text={written(scaled(run.left, 100), "%")} open={open} />
      <Row
        label="Servo torque with friction"
        text={`${inKind(run.servo_N_mm, "couple")}${run.servo_gives_N_mm == null ? "" : ` of ${show(run.servo_gives_N_mm, "couple")}`}`}
        open={open}
      />
      <Row
        label="Guides between ends"
        text={`${run.supports}, at most ${show(run.support_mm.low, "length")} apart`}
        open={open}
      />
      {run.says.map((text) => (
        <p key={text} className="mt-2 border-l-[3px] border-fail pl-3">
          {text}
        </p>
      ))}
    </>
  );
}

const scaled = (b: Band, k: number): Band => ({ ...b, typ: k * b.typ, low: k * b.low, high: k * b.high });
