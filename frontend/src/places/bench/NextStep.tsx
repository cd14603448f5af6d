import { useEffect, useRef, useState } from "react";
import { api, problemsOf, type Estimate, type Part, type Schemas } from "../../api/client";
import { show } from "../../forms/units";

interface Props {
  estimate: Estimate;
  subject: Schemas["Study"];
  take: (part: Part) => void;
}

/** Above this low end of the margin a lay-up has more than it needs. */
const PLENTY = 1.25;

/** What a lay-up is, to see whether it is still the one that was spoken of. */
const layupOf = (part: Part) => JSON.stringify([part.foam, part.section, part.layers]);

/** What to do next about the verdict by one press: sized from stock so that it holds, or as light as holds. What was
 * done is told until the part changes again; undo takes it back. */
export function NextStep({ estimate, subject, take }: Props) {
  const [says, setSays] = useState<{ of: string; text: string } | null>(null);
  const [busy, setBusy] = useState(false);
  const part = subject.document.parts?.find((p) => p.id === subject.part_id);
  const worst = estimate.verdicts.find((v) => v.case_id === estimate.governs);
  const latest = useRef(part);
  useEffect(() => {
    latest.current = part;
  }, [part]);
  if (!part || !worst || !worst.limited || (part.damage ?? []).length > 0) return null;
  const told = says?.of === layupOf(part) ? says : null;
  const holds = worst.enough === "sure";
  const label = !holds ? "Make it hold" : worst.margin.low > PLENTY ? "Make it lighter" : null;
  const size = async () => {
    setBusy(true);
    const { data, error } = await api.POST("/api/studies/sized", { body: subject });
    setBusy(false);
    if (!data) {
      setSays({ of: layupOf(part), text: problemsOf(error)[0]!.message });
      return;
    }
    if (latest.current !== part) {
      const now = latest.current;
      setSays(now ? { of: layupOf(now), text: "The part changed meanwhile: press again." } : null);
      return; // what was typed while it was sized stays
    }
    const by = `${data.grams < 0 ? "−" : "+"}${show(Math.abs(data.grams), "mass", 2)}`;
    const done = data.says.length ? `${data.says.join("; ")}: ${by}` : "Nothing from stock would be better";
    if (data.says.length) take(data.part);
    setSays({
      of: layupOf(data.part),
      text: data.holds ? `${done}.` : `${done}. Still short: ${data.short}.`,
    });
  };
  return (
    <>
      {label && (
        <button type="button" className="key-button" disabled={busy} onClick={() => void size()}>
          {busy ? "Sizing…" : label}
        </button>
      )}
      {told && (
        <span role="status" className="min-w-0 truncate text-small" title={told.text}>
          {told.text}
        </span>
      )}
      {!told && worst.case_id !== estimate.case_id && (
        <span className="min-w-0 truncate text-small text-soft">
          Worst load case: <strong className="text-ink">{worst.name}</strong>, {worst.enough}
        </span>
      )}
    </>
  );
}
