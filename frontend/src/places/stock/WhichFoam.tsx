import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { accepted } from "../../api/changes";
import { api, Refused, type Schemas } from "../../api/client";
import { useFoamTests } from "../../api/queries";
import { OptionalNumber } from "../../forms/fields";
import { plain } from "../../forms/units";
import { worded } from "../../part/materialOptions";
import { ProblemList } from "../../words/ProblemList";
import { tagOf } from "../../words/tags";

type Seen = Schemas["FoamSeen"];
type Test = Schemas["FoamTest"];

const SIZES = [
  ["length_mm", "Block, length", "length"],
  ["width_mm", "Block, width", "length"],
  ["thick_mm", "Block, thickness", "length"],
  ["grams", "Block, weight", "mass"],
] as const;

/** Which foam is this? What it does says which family, its weight says how dense. */
export function WhichFoam() {
  const tests = useFoamTests().data ?? [];
  const [seen, setSeen] = useState<Seen>({ answers: {} });
  const guess = useQuery({
    queryKey: ["which-foam", tagOf(seen)],
    queryFn: async ({ signal }) =>
      (await accepted(api.POST("/api/stock/which-foam", { body: seen, signal })))!,
    retry: false,
    placeholderData: keepPreviousData,
  });
  const problems = guess.error instanceof Refused ? guess.error.problems : [];
  const answer = (test: string, key: string | null) =>
    setSeen((now) => {
      const answers = { ...now.answers };
      if (key === null) delete answers[test];
      else answers[test] = key;
      return { ...now, answers };
    });
  const told = guess.data;
  return (
    <section
      aria-label="Which foam is this?"
      className="grid gap-x-12 py-3 lg:grid-cols-[minmax(0,1fr)_24rem]"
    >
      <div>
        {tests.map((t) => (
          <OneTest
            key={t.test}
            test={t}
            given={seen.answers?.[t.test] ?? null}
            next={told?.next_test === t.test}
            answer={(key) => answer(t.test, key)}
          />
        ))}
        <fieldset className="mt-5">
          <legend className="font-semibold">Weigh a block that is cut square</legend>
          <div className="grid grid-cols-2 gap-3 pt-1 sm:grid-cols-4">
            {SIZES.map(([key, name, quantity]) => (
              <OptionalNumber
                key={key}
                label={name}
                value={seen[key] ?? null}
                quantity={quantity}
                problem={problems.find((p) => p.path.endsWith(key))}
                onChange={(v) => setSeen((now) => ({ ...now, [key]: v }))}
              />
            ))}
          </div>
        </fieldset>
      </div>
      <div aria-live="polite" className="max-lg:mt-6">
        {problems.length > 0 && (
          <div role="alert" className="text-fail">
            <ProblemList problems={problems} />
          </div>
        )}
        {told && (
          <>
            <p className="text-title leading-snug font-bold">{told.says}</p>
            {told.density_kg_m3 != null && (
              <p className="pt-1">
                Density <span className="figure-type">{plain(told.density_kg_m3, 3)} kg/m³</span>
              </p>
            )}
            <table className="mt-3 w-full text-body">
              <caption className="sr-only">Odds by family of foam</caption>
              <tbody>
                {told.odds.map((o) => (
                  <tr key={o.family} className="border-b border-rule">
                    <th scope="row" className="py-1.5 text-left font-semibold">
                      {o.name}
                      <span className="block text-small font-normal text-soft">
                        {told.density_kg_m3 == null ? "or another density of" : "nearest density of"}{" "}
                        {worded(o.family)}
                      </span>
                    </th>
                    <td className="w-28 pl-3">
                      <span
                        aria-hidden="true"
                        className="block h-2.5 bg-ink"
                        style={{ width: `${Math.max(100 * o.odds, 1)}%` }}
                      />
                    </td>
                    <td className="figure-type w-24 pl-3 text-right">
                      {o.odds < 0.01 ? "under 1" : plain(100 * o.odds, 2)} %
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </div>
    </section>
  );
}

interface TestProps {
  test: Test;
  given: string | null;
  next: boolean;
  answer: (key: string | null) => void;
}

function OneTest({ test: t, given, next, answer }: TestProps) {
  return (
    <fieldset className={`mt-4 border-l-2 pl-3 ${next ? "border-pick" : "border-rule"}`}>
      <legend className="contents">
        <span className="font-semibold">{t.asks}</span>
        {next && <span className="text-pick"> tells the most now</span>}
      </legend>
      {t.caution && <p className="text-small text-fail">⚠ {t.caution}</p>}
      <div className="flex flex-wrap gap-2 pt-1">
        {Object.entries(t.answers).map(([key, says]) => (
          <button
            key={key}
            type="button"
            aria-pressed={given === key}
            className={given === key ? "key-main" : "key-button"}
            onClick={() => answer(given === key ? null : key)}
          >
            {says}
          </button>
        ))}
      </div>
    </fieldset>
  );
}
