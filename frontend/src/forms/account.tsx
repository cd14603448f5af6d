import type { ComponentProps, ReactNode } from "react";

function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="grid gap-1">
      <span className="label-type">{label}</span>
      {children}
    </label>
  );
}

interface NameProps {
  value: string;
  onChange: (name: string) => void;
  /** It has to be this one. */
  fixed?: boolean;
  wrong?: boolean;
}

/** The name of an account. */
export function AccountName({ value, onChange, fixed = false, wrong = false }: NameProps) {
  return (
    <Labelled label="Name">
      <input
        value={value}
        onChange={(e) => onChange(e.target.value)}
        readOnly={fixed}
        autoComplete="username"
        required
        maxLength={60}
        aria-invalid={wrong || undefined}
        className="field-box"
      />
    </Labelled>
  );
}

type PasswordProps = Pick<ComponentProps<"input">, "name" | "autoComplete" | "minLength" | "aria-invalid">;

/** A password; `autoComplete` tells whether it is the present one or a new one. */
export function Password({ label = "Password", ...input }: PasswordProps & { label?: string }) {
  return (
    <Labelled label={label}>
      <input name="password" type="password" required {...input} className="field-box" />
    </Labelled>
  );
}
