import { useState } from "react";
import type { Catalogue, Schemas } from "../../api/client";
import { useKeepCoupon } from "../../api/changes";
import { Choice, NumberField, OptionalNumber, TextField, Tick } from "../../forms/fields";
import { formOf, type Form } from "../../forms/form";
import { useTyped } from "../../forms/useTyped";
import { COUPON_DRAFT } from "../../part/couponDraft";
import { BrokenFace } from "./BrokenFace";
import { LETTERS, HOW, PREPARED, type Coupon, type Face } from "./couponWords";
import type { Side } from "./sides";

type Trial = Schemas["TrialOut"];
type Technique = NonNullable<Coupon["technique"]>;

interface Props {
  catalogue: Catalogue;
  sides: Side[];
  /** The trial that a coupon is broken for, if any. */
  trial: Trial | null;
}

const NONE: Face = {
  foam_deep: 0,
  surface_layer: 0,
  clean_seam: 0,
  beside_seam: 0,
  elsewhere: 0,
  glue_soft: 0,
  foam_softened: 0,
  paint_lifted: 0,
};

const FIRST: Coupon = {
  adhesive: "contact_foamsafe_clear",
  one: "epp_30",
  other: "epp_30",
  technique: null,
  prepared: "as_cut",
  minutes: 1440,
  warmth_C: 20,
  broken: "snap",
  load_N: null,
  effort: null,
  area_cm2: 12,
  width_mm: 20,
  arm_mm: 60,
  face: NONE,
  control: false,
  label: "",
  note: "",
};

/** The coupon as it is kept: of a trial what the trial says of it. */
function asOf(trial: Trial | null, typed: Coupon): Coupon {
  if (!trial) return typed;
  const { wish } = trial;
  const arm = wish.arms[LETTERS.indexOf(typed.label.slice(0, 1))];
  const control = !arm && typed.label !== "";
  const { one, other, broken } = wish;
  const made = { ...typed, one, other, broken, ...(arm ?? wish.arms[0]), control };
  return control ? { ...made, prepared: "as_cut" } : made;
}

/** A broken coupon: what was glued how, how it was broken, and what its face shows. */
export function CouponForm({ catalogue, sides, trial }: Props) {
  const [typed, keepTyped] = useTyped<Coupon>(COUPON_DRAFT, FIRST);
  const [photo, setPhoto] = useState<File | null>(null);
  const keep = useKeepCoupon();
  const problems = keep.error?.problems ?? [];
  const at = (key: string) =>
    problems.find((p) => p.path === `coupon.${key}` || p.path.startsWith(`coupon.${key}.`));
  const write = (edit: (now: Coupon) => Coupon) => {
    keepTyped(edit);
    if (keep.isSuccess) keep.reset();
  };
  const form = formOf(typed, write, at);
  const coupon = asOf(trial, typed);
  const again = () => write((now) => ({ ...now, face: NONE, load_N: null, label: "", note: "" }));
  const send = () =>
    keep.mutate(
      { coupon, trial: trial?.id ?? null, photo },
      {
        onSuccess: () => {
          setPhoto(null);
          again();
        },
        onError: (refused) => refused.problems.some((p) => p.path === "photo") && again(),
      },
    );
  const pictured = problems.find((p) => p.path === "photo");
  const other = problems.find((p) => p !== pictured && !p.path.startsWith("coupon."));
  return (
    <form
      aria-label="Test result"
      className="grid grid-cols-2 items-start gap-x-4 gap-y-3"
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      {trial ? (
        <div className="col-span-full">
          <Choice
            label={`Test joint of “${trial.wish.name}”`}
            options={[
              { value: "", label: "Choose" },
              ...trial.plan.order.map((c) => ({ value: c.label, label: `${c.label}: ${c.says}` })),
            ]}
            {...form.field("label")}
          />
        </div>
      ) : (
        <Glued {...{ form, catalogue, sides }} />
      )}
      <Broken form={form} broken={coupon.broken} />
      <BrokenFace face={typed.face} at={at} change={(face) => form.set("face", face)} />
      {!trial && (
        <div className="col-span-full">
          <Tick
            label="Untreated control"
            checked={typed.control}
            onChange={(on) => form.set("control", on)}
          />
        </div>
      )}
      <label className="label-type col-span-full grid gap-1 text-small">
        Photo of the face
        <input
          type="file"
          accept="image/jpeg,image/png,image/webp"
          className="field-box py-1.5"
          onChange={(e) => setPhoto(e.target.files?.[0] ?? null)}
        />
        <span className="font-sans text-note font-normal text-soft">
          JPEG, PNG or WebP, up to 8 MB. Location and camera data are removed.
        </span>
      </label>
      {(pictured ?? other) && (
        <p role="alert" className="col-span-full text-small text-fail">
          {pictured
            ? `The result is saved, but not the photo: it ${pictured.message}`
            : `The coupon is not kept: ${other!.message}`}
        </p>
      )}
      <div className="col-span-full">
        <TextField label="Note" longest={400} lines={2} {...form.field("note")} />
      </div>
      <button
        type="submit"
        className="key-button col-span-full"
        disabled={keep.isPending || (trial !== null && typed.label === "")}
      >
        Save result
      </button>
      <p role="status" className="col-span-full min-h-5 text-body">
        {keep.isSuccess && "Saved."}
      </p>
    </form>
  );
}

