import type { Airframe, Catalogue, Problem } from "../../../api/client";
import { Choice, NumberField, OptionalNumber, TextField } from "../../../forms/fields";
import { freshId } from "../../../forms/ids";
import { problemAt } from "../../../part/edits";
import { optionsOf } from "../../../part/materialOptions";
import {
  columnWords,
  likeOf,
  numbersOf,
  OWN_TABLES,
  type OwnMaterial,
  type OwnTable,
  type OwnValue,
} from "./ownMaterials";

interface Props {
  document: Airframe;
  /** The reference tables, without the airframe's own materials. */
  catalogue: Catalogue;
  problems: Problem[];
  edit: (change: (document: Airframe) => Airframe) => void;
}

/** Materials that the builder measured: like a row of the tables, with values of their own. */
export function OwnMaterials({ document, catalogue, problems, edit }: Props) {
  const mine = document.materials ?? [];
  const put = (materials: OwnMaterial[]) => edit((d) => ({ ...d, materials }));
  const add = (table: OwnTable) => {
    const like = catalogue[OWN_TABLES[table].list][0]!;
    const id = freshId(
      `own_${table}`,
      mine.map((m) => m.id),
    );
    put([...mine, { id, table, like: like.key, name: `My ${like.name}`, values: [], note: "" }]);
  };
  return (
    <section aria-label="Measured by you">
      {mine.map((own, i) => (
        <One
          key={own.id}
          own={own}
          catalogue={catalogue}
          at={(key) => problemAt(problems, `materials[${i}].${key}`)}
          change={(next) => put(mine.map((m) => (m.id === own.id ? next : m)))}
          remove={() => put(mine.filter((m) => m.id !== own.id))}
        />
      ))}
      <Choice<string>
        label="Add a material of your own: like a"
        value=""
        options={[
          { value: "", label: "choose what it is" },
          ...Object.entries(OWN_TABLES).map(([value, t]) => ({ value, label: t.label })),
        ]}
        onChange={(v) => v && add(v as OwnTable)}
      />
    </section>
  );
}

interface OneProps {
  own: OwnMaterial;
  catalogue: Catalogue;
  at: (key: string) => Problem | undefined;
  change: (own: OwnMaterial) => void;
  remove: () => void;
}

function One({ own, catalogue, at, change, remove }: OneProps) {
  const like = likeOf(catalogue, own);
  const values = own.values ?? [];
  const numbers = like ? numbersOf(like) : [];
  const replace = (v: OwnValue, next: Partial<OwnValue>) =>
    change({ ...own, values: values.map((w) => (w === v ? { ...v, ...next } : w)) });
  const free = numbers.filter((n) => !values.some((v) => v.of === n.of));
  return (
    <fieldset className="mb-4 grid grid-cols-2 items-start gap-x-4 gap-y-3 border-t border-ink pt-3">
      <legend className="sr-only">{own.name}</legend>
      <div className="col-span-full">
        <TextField
          label="Name"
          value={own.name}
          problem={at("name")}
          onChange={(name) => change({ ...own, name })}
        />
      </div>
      <div className="col-span-full">
        <Choice
          label={`Otherwise like this ${OWN_TABLES[own.table].label.toLowerCase()}`}
          value={own.like}
          options={optionsOf(catalogue[OWN_TABLES[own.table].list])}
          problem={at("like")}
          onChange={(key) => change({ ...own, like: key })}
        />
      </div>
      {values.map((v, i) => (
        <div key={v.of} className="col-span-full grid grid-cols-[1fr_1fr_auto] items-end gap-x-2 gap-y-1">
          <NumberField
            label={columnWords(v.of)}
            value={v.typ}
            quantity="plain"
            problem={at(`values[${i}].typ`) ?? at(`values[${i}].of`) ?? at(`values[${i}]`)}
            onChange={(typ) => replace(v, { typ })}
          />
          <OptionalNumber
            label="scatter, %"
            name={`${columnWords(v.of)}, scatter in per cent`}
            value={v.cv_percent ?? null}
            quantity="plain"
            onChange={(cv_percent) => replace(v, { cv_percent, low: null, high: null })}
          />
          <button
            type="button"
            className="key-button"
            aria-label={`Leave out ${columnWords(v.of)}`}
            onClick={() => change({ ...own, values: values.filter((w) => w !== v) })}
          >
            ✕
          </button>
          {(["low", "high"] as const).map((end) => (
            <OptionalNumber
              key={end}
              label={end}
              name={`${columnWords(v.of)}, ${end}`}
              value={v[end] ?? null}
              quantity="plain"
              onChange={(value) => replace(v, { [end]: value, cv_percent: null })}
            />
          ))}
        </div>
      ))}
      {free.length > 0 && (
        <div className="col-span-full">
          <Choice<string>
            label="A value that you measured"
            value=""
            options={[
              { value: "", label: "choose one" },
              ...free.map((n) => ({ value: n.of, label: columnWords(n.of) })),
            ]}
            onChange={(of) => {
              const start = numbers.find((n) => n.of === of);
              if (start) change({ ...own, values: [...values, { of, typ: start.typ }] });
            }}
          />
        </div>
      )}
      <button type="button" className="key-button col-span-full" onClick={remove}>
        Take {own.name} out
      </button>
    </fieldset>
  );
}
