import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { NumberField } from "../../forms/fields";
import { plain } from "../../forms/units";
import { useTyped } from "../../forms/useTyped";
import { cupNow, cupSays } from "./wetting";

interface Props {
  card: Schemas["SettingCard"];
  /** Key of the step: what is told of it survives a reload. */
  step: string;
}

interface Told {
  /** When the cup was mixed. */
  mixed: string | null;
  /** What it has wetted, dm². */
  done: number;
  /** When that was told. */
  at: string | null;
}

const UNTOLD: Told = { mixed: null, done: 0, at: null };

/** While cloth is wetted: how long the cup stays thin, and whether it reaches. */
export function Wetting({ card, step }: Props) {
  const [told, write] = useTyped<Told>(`fletcher.cup.${step}`, UNTOLD);
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 5000);
    return () => clearInterval(timer);
  }, []);
  if (card.wets_dm2 == null || card.thin_min == null) return null;
  const { mixed, done, at } = told;
  const since = (time: number) => (mixed ? (time - Date.parse(mixed)) / 60_000 : 0);
  const cup = mixed
    ? cupNow(card.thin_min, card.wets_dm2, done, at ? since(Date.parse(at)) : 0, since(now))
    : null;
  return (
    <section aria-label="Cup of resin" className="mt-3 border-l-2 border-ink pl-3">
      <div className="flex flex-wrap items-end gap-3">
        <button
          type="button"
          className="key-button min-h-16"
          onClick={() => {
            setNow(Date.now());
            write(() => ({ ...UNTOLD, mixed: new Date().toISOString() }));
          }}
        >
          {cup ? "Next cup mixed now" : "Cup mixed now"}
        </button>
        {cup && (
          <NumberField
            label={`Wet of ${plain(card.wets_dm2, 2)} dm², by this cup`}
            value={done}
            quantity="plain"
            onChange={(wet) => write((was) => ({ ...was, done: wet, at: new Date().toISOString() }))}
          />
        )}
      </div>
      {cup && (
        <p role="status" className={`mt-2 leading-snug ${cup.left <= 0 ? "text-fail" : ""}`}>
          <span className="figure-type text-lead font-bold">
            {cup.left > 0 ? `${Math.floor(cup.left)} min thin` : "thick"}
          </span>{" "}
          {cupSays(cup)}
        </p>
      )}
    </section>
  );
}