/** What was glued to what, and how. */
function Glued({ form, catalogue, sides }: { form: Form<Coupon> } & Pick<Props, "catalogue" | "sides">) {
  const typed = form.value;
  const known = catalogue.adhesives.find((a) => a.key === typed.adhesive)?.techniques ?? {};
  const ways = Object.entries(known).map(([value, label]) => ({ value: value as Technique, label }));
  return (
    <>
      <Choice label="Material" options={sides} {...form.field("one")} />
      <Choice label="Glued to" options={sides} {...form.field("other")} />
      <div className="col-span-full">
        <Choice
          label="Adhesive"
          options={catalogue.adhesives.map((a) => ({ value: a.key, label: a.name }))}
          {...form.field("adhesive")}
          onChange={(adhesive) => form.replace((now) => ({ ...now, adhesive, technique: null }))}
        />
      </div>
      {ways.length > 1 && (
        <div className="col-span-full">
          <Choice
            label="Application"
            options={ways}
            value={typed.technique ?? ways[0]!.value}
            problem={form.at("technique")}
            onChange={(technique) => form.set("technique", technique)}
          />
        </div>
      )}
      <Choice label="Face preparation" options={PREPARED} {...form.field("prepared")} />
      <Choice label="How it was broken" options={HOW} {...form.field("broken")} />
    </>
  );
}

const EFFORTS = [
  { value: "", label: "not recorded" },
  { value: "low", label: "Low (less than expected)" },
  { value: "medium", label: "Medium (as expected)" },
  { value: "high", label: "High (more than expected)" },
] as const;

/** When and at what load it broke, and how large it was. */
function Broken({ form, broken }: { form: Form<Coupon>; broken: Coupon["broken"] }) {
  const typed = form.value;
  return (
    <>
      <NumberField label="Minutes after closing" quantity="plain" step={30} {...form.field("minutes")} />
      <NumberField label="Workshop temperature" quantity="warmth" {...form.field("warmth_C")} />
      <OptionalNumber
        label="Breaking load (if measured)"
        value={typed.load_N ?? null}
        quantity="force"
        problem={form.at("load_N")}
        onChange={(v) => form.set("load_N", v)}
      />
      <Choice
        label="or effort"
        value={typed.effort ?? ""}
        options={EFFORTS}
        onChange={(v) => form.set("effort", v || null)}
      />
      <NumberField label="Joint area, cm²" quantity="plain" {...form.field("area_cm2")} />
      <NumberField label="Joint width" quantity="length" {...form.field("width_mm")} />
      {broken === "snap" && (
        <NumberField label="Load distance from joint" quantity="length" {...form.field("arm_mm")} />
      )}
    </>
  );
}
