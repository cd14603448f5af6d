import { useState } from "react";
import { api, problemsOf, type Catalogue, type Problem, type Schemas } from "../../api/client";
import { Choice, NumberField, OptionalNumber, TextField, Tick } from "../../forms/fields";
import { plain } from "../../forms/units";
import { FACES, HOW, PREPARED, type Coupon, type Face } from "./couponWords";
import type { Side } from "./sides";

interface Props {
  catalogue: Catalogue;
  sides: Side[];
  /** The trial that a coupon is broken for, if any. */
  trial: Schemas["TrialOut"] | null;
  added: () => void;
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

const DRAFT = "fletcher.coupon";

/** The coupon as it was typed last, so that a reload loses nothing. */
function drafted(): Coupon {
  try {
    return { ...FIRST, ...(JSON.parse(window.localStorage.getItem(DRAFT) ?? "{}") as Partial<Coupon>) };
  } catch {
    return FIRST;
  }
}

/** A broken coupon: what was glued how, how it was broken, and what its face shows. */
export function CouponForm({ catalogue, sides, trial, added }: Props) {
  const [typed, setTyped] = useState<Coupon>(drafted);
  const [photo, setPhoto] = useState<File | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const [said, setSaid] = useState("");
  const keep = (next: Coupon) => {
    window.localStorage.setItem(DRAFT, JSON.stringify(next));
    setTyped(next);
    setSaid("");
  };
  const wish = trial?.wish;
  const arm = wish ? wish.arms["ABCDEFG".indexOf(typed.label.slice(0, 1))] : undefined;
  const control = wish !== undefined && !arm && typed.label !== "";
  const coupon: Coupon = wish
    ? {
        ...typed,
        one: wish.one,
        other: wish.other,
        broken: wish.broken,
        ...(arm ?? wish.arms[0]),
        ...(control ? { control: true, prepared: "as_cut" as const } : { control: false }),
      }
    : typed;
  const set =
    <K extends keyof Coupon>(key: K) =>
    (value: unknown) =>
      keep({ ...typed, [key]: value as Coupon[K] });
  const at = (key: string) =>
    problems.find((p) => p.path === `coupon.${key}` || p.path.startsWith(`coupon.${key}.`));
  const total = Object.values(coupon.face).reduce((a, b) => a + b, 0);
  const adhesive = catalogue.adhesives.find((a) => a.key === coupon.adhesive);
  const add = async () => {
    const { data, error } = await api.POST("/api/joints/coupons", {
      body: { coupon, trial_id: trial?.id ?? null },
    });
    if (!data) return setProblems(problemsOf(error));
    setProblems([]);
    if (photo) {
      const sent = await api.POST("/api/joints/coupons/{coupon_id}/photo", {
        params: { path: { coupon_id: data.id } },
        body: { photo: photo as unknown as string },
        bodySerializer: () => {
          const form = new FormData();
          form.append("photo", photo);
          return form;
        },
      });
      if (!sent.data) setProblems(problemsOf(sent.error));
      else setPhoto(null);
    }
    keep({ ...typed, face: NONE, load_N: null, label: "", note: "" });
    setSaid("Kept.");
    added();
  };
  const photoProblem = problems.find((p) => p.path === "photo");
  return (
    <form
      aria-label="A broken coupon"
      className="grid grid-cols-2 items-start gap-x-4 gap-y-3"
      onSubmit={(e) => {
        e.preventDefault();
        void add();
      }}
    >
      {trial ? (
        <div className="col-span-full">
          <Choice
            label={`Coupon of “${trial.wish.name}”`}
            value={typed.label}
            options={[
              { value: "", label: "which one?" },
              ...trial.plan.order.map((c) => ({ value: c.label, label: `${c.label}: ${c.says}` })),
            ]}
            onChange={set("label")}
          />
        </div>
      ) : (
        <>
          <Choice label="This" value={typed.one} options={sides} problem={at("one")} onChange={set("one")} />
          <Choice
            label="on this"
            value={typed.other}
            options={sides}
            problem={at("other")}
            onChange={set("other")}
          />
          <div className="col-span-full">
            <Choice
              label="Adhesive"
              value={typed.adhesive}
              options={catalogue.adhesives.map((a) => ({ value: a.key, label: a.name }))}
              problem={at("adhesive")}
              onChange={(v) => keep({ ...typed, adhesive: v, technique: null })}
            />
          </div>
          {adhesive && Object.keys(adhesive.techniques).length > 1 && (
            <div className="col-span-full">
              <Choice
                label="Put on"
                value={typed.technique ?? Object.keys(adhesive.techniques)[0]!}
                options={Object.entries(adhesive.techniques).map(([value, label]) => ({ value, label }))}
                problem={at("technique")}
                onChange={set("technique")}
              />
            </div>
          )}
          <Choice label="Faces were" value={typed.prepared} options={PREPARED} onChange={set("prepared")} />
          <Choice label="Broken by" value={typed.broken} options={HOW} onChange={set("broken")} />
        </>
      )}
      <NumberField
        label="Minutes from closing"
        value={typed.minutes}
        quantity="plain"
        step={30}
        problem={at("minutes")}
        onChange={set("minutes")}
      />
      <NumberField
        label="Workshop"
        value={typed.warmth_C}
        quantity="warmth"
        problem={at("warmth_C")}
        onChange={set("warmth_C")}
      />
      <OptionalNumber
        label="Load, if measured"
        value={typed.load_N ?? null}
        quantity="force"
        problem={at("load_N")}
        onChange={set("load_N")}
      />
      <Choice
        label="else effort"
        value={typed.effort ?? ""}
        options={[
          { value: "", label: "not noted" },
          { value: "low", label: "low: less than expected" },
          { value: "medium", label: "medium: as expected" },
          { value: "high", label: "high: more than expected" },
        ]}
        onChange={(v) => set("effort")(v || null)}
      />
      <NumberField
        label="Face, cm²"
        value={typed.area_cm2}
        quantity="plain"
        problem={at("area_cm2")}
        onChange={set("area_cm2")}
      />
      <NumberField
        label="Its narrower side"
        value={typed.width_mm}
        quantity="length"
        problem={at("width_mm")}
        onChange={set("width_mm")}
      />
      {coupon.broken === "snap" && (
        <NumberField
          label="Load to seam"
          value={typed.arm_mm}
          quantity="length"
          problem={at("arm_mm")}
          onChange={set("arm_mm")}
        />
      )}
      <fieldset className="col-span-full border-t border-ink pt-2">
        <legend className="label-type pr-2">
          The broken face, in shares:{" "}
          <span className={Math.abs(total - 100) > 1 ? "text-fail" : ""}>{plain(total)} of 100 %</span>
        </legend>
        <div className="grid grid-cols-2 items-start gap-x-4 gap-y-2">
          {FACES.map(([key, label, hint]) => (
            <div key={key} className="grid grid-cols-[minmax(0,1fr)_auto] items-start gap-x-1">
              <NumberField
                label={label}
                value={typed.face[key]}
                quantity="percent"
                step={10}
                problem={at(`face.${key}`)}
                hint={hint}
                onChange={(v) => keep({ ...typed, face: { ...typed.face, [key]: v } })}
              />
              <button
                type="button"
                className="key-button mt-[1.45rem] px-2"
                aria-label={`The rest is: ${label}`}
                disabled={total >= 100}
                onClick={() =>
                  keep({ ...typed, face: { ...typed.face, [key]: typed.face[key] + 100 - total } })
                }
              >
                rest
              </button>
            </div>
          ))}
        </div>
        {at("face") && (
          <p role="alert" className="text-[0.85rem] text-fail">
            The shares {at("face")!.message} Found: {at("face")!.value}.
          </p>
        )}
      </fieldset>
      {!trial && (
        <div className="col-span-full">
          <Tick
            label="An untreated control, to compare with"
            checked={typed.control}
            onChange={set("control")}
          />
        </div>
      )}
      <label className="label-type col-span-full grid gap-1 text-[0.85rem]">
        Photograph of the face
        <input
          type="file"
          accept="image/jpeg,image/png,image/webp"
          className="field-box py-1.5"
          onChange={(e) => setPhoto(e.target.files?.[0] ?? null)}
        />
        <span className="font-sans text-[0.8rem] font-normal text-soft">
          JPEG, PNG or WebP, at most 8 MB; only the picture is kept
        </span>
      </label>
      {photoProblem && (
        <p role="alert" className="col-span-full text-[0.85rem] text-fail">
          The coupon is kept, its photograph is not: it {photoProblem.message}
        </p>
      )}
      <div className="col-span-full">
        <TextField
          label="Note"
          value={typed.note}
          longest={400}
          lines={2}
          problem={at("note")}
          onChange={set("note")}
        />
      </div>
      <button
        type="submit"
        className="key-button col-span-full"
        disabled={trial !== null && typed.label === ""}
      >
        Keep this coupon
      </button>
      <p role="status" className="col-span-full min-h-5 text-[0.9rem]">
        {said}
      </p>
    </form>
  );
}
