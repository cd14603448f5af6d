import { useState } from "react";
import { type Schemas } from "../../api/client";
import { useRemoveCoupon, useRemoveTrial } from "../../api/changes";
import { useCatalogue, useCoupons, useTrials } from "../../api/queries";
import { ShowOlder } from "../../words/ShowOlder";
import { NotStored } from "../../words/NotStored";
import { plain, show } from "../../forms/units";
import { CouponForm } from "./CouponForm";
import { FACES } from "./couponWords";
import { sidesOf } from "./sides";
import { TrialCard, TrialForm } from "./Trials";

type Kept = Schemas["CouponOut"];

/** Own coupons and trials: what was glued, how it broke, and what that says. */
export function Coupons() {
  const catalogue = useCatalogue();
  const coupons = useCoupons();
  const trials = useTrials();
  const removeCoupon = useRemoveCoupon();
  const removeTrial = useRemoveTrial();
  const [trial, setTrial] = useState<string | null>(null);
  const [planning, setPlanning] = useState(false);
  if (!catalogue.data) return <p className="p-6 text-soft">Loading adhesives…</p>;
  const sides = sidesOf(catalogue.data);
  const chosen = trials.data?.find((t) => t.id === trial) ?? null;
  const name = (key: string) => catalogue.data.adhesives.find((a) => a.key === key)?.name ?? key;
  const side = (key: string) => sides.find((s) => s.value === key)?.label ?? key;
  return (
    <main className="mx-auto grid max-w-[88rem] gap-x-10 gap-y-6 grid-cols-[minmax(0,1fr)] px-6 pt-5 pb-12 max-sm:px-4 lg:grid-cols-[24rem_minmax(0,1fr)]">
      <section aria-label="Enter a test result">
        <h2 className="mb-2 flex min-h-12 items-end border-b border-ink text-lead font-semibold">
          Test result
        </h2>
        {chosen && (
          <p className="mb-2 text-body">
            For “{chosen.wish.name}”.{" "}
            <button type="button" className="underline" onClick={() => setTrial(null)}>
              No fair test
            </button>
          </p>
        )}
        <CouponForm catalogue={catalogue.data} sides={sides} trial={chosen} />
      </section>
      <section aria-label="Tests and results">
        <NotStored change={removeTrial} what="The trial" />
        <NotStored change={removeCoupon} what="The coupon" />
        <h2 className="flex min-h-12 items-end justify-between border-b border-ink text-lead font-semibold">
          {" "}
          Fair tests{" "}
          <button type="button" className="key-button mb-1" onClick={() => setPlanning(!planning)}>
            {planning ? "Close the plan" : "Plan a fair test"}
          </button>
        </h2>
        {planning && (
          <div className="border-b border-rule py-3">
            <TrialForm catalogue={catalogue.data} sides={sides} added={() => setPlanning(false)} />
          </div>
        )}
        {trials.data?.length === 0 && !planning && (
          <p className="py-2 text-body text-soft">
            No fair tests yet. A plan tells you how many scraps to glue, in what order, and when a difference
            is real.
          </p>
        )}
        {trials.data?.map((t) => (
          <TrialCard
            key={t.id}
            trial={t}
            chosen={t.id === trial}
            choose={() => setTrial(t.id === trial ? null : t.id)}
            remove={() => removeTrial.mutate(t.id)}
          />
        ))}
        <h2 className="mt-6 border-b border-ink text-lead font-semibold">Saved results</h2>
        {coupons.rows?.length === 0 && (
          <p className="py-2 text-body text-soft">
            No results yet. Glue two scraps, let them cure, break them and enter what the broken face shows.
            Your results adjust the glue ranking.
          </p>
        )}
        <ul>
          {coupons.rows?.map((c) => (
            <Row
              key={c.id}
              kept={c}
              name={name(c.coupon.adhesive)}
              on={`${side(c.coupon.one)} on ${side(c.coupon.other)}`}
              remove={() => removeCoupon.mutate(c.id)}
            />
          ))}
        </ul>
        <ShowOlder list={coupons} what="coupons" />
      </section>
    </main>
  );
}

function Row(props: { kept: Kept; name: string; on: string; remove: () => void }) {
  const { kept, name, on, remove } = props;
  const c = kept.coupon;
  const hours = c.minutes >= 120 ? `${plain(c.minutes / 60)} h` : `${plain(c.minutes)} min`;
  const shares = FACES.filter(([key]) => c.face[key] > 0).map(
    ([key, label]) => `${plain(c.face[key])} % ${label.toLowerCase()}`,
  );
  const load = c.load_N != null ? `at ${show(c.load_N, "force", 3)}` : c.effort ? `${c.effort} effort` : "";
  return (
    <li className="grid grid-cols-[4.5rem_minmax(0,1fr)_auto] items-start gap-x-4 border-b border-rule py-2">
      {kept.has_photo ? (
        <a href={`/api/joints/coupons/${kept.id}/photo`} target="_blank" rel="noreferrer">
          <img
            src={`/api/joints/coupons/${kept.id}/photo`}
            alt={`Broken face: ${shares.join(", ")}`}
            className="h-14 w-18 object-cover"
          />
        </a>
      ) : (
        <span className="label-type pt-1 text-note text-soft">{c.label || "–"}</span>
      )}
      <p className="leading-snug">
        <strong>{name}</strong>
        {c.control && " (control)"} <span className="text-soft">{on}</span>
        <span className="block text-body">
          {shares.join(", ")}; {c.broken} after {hours}
          {load && `, ${load}`}
        </span>
        {c.note && <span className="block text-small italic">{c.note}</span>}
      </p>
      <button type="button" className="key-button" onClick={remove}>
        Delete<span className="sr-only"> the result for {name}</span>
      </button>
    </li>
  );
}
