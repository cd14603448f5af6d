import type { Part } from "../../../api/client";
import { Choice, NumberField, Tick } from "../../../forms/fields";
import type { Form } from "../../../forms/form";

type Root = NonNullable<Part["root"]>;

const ROOTS = [
  { value: "held", label: "Fixed (one piece or clamped)" },
  { value: "glued", label: "Butt-glued" },
  { value: "bands", label: "Rubber bands" },
] as const;

/** What a root is when another kind of it is chosen. */
const FIRST: Record<Root["kind"], Root> = {
  held: { kind: "held" },
  glued: { kind: "glued", covered: true },
  bands: { kind: "bands", hold_N: 60 },
};

/** What holds the root of the part. */
export function RootFields({ form }: { form: Form<Part> }) {
  const root = form.value.root ?? FIRST.held;
  return (
    <div className="col-span-full grid gap-2 border-t border-rule pt-3">
      <Choice
        label="Root"
        value={root.kind}
        options={ROOTS}
        problem={form.at("root")}
        onChange={(kind) => form.set("root", FIRST[kind])}
      />
      {root.kind === "glued" && (
        <Tick
          label="Skin runs over the joint"
          checked={root.covered}
          onChange={(covered) => form.set("root", { kind: "glued", covered })}
        />
      )}
      {root.kind === "bands" && (
        <NumberField
          label="Total band pull"
          value={root.hold_N}
          quantity="force"
          step={5}
          problem={form.at("root.hold_N")}
          onChange={(hold_N) => form.set("root", { kind: "bands", hold_N })}
        />
      )}
    </div>
  );
}
