import { useId, useMemo, useState, type ChangeEvent, type ReactNode } from "react";
import type { Problem } from "../api/client";
import { SearchList } from "./SearchList";
import { LONG, recent, remember, withRecent } from "./recent";
import { parseQuantity, stepOf, writeQuantity, type Quantity } from "./units";

interface FieldProps {
  label: string;
  problem?: Problem | undefined;
  hint?: string | undefined;
}

interface FrameProps extends FieldProps {
  id: string;
  children: ReactNode;
  /** What stands beside the label. */
  beside?: ReactNode;
}

function Frame({ label, problem, hint, id, children, beside }: FrameProps) {
  return (
    <div className="grid content-start gap-1">
      <span className="flex items-center justify-between gap-2">
        <label htmlFor={id} className="label-type text-small">
          {label}
        </label>
        {beside}
      </span>
      {children}
      {problem ? (
        <p id={`${id}-problem`} className="text-note leading-snug text-fail">
          {problem.message}
        </p>
      ) : (
        hint && <p className="text-note leading-snug text-soft">{hint}</p>
      )}
    </div>
  );
}

interface NumberFieldProps extends FieldProps {
  value: number;
  quantity: Quantity;
  step?: number;
  whole?: boolean;
  onChange: (value: number) => void;
}

const EXAMPLE: Record<Quantity, string> = {
  length: "a length, such as 12 mm or 1/2 in",
  mass: "a mass, such as 900 g or 2 lb",
  speed: "a speed, such as 16 m/s or 60 km/h",
  percent: "a percentage, such as 30",
  angle: "an angle, such as 60°",
  force: "a force, such as 10 N or 2 lbf",
  couple: "a torque, such as 200 N·mm or 2 N·cm",
  moment: "a moment, such as 2 N·m",
  work: "an energy, such as 300 mJ or 0.3 J",
  stiffness: "a stiffness, such as 3 N·m²",
  warmth: "a temperature, such as 40 °C or 100 °F",
  plain: "a number, such as 1.5",
};

/** A figure with its unit. Takes any unit of its kind, applies while typing, and steps with the arrow keys. */
export function NumberField(props: NumberFieldProps) {
  const { label, value, quantity, step = 1, whole = false, onChange, hint } = props;
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const read = (text: string): number | null => {
    const parsed = parseQuantity(text, quantity);
    return parsed !== null && whole && !Number.isInteger(parsed) ? null : parsed;
  };
  const unreadable = typed !== null && read(typed) === null;
  const problem = unreadable
    ? { path: "", message: `Enter ${whole ? "a whole number" : EXAMPLE[quantity]}.` }
    : props.problem;
  const type = (text: string) => {
    setTyped(text);
    const parsed = read(text);
    if (parsed !== null && parsed !== value) onChange(parsed);
  };
  const nudge = (by: number) => {
    const next = Math.round((value + by) * 1000) / 1000;
    setTyped(writeQuantity(next, quantity));
    onChange(next);
  };
  return (
    <Frame label={label} problem={problem} hint={hint} id={id}>
      <input
        id={id}
        inputMode="decimal"
        autoComplete="off"
        spellCheck={false}
        className={`field-box ${problem ? "border-2 border-fail" : ""}`}
        value={typed ?? writeQuantity(value, quantity)}
        aria-invalid={problem ? true : undefined}
        aria-describedby={problem ? `${id}-problem` : undefined}
        onChange={(e) => type(e.target.value)}
        onFocus={(e) => e.target.select()}
        onBlur={() => !unreadable && setTyped(null)}
        onKeyDown={(e) => {
          const size = (e.shiftKey ? 10 : 1) * stepOf(quantity, step);
          if (e.key === "ArrowUp") nudge(size);
          else if (e.key === "ArrowDown") nudge(-size);
          else if (e.key === "Escape") setTyped(null);
          else return;
          e.preventDefault();
        }}
      />
    </Frame>
  );
}

interface OptionalNumberProps extends FieldProps {
  /** Its name for those who do not see what it stands under; contains the label. */
  name?: string;
  value: number | null;
  quantity: Quantity;
  onChange: (value: number | null) => void;
}

