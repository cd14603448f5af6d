import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { accepted } from "../../api/changes";
import { api, type Problem, Refused } from "../../api/client";
import { saveBlob } from "../../charts/save";
import { Choice, NumberField, TextField } from "../../forms/fields";
import { FileButton } from "../../forms/FileButton";
import { show } from "../../forms/units";
import { useTyped } from "../../forms/useTyped";
import { InHead } from "../../words/InHead";
import { ProblemList } from "../../words/ProblemList";
import { tagOf } from "../../words/tags";
import { Picture } from "./Picture";
import { asked, NOTHING_TRACED, withoutLast, withPoint, type Growing, type Step } from "./trace";
import { usePicture } from "./usePicture";

const STEPS: { value: Step; label: string }[] = [
  { value: "scale", label: "1. Scale" },
  { value: "check", label: "2. Check" },
  { value: "outline", label: "3. Outline" },
];

const SAYS: Record<Step, string> = {
  scale: "Set two points whose distance you know, best the ends of a ruler beside the piece.",
  check: "Set two more points, best square to the first: they show whether the camera was straight above.",
  outline: "Go round the piece, corner by corner.",
};

/** A piece traced over a photograph: scale, check, outline, then a template as large as it is. */
export function Trace() {
  const { airframeId = "" } = useParams();
  const [now, write] = useTyped<Growing>("fletcher.trace", NOTHING_TRACED);
  const picture = usePicture();
  const [step, setStep] = useState<Step>("scale");
  const [paper, setPaper] = useState<"A4" | "Letter">("A4");
  const [trouble, setTrouble] = useState<Problem[]>([]);
  const trace = useMemo(() => asked(now), [now]);
  const found = useQuery({
    queryKey: ["trace", tagOf(trace ?? {})],
    queryFn: async ({ signal }) =>
      (await accepted(api.POST("/api/build/trace", { body: { trace: trace!, paper: "A4" }, signal })))!,
    enabled: trace !== null,
    retry: false,
    placeholderData: keepPreviousData,
    gcTime: 60_000,
  });
  const problems = found.error instanceof Refused ? found.error.problems : trouble;
  const look = trace && !found.error ? found.data : undefined;
  const save = async () => {
    setTrouble([]);
    try {
      const file = await accepted(
        api.POST("/api/build/trace.zip", { body: { trace: trace!, paper }, parseAs: "blob" }),
      );
      saveBlob(file as unknown as Blob, "traced.zip");
    } catch (refused) {
      if (refused instanceof Refused) setTrouble(refused.problems);
    }
  };
  const open = (file: File) =>
    void picture
      .open(file)
      .then((size) => size && write((was) => ({ ...NOTHING_TRACED, name: was.name, size })));
  return (
    <>
      <InHead>
        <h1 className="text-lead font-bold">Trace a photograph</h1>
      </InHead>
      <main className="mx-auto grid w-full max-w-[88rem] gap-x-10 gap-y-4 px-6 pt-4 pb-10 max-sm:px-4 lg:grid-cols-[minmax(0,1fr)_21rem]">
        <div>
          {picture.url && now.size ? (
            <Picture
              url={picture.url}
              size={now.size}
              now={now}
              step={step}
              set={(at) => write((was) => withPoint(was, step, at))}
              back={() => write((was) => withoutLast(was, step))}
            />
          ) : (
            <p className="border border-dashed border-ink p-8 text-center leading-relaxed">
              Photograph the piece flat, from straight above and far away, with a ruler beside it.
              <br />
              The picture stays in this browser.
            </p>
          )}
          {picture.trouble && (
            <p role="alert" className="pt-2 text-fail">
              {picture.trouble}
            </p>
          )}
        </div>
        <div className="grid content-start gap-4">
          <p className="flex flex-wrap gap-2">
            <FileButton
              label={picture.url ? "Another photograph" : "Open a photograph"}
              name="Photograph of the piece"
              accept="image/jpeg,image/png,image/webp"
              onFile={open}
            />
            <Link className="key-button" to={`/build/${airframeId}`}>
              Build sheet
            </Link>
          </p>
          <PointSteps now={now} write={write} step={step} setStep={setStep} problems={problems} />
          <TextField
            label="Name"
            value={now.name}
            longest={60}
            onChange={(name) => write((was) => ({ ...was, name }))}
          />
          {problems.length > 0 && trace && (
            <div role="alert" className="text-fail">
              <ProblemList problems={problems} />
            </div>
          )}
          {look && (
            <p role="status" className="border-y border-ink py-2 leading-snug">
              <strong className="figure-type text-lead">
                {show(look.long_mm, "length", 4)} × {show(look.wide_mm, "length", 4)}
              </strong>
              {look.off_percent != null && ` · second distance off by ${look.off_percent.toFixed(1)}\u00a0%`}
              {look.says && <span className="block text-fail">⚠ {look.says}</span>}
            </p>
          )}
          <Choice
            label="Paper"
            value={paper}
            options={[
              { value: "A4", label: "A4" },
              { value: "Letter", label: "Letter" },
            ]}
            onChange={setPaper}
          />
          <button
            type="button"
            className={look ? "key-main" : "key-button"}
            disabled={!look}
            onClick={() => void save()}
          >
            Save template 1:1
          </button>
        </div>
      </main>
    </>
  );
}

interface PointsProps {
  now: Growing;
  write: (edit: (now: Growing) => Growing) => void;
  step: Step;
  setStep: (step: Step) => void;
  problems: Problem[];
}

/** Which points are set now, how far those of a pair lie apart, and taking them back. */
function PointSteps({ now, write, step, setStep, problems }: PointsProps) {
  return (
    <>
      <div role="group" aria-label="What to set" className="grid grid-cols-3">
        {STEPS.map((s) => (
          <button
            key={s.value}
            type="button"
            className={`min-h-11 px-2 text-left font-label font-semibold ${step === s.value ? "text-pick underline decoration-2 underline-offset-8" : ""}`}
            aria-pressed={step === s.value}
            onClick={() => setStep(s.value)}
          >
            {s.label}
          </button>
        ))}
      </div>
      <p className="leading-snug">{SAYS[step]}</p>
      {step === "scale" && (
        <NumberField
          label="Distance between the two points"
          value={now.scaleMm}
          quantity="length"
          problem={problems.find((p) => p.path.endsWith("scale.mm"))}
          onChange={(scaleMm) => write((was) => ({ ...was, scaleMm }))}
        />
      )}
      {step === "check" && (
        <NumberField
          label="Distance between these two"
          value={now.checkMm}
          quantity="length"
          problem={problems.find((p) => p.path.endsWith("check.mm"))}
          onChange={(checkMm) => write((was) => ({ ...was, checkMm }))}
        />
      )}
      <p className="flex flex-wrap gap-2">
        <button
          type="button"
          className="key-button"
          disabled={now[step].length === 0}
          onClick={() => write((was) => withoutLast(was, step))}
        >
          Take last point back
        </button>
        <button
          type="button"
          className="key-button"
          disabled={now[step].length === 0}
          onClick={() => write((was) => ({ ...was, [step]: [] }))}
        >
          Begin again
        </button>
      </p>
    </>
  );
}
