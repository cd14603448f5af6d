import { Popover } from "radix-ui";
import { usePreferences } from "../forms/preferences";
import { ChangePassword } from "./ChangePassword";

const UNITS = [
  ["metric", "mm, g, N"],
  ["inch", "inch fractions, oz, lbf"],
] as const;

const COLOURS = [
  ["system", "Same as device"],
  ["light", "light"],
  ["dark", "dark"],
  ["contrast", "High contrast"],
] as const;

interface PickProps<T extends string> {
  legend: string;
  options: readonly (readonly [T, string])[];
  value: T;
  onPick: (value: T) => void;
}

function Pick<T extends string>({ legend, options, value, onPick }: PickProps<T>) {
  return (
    <fieldset className="mb-3">
      <legend className="label-type border-b border-ink pb-0.5">{legend}</legend>
      {options.map(([key, label]) => (
        <label key={key} className="flex min-h-10 items-center gap-2.5">
          <input
            type="radio"
            name={legend}
            className="size-5 accent-(--pick)"
            checked={value === key}
            onChange={() => onPick(key)}
          />
          {label}
        </label>
      ))}
    </fieldset>
  );
}

/** Units, colours and keys of this person, and the password where there is an account. */
export function PreferencesMenu({ account }: { account: boolean }) {
  const { preferences, change } = usePreferences();
  return (
    <Popover.Root>
      <Popover.Trigger className="key-button" aria-label="Units, colours and keys">
        {preferences.units === "inch" ? "in" : "mm"}
        <span aria-hidden="true" className="ml-1.5">
          ◐
        </span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="z-40 w-64 border border-ink bg-raised px-4 pt-3 pb-1"
        >
          <Pick
            legend="Units"
            options={UNITS}
            value={preferences.units}
            onPick={(units) => change({ units })}
          />
          <Pick
            legend="Colours"
            options={COLOURS}
            value={preferences.colours}
            onPick={(colours) => change({ colours })}
          />
          <label className="mb-2 flex min-h-10 items-center gap-2.5">
            <input
              type="checkbox"
              className="size-5 accent-(--pick)"
              checked={preferences.single_keys}
              onChange={(e) => change({ single_keys: e.target.checked })}
            />
            Single-key shortcuts
          </label>
          {account && <ChangePassword />}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
