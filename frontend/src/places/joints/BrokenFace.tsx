import type { Problem } from "../../api/client";
import { NumberField } from "../../forms/fields";
import { plain } from "../../forms/units";
import { FACES, type Face } from "./couponWords";

interface Props {
  face: Face;
  at: (key: string) => Problem | undefined;
  change: (face: Face) => void;
}

/** What a broken face shows, in shares that make up the whole of it. */
export function BrokenFace({ face, at, change }: Props) {
  const total = Object.values(face).reduce((a, b) => a + b, 0);
  const wrong = at("face");
  return (
    <fieldset className="col-span-full border-t border-ink pt-2">
      <legend className="label-type pr-2">
        Broken face, shares in %:{" "}
        <span className={Math.abs(total - 100) > 1 ? "text-fail" : ""}>{plain(total)} of 100 %</span>
      </legend>
      <div className="grid grid-cols-2 items-start gap-x-4 gap-y-2">
        {FACES.map(([key, label, hint]) => (
          <div key={key} className="grid grid-cols-[minmax(0,1fr)_auto] items-start gap-x-1">
            <NumberField
              {...{ label, hint }}
              value={face[key]}
              quantity="percent"
              step={10}
              problem={at(`face.${key}`)}
              onChange={(v) => change({ ...face, [key]: v })}
            />
            <button
              type="button"
              className="key-button mt-[1.45rem] px-2"
              aria-label={`The rest is: ${label}`}
              disabled={total >= 100}
              onClick={() => change({ ...face, [key]: face[key] + 100 - total })}
            >
              rest
            </button>
          </div>
        ))}
      </div>
      {wrong && (
        <p role="alert" className="text-small text-fail">
          The shares {wrong.message} Found: {wrong.value}.
        </p>
      )}
    </fieldset>
  );
}
