import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { accepted } from "../../api/changes";
import { api, Refused, type Airframe, type Schemas } from "../../api/client";
import { plain, show } from "../../forms/units";
import { SIGN } from "../../words/grades";
import { tagOf } from "../../words/tags";

interface Props {
  airframeId: string;
  document: Airframe;
  edit: (change: (d: Airframe) => Airframe) => void;
}

type Way = Schemas["LighterWay"];

const withPart = (d: Airframe, part: Way["part"]): Airframe => ({
  ...d,
  parts: (d.parts ?? []).map((p) => (p.id === part.id ? part : p)),
});

/** Grams to take off the heavy side of the structure, each with what it loses; computed on request. */
export function LighterParts({ airframeId, document, edit }: Props) {
  const [asked, ask] = useState<Airframe | null>(null);
  const found = useQuery({
    queryKey: ["lighter", asked && tagOf(asked)],
    queryFn: async ({ signal }) =>
      (await accepted(
        api.POST("/api/studies/lighter", { body: { document: asked!, airframe_id: airframeId }, signal }),
      ))!,
    enabled: asked !== null,
    retry: false,
    gcTime: 60_000,
  });
  const current = asked !== null && tagOf(asked) === tagOf(document);
  return (
    <section aria-label="Lighter structure" className="mt-6">
      <div className="flex items-end justify-between gap-3 border-b border-ink pb-1">
        <h2 className="font-semibold">Lighter structure</h2>
        {!current && (
          <button type="button" className="key-button print:hidden" onClick={() => ask(document)}>
            Find what could be lighter
          </button>
        )}
      </div>
      {asked === null && (
        <p className="py-2 text-small leading-snug text-soft">
          Thinner stock, peeled paper, tape left out or an opened belly on the heavy side, each with what it
          does to the strength.
        </p>
      )}
      <div aria-busy={found.isFetching} className={asked && !current ? "stale" : ""}>
        {found.isFetching && (
          <p role="status" className="py-2 text-soft">
            Computing each change…
          </p>
        )}
        {found.isError && (
          <p role="alert" className="py-2 text-fail">
            {found.error instanceof Refused ? found.error.problems[0]!.message : "Not computed. Try again."}
          </p>
        )}
        {found.data?.length === 0 && (
          <p className="py-2 text-body">Nothing of the structure could be lighter and help.</p>
        )}
        <ul>
          {found.data?.map((w) => (
            <Row key={w.says} way={w} take={current ? () => edit((d) => withPart(d, w.part)) : null} />
          ))}
        </ul>
      </div>
    </section>
  );
}

function Row({ way: w, take }: { way: Way; take: (() => void) | null }) {
  return (
    <li className="grid grid-cols-[1.6rem_minmax(0,1fr)_auto] items-center gap-x-2 border-b border-rule py-1.5 text-body">
      <span className={w.enough ? "" : "text-fail"}>{SIGN[w.enough ? "sure" : "no"]}</span>
      <span className="leading-snug">
        {w.says}
        <span className="block text-small text-soft">
          −{show(-w.grams, "mass", 2)}, then balances at {show(w.centre_mm, "length", 4)} (
          {plain(w.gives_percent, 2)} % of what is missing), {plain(w.minutes, 2)} min
        </span>
        <span className={`block text-small ${w.enough ? "text-soft" : "text-fail"}`}>
          {w.enough ? "" : "Do not: "}
          {w.loses}
        </span>
      </span>
      {w.enough && take && (
        <button type="button" className="key-button" onClick={take} aria-label={`Apply: ${w.says}`}>
          Apply
        </button>
      )}
    </li>
  );
}
