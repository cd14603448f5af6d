import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { accepted, readAnew, troubleOf } from "../../api/changes";
import { api } from "../../api/client";
import { keys } from "../../api/queries";

/** Three ways in, for a shelf that is empty. */
export function Doors({ onBroken }: { onBroken: () => void }) {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const fleet = async () => {
    setBusy(true);
    setTrouble(await troubleOf(accepted(api.POST("/api/account/demo-fleet"))));
    await readAnew(queries, keys.shelf, keys.coupons, keys.trials);
    setBusy(false);
  };
  return (
    <section aria-label="Where to start" className="grid gap-x-10 gap-y-8 pt-8 md:grid-cols-3">
      <Door
        title="Build something"
        says="Say what it is to be: type, span, mass, speed. You get all its parts, placed and sized so that they hold."
      >
        <Link to="/new" className="key-main">
          New airframe
        </Link>
      </Door>
      <Door
        title="Repair something"
        says="Sketch the broken part, mark the damage, and compare repairs by time, strength and mass."
      >
        <button type="button" className="key-button min-h-11" onClick={onBroken}>
          Something broke
        </button>
      </Door>
      <Door
        title="Try the demo"
        says="An invented fleet of four airframes: one in build, two flying, one broken. Change anything, delete it later."
      >
        <button type="button" className="key-button min-h-11" disabled={busy} onClick={() => void fleet()}>
          {busy ? "Unpacking…" : "Add the demo fleet"}
        </button>
        {trouble && <p className="mt-2 text-fail">{trouble}</p>}
      </Door>
    </section>
  );
}

function Door({ title, says, children }: { title: string; says: string; children: React.ReactNode }) {
  return (
    <div className="border-t-2 border-ink pt-3">
      <h2 className="text-title font-bold">{title}</h2>
      <p className="mt-1 mb-4 leading-snug text-soft">{says}</p>
      {children}
    </div>
  );
}
