import { useState } from "react";
import { useChangeThing, usePutOn, useTakeOff } from "../../api/changes";
import type { Catalogue, Schemas } from "../../api/client";
import { useCatalogue, useOwn, useShelf } from "../../api/queries";
import { Donors } from "./Donors";
import { fresh, KINDS, type Kind } from "./kinds";
import { StockFile } from "./StockFile";
import { ThingForm } from "./ThingForm";

type Thing = Schemas["ThingOut"];

/** What is there, by kind: how much, where, how old, and for whom it is reserved. */
export function OwnShelf() {
  const own = useOwn();
  const catalogue = useCatalogue().data;
  if (!own.data || !catalogue) return <p role="status">Reading the shelf…</p>;
  return (
    <section aria-label="On the shelf">
      <div className="flex flex-wrap items-center justify-between gap-3 py-3">
        <p className="max-w-prose text-body leading-snug text-soft">
          Lengths, sheets and glue that are here. The cut list takes these first, offcuts before new stock.
        </p>
        <StockFile />
      </div>
      {KINDS.map(({ kind, one, many }) => (
        <OfKind
          key={kind}
          {...{ kind, one, many, catalogue }}
          things={own.data.filter((t) => t.item.kind === kind)}
        />
      ))}
      <Donors />
    </section>
  );
}

interface KindProps {
  kind: Kind;
  one: string;
  many: string;
  catalogue: Catalogue;
  things: Thing[];
}

function OfKind({ kind, one, many, catalogue, things }: KindProps) {
  const [adding, setAdding] = useState(false);
  const put = usePutOn();
  return (
    <section aria-label={many} className="mt-6">
      <div className="flex items-end justify-between gap-3 border-b border-ink pb-1">
        <h2 className="font-semibold">{many}</h2>
        <button
          type="button"
          className="key-button"
          aria-label={`Add: ${one}`}
          onClick={() => setAdding(!adding)}
        >
          + {one}
        </button>
      </div>
      {adding && (
        <ThingForm
          first={fresh(kind, catalogue)}
          catalogue={catalogue}
          problems={put.error?.problems ?? []}
          busy={put.isPending}
          label={`Add ${one.toLowerCase()}`}
          done={(item) => put.mutate(item, { onSuccess: () => setAdding(false) })}
          close={() => setAdding(false)}
        />
      )}
      {things.length === 0 && !adding && <p className="py-1 text-small text-soft">None.</p>}
      <ul>
        {things.map((t) => (
          <Row key={t.id} thing={t} catalogue={catalogue} />
        ))}
      </ul>
    </section>
  );
}

function Row({ thing: t, catalogue }: { thing: Thing; catalogue: Catalogue }) {
  const [open, setOpen] = useState(false);
  const change = useChangeThing();
  const off = useTakeOff();
  const shelf = useShelf().data ?? [];
  const name = `${t.name}, ${t.says}`;
  const said = [t.item.place, t.item.batch && `batch ${t.item.batch}`, t.item.note].filter(Boolean);
  return (
    <li className="border-b border-rule py-2">
      <div className="grid grid-cols-[minmax(0,1fr)_auto] items-start gap-x-4 gap-y-1 sm:grid-cols-[minmax(0,1fr)_12rem_auto]">
        <div className="leading-snug">
          <span className="font-semibold">{t.name}</span>
          <span className="text-soft"> · </span>
          <span className="figure-type">{t.says}</span>
          {t.item.origin === "offcut" && <span className="text-soft"> · offcut</span>}
          {said.length > 0 && <span className="block text-small text-soft">{said.join(" · ")}</span>}
          {t.cautions.map((c) => (
            <span key={c} className="block text-small text-fail">
              ⚠ {c}
            </span>
          ))}
        </div>
        {t.item.origin === "scrap" ? (
          <span className="text-small text-soft max-sm:hidden">not for airframes</span>
        ) : (
          <div className="max-sm:order-last max-sm:col-span-full">
            <select
              aria-label={`Reserved for: ${name}`}
              className="field-box"
              value={t.reserved_for ?? ""}
              onChange={(e) =>
                change.mutate({ thing: t, item: t.item, reserved_for: e.target.value || null })
              }
            >
              <option value="">free</option>
              {shelf.map((a) => (
                <option key={a.id} value={a.id}>
                  for {a.document.name}
                </option>
              ))}
            </select>
          </div>
        )}
        <span className="flex gap-1">
          <button
            type="button"
            className="key-button"
            aria-label={`Change: ${name}`}
            aria-expanded={open}
            onClick={() => setOpen(!open)}
          >
            …
          </button>
          <button
            type="button"
            className="key-button border-transparent text-fail"
            aria-label={`Take off the shelf: ${name}`}
            onClick={() => off.mutate(t.id)}
          >
            ×
          </button>
        </span>
      </div>
      {change.error && (
        <p role="alert" className="text-fail">
          {change.error.problems[0]!.message}
        </p>
      )}
      {open && (
        <ThingForm
          first={t.item}
          catalogue={catalogue}
          problems={change.error?.problems ?? []}
          busy={change.isPending}
          label="Keep change"
          done={(item) =>
            change.mutate(
              { thing: t, item, reserved_for: t.reserved_for ?? null },
              { onSuccess: () => setOpen(false) },
            )
          }
          close={() => setOpen(false)}
        />
      )}
    </li>
  );
}
