import type { Schemas } from "../api/client";

/** Cautions where the work is: what to mind, what protects, whom to ask. */
export function Cautions({ cautions }: { cautions: Schemas["Caution"][] }) {
  if (cautions.length === 0) return null;
  return (
    <>
      <h2 className="mt-6 border-b border-ink text-lead font-semibold">Safety while building</h2>
      <ul className="text-body">
        {cautions.map((c) => (
          <li key={c.key} className="border-b border-rule pt-1.5">
            <details>
              <summary className="min-h-8 cursor-pointer leading-snug">
                <strong className={c.severity > 2 ? "text-fail" : ""}>
                  {c.severity > 2 && "⚠ "}
                  {c.hazard}
                </strong>
                <span className="text-soft"> · {c.protect}</span>
              </summary>
              <p className="max-w-prose leading-snug">
                {c.caution} <span className="text-soft">{c.defer}</span>
              </p>
            </details>
          </li>
        ))}
      </ul>
    </>
  );
}

/** Cautions in full, beside what they belong to. */
export function CautionLines({ cautions }: { cautions: Schemas["Caution"][] }) {
  return cautions.map((c) => (
    <p key={c.key} className="mt-1.5 border-l-[3px] border-fail pl-2 text-small">
      <strong>{c.hazard}.</strong> {c.caution}{" "}
      <span className="text-soft">
        Protection: {c.protect}. {c.defer}
      </span>
    </p>
  ));
}
