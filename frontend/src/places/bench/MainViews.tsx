import { Tabs } from "radix-ui";
import { useState } from "react";
import type { Catalogue, Estimate, LoadCase, Part, Problem } from "../../api/client";
import { CutView } from "./cross-section/CutView";
import { DamageView } from "../../part/DamageView";
import { DetailsView } from "./views/DetailsView";
import { ExactView } from "./views/ExactView";
import { Findings } from "./views/Findings";
import { HandView } from "./views/HandView";
import { LikeView } from "./views/LikeView";
import { LimitsView } from "./views/LimitsView";
import { MakingView } from "./views/MakingView";
import { PlotsView } from "./views/PlotsView";
import { SpanSheet } from "./views/SpanSheet";
import { VariantsView } from "./views/VariantsView";
import { InHead } from "../../words/InHead";
import type { Pin, Pins } from "./usePins";
import type { Subject } from "../../part/useStudy";

/** The views in their three groups: to look, to judge, to change; the first of a group stands apart. */
export const VIEWS = [
  ["sheet", "Drawing", "look"],
  ["cut", "Cross-section", "look"],
  ["plots", "Plots", "look"],
  ["limits", "Headroom", "judge"],
  ["exact", "Tolerances", "judge"],
  ["hand", "Toughness", "judge"],
  ["details", "Joint checks", "judge"],
  ["like", "Match & scale", "change"],
  ["variants", "Variants", "change"],
  ["making", "Cutting & forming", "change"],
  ["damage", "Damage", "change"],
] as const;

export type View = (typeof VIEWS)[number][0];

interface Props {
  view: View;
  show: (view: View) => void;
  /** The estimate at the load that the slider shows, and at its far end; and as it is. */
  shown: Estimate;
  farthest: Estimate;
  estimate: Estimate;
  part: Part;
  chosen: LoadCase;
  catalogue: Catalogue;
  load: number;
  cursor: number;
  setCursor: (y: number) => void;
  change: (edit: (part: Part) => Part) => void;
  selected: string | null;
  setSelected: (id: string | null) => void;
  openWorking: (figure: string) => void;
  subject: Subject;
  pins: Pins;
  pinNow: (name: string) => Promise<string | null>;
  adopt: (pin: Pin) => void;
  take: (part: Part, mass?: number) => void;
  against: number | null;
  setAgainst: (id: number | null) => void;
  openHistory: () => void;
  putting: boolean;
  setPutting: (on: boolean) => void;
  name: string;
  problems: Problem[];
  /** Where the part stands in the document, as problems name it. */
  path: string;
}

const CONTENT = "min-h-0 flex-1 overflow-y-auto";

/** The views of the part: the drawing with its cut, and the studies. */
export function MainViews(props: Props) {
  const { view, show, shown, part, cursor, setCursor, selected, setSelected, pins, against, setAgainst } =
    props;
  const { estimate, catalogue, subject, pinNow, openHistory, change } = props;
  const [trouble, setTrouble] = useState("");
  return (
    <Tabs.Root value={view} onValueChange={(v) => show(v as View)} className="flex min-h-0 flex-1 flex-col">
      <Tabs.List
        aria-label="Views"
        className="flex flex-wrap border-b border-rule px-3 max-sm:flex-nowrap max-sm:overflow-x-auto"
      >
        {VIEWS.map(([key, label, group], n) => (
          <Tabs.Trigger
            key={key}
            value={key}
            className={`label-type relative min-h-10 border-b-[3px] border-transparent px-2 whitespace-nowrap data-[state=active]:border-pick data-[state=active]:text-pick ${
              n > 0 && VIEWS[n - 1]![2] !== group
                ? "ml-3 before:absolute before:top-2.5 before:-left-1.5 before:h-5 before:border-l before:border-hair"
                : ""
            }`}
          >
            {label}
            {key === "variants" && pins.pins.length > 0 && ` ${pins.pins.length}`}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <InHead>
        <span className="order-first flex items-center gap-1.5">
          {trouble && <span className="text-small text-fail">{trouble}</span>}
          {pins.pins.length > 0 && (
            <select
              aria-label="Compare with variant"
              className="field-box w-36"
              value={against ?? ""}
              onChange={(e) => setAgainst(e.target.value ? Number(e.target.value) : null)}
            >
              <option value="">Compare with…</option>
              {pins.pins.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </select>
          )}
          <button
            type="button"
            className="key-button"
            disabled={pins.pins.length >= 6}
            onClick={() => void pinNow(`Variant ${pins.pins.length + 1}`).then((t) => setTrouble(t ?? ""))}
          >
            Keep as variant
          </button>
        </span>
      </InHead>
      <Tabs.Content value="sheet" className={CONTENT}>
        <div className="grid grid-cols-[minmax(0,1fr)_17rem] max-md:grid-cols-1">
          <div className="min-w-0">
            <SpanSheet {...props} estimate={shown} />
            <CutView estimate={shown} {...{ part, selected, setSelected, cursor, change }} />
          </div>
          <Findings estimate={shown} load={props.load} cursor={cursor} openWorking={props.openWorking} />
        </div>
      </Tabs.Content>
      <Tabs.Content value="cut" className={CONTENT}>
        <CutView estimate={shown} {...{ part, selected, setSelected, cursor, change, setCursor }} large />
      </Tabs.Content>
      <Tabs.Content value="plots" className={CONTENT}>
        <PlotsView estimate={shown} {...{ cursor, setCursor }} name={props.name} />
      </Tabs.Content>
      <Tabs.Content value="limits" className={CONTENT}>
        <LimitsView subject={subject} />
      </Tabs.Content>
      <Tabs.Content value="exact" className={CONTENT}>
        <ExactView {...{ subject, part, catalogue, setSelected }} />
      </Tabs.Content>
      <Tabs.Content value="hand" className={CONTENT}>
        <HandView {...{ estimate, part, catalogue }} openWorking={props.openWorking} name={props.name} />
      </Tabs.Content>
      <Tabs.Content value="making" className={CONTENT}>
        <MakingView {...{ subject, estimate }} name={props.name} />
      </Tabs.Content>
      <Tabs.Content value="details" className={CONTENT}>
        <DetailsView {...{ subject, part, catalogue, change, setSelected }} stretches={estimate.stretches} />
      </Tabs.Content>
      <Tabs.Content value="like" className={CONTENT}>
        <LikeView {...{ subject, part, catalogue, estimate, pins }} take={props.take} />
      </Tabs.Content>
      <Tabs.Content value="damage" className={CONTENT}>
        <DamageView {...{ subject, part, catalogue, change }} problems={props.problems} path={props.path} />
      </Tabs.Content>
      <Tabs.Content value="variants" className={CONTENT}>
        <VariantsView
          {...{ part, estimate, pins, pinNow, openHistory }}
          document={subject.document}
          adopt={props.adopt}
        />
      </Tabs.Content>
    </Tabs.Root>
  );
}
