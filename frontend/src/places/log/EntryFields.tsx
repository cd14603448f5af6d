import { useId } from "react";
import type { Part, Problem } from "../../api/client";
import { Choice, NumberField, OptionalNumber, TextField } from "../../forms/fields";
import { KIND } from "../../part/logKinds";
import { BY_HAND, type Typed } from "./entry";

interface Props {
  typed: Typed;
  parts: Part[];
  /** Whether what kind of entry it is may change. */
  fixed?: boolean;
  at: (path: string) => Problem | undefined;
  change: (update: Partial<Typed>) => void;
}

/** What happened, when, where on which part, and for flights how many. */
export function EntryFields({ typed: t, parts, fixed = false, at, change }: Props) {
  const when = useId();
  const kinds = fixed ? [t.kind] : BY_HAND;
  return (
    <div className="grid grid-cols-2 items-start gap-x-4 gap-y-3">
      <Choice
        label="Entry type"
        value={t.kind}
        options={kinds.map((k) => ({ value: k, label: KIND[k] }))}
        problem={at("event.kind")}
        onChange={(kind) => change({ kind })}
      />
      <div className="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-1">
        <label htmlFor={when} className="label-type text-small">
          When (empty: now)
        </label>
        <input
          id={when}
          type="datetime-local"
          className="field-box min-w-0"
          value={t.when}
          aria-invalid={at("happened") ? true : undefined}
          onChange={(e) => change({ when: e.target.value })}
        />
        {at("happened") && <p className="text-small text-fail">{at("happened")?.message}</p>}
      </div>
      {t.kind === "flight" && (
        <>
          <NumberField
            label="Flights"
            value={t.count}
            quantity="plain"
            whole
            problem={at("event.flight.count")}
            onChange={(count) => change({ count })}
          />
          <OptionalNumber
            label="Minutes in all"
            value={t.minutes}
            quantity="plain"
            problem={at("event.flight.minutes")}
            onChange={(minutes) => change({ minutes })}
          />
          <OptionalNumber
            label="Wind"
            value={t.wind_m_s}
            quantity="speed"
            problem={at("event.flight.wind_m_s")}
            onChange={(wind_m_s) => change({ wind_m_s })}
          />
          <TextField
            label="Battery"
            value={t.battery}
            longest={80}
            problem={at("event.flight.battery")}
            onChange={(battery) => change({ battery })}
          />
        </>
      )}
      <Choice
        label="Part"
        value={t.part}
        options={[
          { value: "", label: "The whole airframe" },
          ...parts.map((p) => ({ value: p.id, label: p.name })),
        ]}
        problem={at("event.part_id")}
        onChange={(part) => change({ part })}
      />
      {t.part && (
        <OptionalNumber
          label="Position from root"
          value={t.at_mm}
          quantity="length"
          problem={at("event.at_mm")}
          onChange={(at_mm) => change({ at_mm })}
        />
      )}
      <div className="col-span-full">
        <TextField
          label="Notes"
          value={t.says}
          longest={600}
          lines={3}
          problem={at("event.says")}
          onChange={(says) => change({ says })}
        />
      </div>
    </div>
  );
}
