import { useState } from "react";
import { useStepPhoto } from "../../api/changes";
import type { Airframe } from "../../api/client";
import { FileButton } from "../../forms/FileButton";
import { Tick } from "../../forms/fields";
import { parseQuantity, show } from "../../forms/units";
import { CautionLines } from "../../words/Cautions";
import { titleOf, type Press, type StepNow } from "./bench";
import { GateChecks } from "./GateChecks";
import { SettingCards } from "./SettingCards";
import { clock, span } from "./shop";
import { StepDrawing } from "./StepDrawing";
import type { Bench } from "./useWork";
import { Wetting } from "./Wetting";

interface Props {
  step: StepNow;
  document: Airframe;
  airframe: string;
  press: Bench["press"];
}

/** One step, large: where it is, what is set and checked, and four buttons for gloves. */
export function RunStep({ step, document, airframe, press }: Props) {
  const { o } = step;
  const photo = useStepPhoto(airframe);
  const [note, setNote] = useState("");
  const [boxed, setBoxed] = useState(true);
  const value = parseQuantity(note, "plain");
  const open = step.gates.filter((g) => g.stands === "open" || g.stands === "failed");
  // what cannot be undone waits for its checks; anything waits where one was not passed
  const blocked = open.some((g) => g.stands === "failed") || (!o.undoes && open.length > 0);
  const tell = (what: Press["what"], more: Partial<Press> = {}) => {
    press({
      what,
      key: o.key,
      gate: "",
      result: "",
      value: null,
      note: "",
      knows: [],
      made_of: what === "done" ? o.made_of : "",
      box_C: what === "done" && boxed ? (o.box_C ?? null) : null,
      ...more,
    });
    if (what !== "more") setNote("");
  };
  const said = { value, note: value === null ? note.trim() : "" };
  return (
    <section aria-label="Now" className="pt-4">
      <h2 className="text-title leading-tight font-bold">{o.title[0]!.toUpperCase() + o.title.slice(1)}</h2>
      <p className="mt-1 text-body">
        {o.piece || "Whole airframe"} · about {Math.round(o.minutes.typ)} min
        {o.people > 1 && ` · ${o.people} people`}
        {step.state === "running" && ` · begun ${clock(step.begins)}, until about ${clock(step.ends)}`}
      </p>
      {o.tools.length > 0 && (
        <p className="text-small text-soft">Tools: {o.tools.join(", ").replaceAll("_", " ")}</p>
      )}
      <div className="my-3">
        <StepDrawing document={document} o={o} />
      </div>
      {o.how && <p className="my-2 max-w-prose leading-snug">{o.how}</p>}
      {o.never?.map((text) => (
        <p key={text} className="leading-snug text-fail">
          ✕ Do not: {text}
        </p>
      ))}
      <CautionLines cautions={o.cautions} />
      <p className="mt-2 flex flex-wrap items-center gap-3">
        <FileButton
          label={photo.isPending ? "Sending…" : "Photo into the Log"}
          name={`Photo of: ${titleOf(o)}`}
          accept="image/jpeg,image/png,image/webp"
          onFile={(file) => photo.mutate({ says: `Build: ${titleOf(o)}`, part: o.part_id, file })}
        />
        {photo.isSuccess && <span role="status">In the Log.</span>}
        {photo.error && (
          <span role="alert" className="text-fail">
            {photo.error.problems[0]!.message}
          </span>
        )}
      </p>
      <SettingCards cards={o.cards} open />
      {step.state === "running" &&
        o.cards.map((c) => c.wets_dm2 != null && <Wetting key={c.title} card={c} step={o.key} />)}
      {o.box_C != null && (
        <Tick
          label={`Goes into the warm box at once, ${show(o.box_C, "warmth", 2)}, for ${span(o.fixed_min)}`}
          checked={boxed}
          onChange={setBoxed}
        />
      )}
      <GateChecks step={step} press={press} />
      {open.length > 0 && (
        <p className="mt-3 font-semibold">
          {o.undoes ? "Not looked at yet:" : "This cannot be undone. First pass"}{" "}
          {open.length === 1 ? "1 check" : `${open.length} checks`}.
        </p>
      )}
      <div className="mt-4 grid grid-cols-2 gap-3 sm:grid-cols-4">
        <input
          aria-label="Measured or noted"
          placeholder="measured, noted"
          className="field-box col-span-full min-h-16"
          value={note}
          maxLength={200}
          onChange={(e) => setNote(e.target.value)}
        />
        {step.state === "open" && (
          <button
            type="button"
            className={`${blocked ? "key-button" : "key-main"} min-h-16 text-lead`}
            disabled={blocked}
            onClick={() => tell("begun")}
          >
            Begin
          </button>
        )}
        {step.state === "running" && (
          <button
            type="button"
            className="key-button min-h-16 text-lead"
            onClick={() => tell("more", { value: 10 })}
          >
            +10 min
          </button>
        )}
        <button
          type="button"
          className="key-button min-h-16 text-lead text-fail"
          onClick={() => tell("not_right", said)}
        >
          Not right
        </button>
        <button
          type="button"
          className={`${step.state === "running" && !blocked ? "key-main" : "key-button"} min-h-16 text-lead sm:col-span-2`}
          disabled={blocked}
          onClick={() => tell("done", said)}
        >
          Done
        </button>
      </div>
    </section>
  );
}