/** A figure that may be left open: an empty field means no bound. */
export function OptionalNumber({
  label,
  name,
  value,
  quantity,
  problem,
  hint,
  onChange,
}: OptionalNumberProps) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const wrong = typed !== null && typed.trim() !== "" && parseQuantity(typed, quantity) === null;
  const told = wrong ? { path: "", message: `Enter ${EXAMPLE[quantity]}, or leave it empty.` } : problem;
  const type = (text: string) => {
    setTyped(text);
    const parsed = text.trim() === "" ? null : parseQuantity(text, quantity);
    if ((parsed !== null || text.trim() === "") && parsed !== value) onChange(parsed);
  };
  return (
    <Frame label={label} problem={told} hint={hint} id={id}>
      <input
        id={id}
        inputMode="decimal"
        autoComplete="off"
        placeholder="optional"
        aria-label={name}
        className={`field-box ${told ? "border-2 border-fail" : ""}`}
        value={typed ?? (value === null ? "" : writeQuantity(value, quantity))}
        aria-invalid={told ? true : undefined}
        aria-describedby={told ? `${id}-problem` : undefined}
        onChange={(e) => type(e.target.value)}
        onFocus={(e) => e.target.select()}
        onBlur={() => !wrong && setTyped(null)}
      />
    </Frame>
  );
}

interface ChoiceProps<V extends string> extends FieldProps {
  value: V;
  options: readonly { value: NoInfer<V>; label: string; group?: string }[];
  onChange: (value: NoInfer<V>) => void;
}

/** A choice from a list, grouped where the options carry a group; in a long one what was used last is on top. */
export function Choice<V extends string>(props: ChoiceProps<V>) {
  const { label, value, onChange, problem, hint } = props;
  // while one steps through the list by keys its order stays
  const [order, setOrder] = useState(0);
  const top = useMemo(() => recent(order), [order]);
  const options = withRecent(props.options, top);
  const id = useId();
  const groups = [...new Set(options.map((o) => o.group))];
  const list = (group: string | undefined) =>
    options
      .filter((o) => o.group === group)
      .map((o) => (
        <option key={o.value} value={o.value}>
          {o.label}
        </option>
      ));
  const long = options.length > LONG && groups.some((g) => g !== undefined);
  const choose = (chosen: string) => {
    if (long && options.some((o) => o.value === chosen && o.group)) remember(chosen);
    onChange(chosen as V);
  };
  const search = long && <SearchList {...{ label, value, options, choose }} />;
  return (
    <Frame label={label} problem={problem} hint={hint} id={id} beside={search}>
      <select
        id={id}
        className={`field-box ${problem ? "border-2 border-fail" : ""}`}
        value={value}
        aria-invalid={problem ? true : undefined}
        aria-describedby={problem ? `${id}-problem` : undefined}
        onChange={(e) => choose(e.target.value)}
        onBlur={() => setOrder(order + 1)}
      >
        {groups.map((g) =>
          g === undefined ? (
            list(g)
          ) : (
            <optgroup key={g} label={g}>
              {list(g)}
            </optgroup>
          ),
        )}
      </select>
    </Frame>
  );
}

/** A yes-or-no. */
export function Tick(props: { label: string; checked: boolean; onChange: (on: boolean) => void }) {
  return (
    <label className="flex min-h-10 items-center gap-2">
      <input
        type="checkbox"
        className="size-5 accent-(--pick)"
        checked={props.checked}
        onChange={(e) => props.onChange(e.target.checked)}
      />
      {props.label}
    </label>
  );
}

interface TextFieldProps extends FieldProps {
  value: string;
  placeholder?: string | undefined;
  longest?: number;
  /** So many lines high. */
  lines?: number;
  onChange: (value: string) => void;
}

/** A line of text, or several. */
export function TextField({
  label,
  value,
  placeholder,
  longest = 80,
  lines = 1,
  onChange,
  problem,
  hint,
}: TextFieldProps) {
  const id = useId();
  const shared = {
    id,
    value,
    placeholder,
    maxLength: longest,
    "aria-invalid": problem ? (true as const) : undefined,
    "aria-describedby": problem ? `${id}-problem` : undefined,
    onChange: (e: ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) => onChange(e.target.value),
  };
  const mark = problem ? "border-2 border-fail" : "";
  return (
    <Frame label={label} problem={problem} hint={hint} id={id}>
      {lines > 1 ? (
        <textarea rows={lines} className={`field-box py-1.5 leading-snug ${mark}`} {...shared} />
      ) : (
        <input className={`field-box ${mark}`} {...shared} />
      )}
    </Frame>
  );
}
