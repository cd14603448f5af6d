import { type Schemas } from "../../api/client";
import { useSchools } from "../../api/queries";
import { Choice } from "../../forms/fields";

type Chosen = Schemas["GlueNeed"]["schools"];

/** Where practice disagrees: the builder's own school per topic, with both arguments and the test that would settle it. */
export function Schools({ chosen, set }: { chosen: Chosen; set: (chosen: Chosen) => void }) {
  const schools = useSchools();
  const pick = (key: string, side: string) => {
    const rest = Object.fromEntries(Object.entries(chosen ?? {}).filter(([k]) => k !== key));
    set((side ? { ...rest, [key]: side } : rest) as Chosen);
  };
  return (
    <details className="border-t border-rule pt-1">
      <summary className="label-type min-h-10 cursor-pointer py-2">
        Where builders disagree
        {Object.keys(chosen ?? {}).length > 0 && ` (${Object.keys(chosen ?? {}).length} chosen)`}
      </summary>
      <div className="grid gap-3">
        {schools.data?.map((s) => (
          <div key={s.key}>
            <Choice
              label={s.topic}
              value={chosen?.[s.key] ?? ""}
              options={[
                { value: "", label: "No preference" },
                { value: "one", label: s.one },
                { value: "other", label: s.other },
              ]}
              onChange={(side) => pick(s.key, side)}
            />
            <details>
              <summary className="min-h-8 cursor-pointer text-small text-soft">arguments</summary>
              <p className="text-small leading-snug">
                <strong>{s.one}:</strong> {s.one_argument}. <strong>{s.other}:</strong> {s.other_argument}.
              </p>
              <p className="mt-1 text-small leading-snug text-soft">
                How to find out: {s.settles} Otherwise: {s.default} (data quality {s.grade})
              </p>
            </details>
          </div>
        ))}
      </div>
    </details>
  );
}
