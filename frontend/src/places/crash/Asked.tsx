import type { Problem, Schemas } from "../../api/client";
import { NumberField } from "../../forms/fields";
import { FieldBox } from "./FieldBox";

interface Wish {
  flyIn: number;
  warmth: number;
  rate: number;
}

interface Props {
  asked: Wish;
  change: (part: Partial<Wish>) => void;
  problems: Problem[];
  options: Schemas["MendOption"][];
  box: string[];
  setBox: (box: string[]) => void;
}

/** What is asked before repairs are looked for: the time, the warmth, what an hour is worth, what is at hand. */
export function Asked({ asked, change, problems, options, box, setBox }: Props) {
  const problem = (field: string) => problems.find((p) => p.path.includes(field));
  return (
    <>
      <div className="w-44">
        <NumberField
          label="Next launch in, min"
          value={asked.flyIn}
          quantity="plain"
          step={15}
          problem={problem("fly_in_min")}
          onChange={(flyIn) => change({ flyIn })}
        />
      </div>
      <div className="w-36">
        <NumberField
          label="How warm it is there"
          value={asked.warmth}
          quantity="warmth"
          problem={problem("warmth_C")}
          onChange={(warmth) => change({ warmth })}
        />
      </div>
      <FieldBox box={box} setBox={setBox} options={options} />
      <label className="grid gap-1">
        <span className="label-type text-small">
          Value of an hour’s work <span className="figure-type">{asked.rate}</span>
        </span>
        <input
          type="range"
          min={0}
          max={60}
          step={1}
          value={asked.rate}
          className="h-10 w-48 accent-(--pick)"
          onChange={(e) => change({ rate: Number(e.target.value) })}
        />
      </label>
    </>
  );
}
