import { api, type Catalogue, type Part } from "../../../api/client";
import { Word } from "../../../words/Word";
import { show } from "../../../forms/units";
import { lineName } from "../../../part/edits";
import { useStudy, type Subject } from "../../../part/useStudy";

interface Props {
  subject: Subject;
  part: Part;
  catalogue: Catalogue;
  setSelected: (id: string) => void;
}

function care(off: number | null | undefined): string {
  if (off == null) return "not critical";
  if (off < 0.5) return "gauge, check twice";
  if (off < 2) return "measure carefully";
  if (off < 8) return "rule and pencil";
  return "by eye";
}

/** The millimetres that cost a twentieth, so that care goes where it matters. */
export function ExactView({ subject, part, catalogue, setSelected }: Props) {
  const study = useStudy("exactness", subject, (body, signal) =>
    api.POST("/api/studies/exactness", { body, signal }),
  );
  if (study.isError) return <p className="p-6 text-fail">Not computed. Correct the marked fields.</p>;
  if (!study.data) return <p className="p-6 text-soft">Moving each dimension slightly to see the effect…</p>;
  const longest = Math.max(1, ...study.data.map((t) => Math.min(t.off_mm ?? 0, 20)));
  return (
    <section className="px-5 py-3" aria-label="Tolerances">
      <h2 className="text-lead font-semibold">
        <Word k="tolerance">Tolerances</Word>
      </h2>
      <p className="max-w-prose text-body leading-snug text-soft">
        How far each dimension may be off before the margin, or the stiffness in this load case, drops by 5 %.
        The worse direction counts. Typical values.
      </p>
      {study.data.length === 0 && <p className="mt-4">No lay-up item here has a critical position.</p>}
      <table className={`mt-2 w-full text-body ${study.isFetching ? "stale" : ""}`}>
        <caption className="sr-only">Tolerance of each dimension, tightest first</caption>
        <thead className="label-type text-small text-soft">
          <tr className="border-b border-ink">
            <th scope="col" className="py-1 text-left">
              Item
            </th>
            <th scope="col" className="px-3 text-left">
              its
            </th>
            <th scope="col" className="px-3 text-right">
              Tolerance
            </th>
            <th scope="col" className="w-[22%] px-3 text-left">
              <span className="sr-only">drawn to scale</span>
            </th>
            <th scope="col" className="px-3 text-left">
              Beyond that
            </th>
            <th scope="col" className="pl-3 text-left">
              Measure by
            </th>
          </tr>
        </thead>
        <tbody>
          {study.data.map((t) => {
            const n = part.layers.findIndex((l) => l.id === t.line_id);
            const layer = part.layers[n];
            if (!layer) return null;
            return (
              <tr key={t.line_id + t.dimension} className="border-b border-rule">
                <th scope="row" className="py-1 text-left font-semibold">
                  <button
                    type="button"
                    className="min-h-10 text-left hover:underline"
                    onClick={() => setSelected(layer.id)}
                  >
                    {n + 1} · {lineName(layer, catalogue)}
                  </button>
                </th>
                <td className="px-3">{t.dimension}</td>
                <td className="figure-type px-3 text-right whitespace-nowrap">
                  {t.off_mm == null ? `over ${show(60, "length", 2)}` : show(t.off_mm, "length", 2)}
                </td>
                <td className="px-3">
                  {t.off_mm != null && (
                    <span className="flex h-4 items-center" aria-hidden="true">
                      <span className="h-3 w-px bg-ink" />
                      <span
                        className="h-[3px] bg-ink"
                        style={{ width: `${(100 * Math.min(t.off_mm, 20)) / longest}%` }}
                      />
                      <span className="h-3 w-px bg-ink" />
                    </span>
                  )}
                </td>
                <td className="px-3">{t.off_mm == null ? "–" : `${t.costs} (${t.way})`}</td>
                <td className="pl-3 text-soft">{care(t.off_mm)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
