import { Tabs } from "radix-ui";
import type { Airframe, Catalogue, Estimate, LoadCase, Part, Problem } from "../../../api/client";
import type { Subject } from "../../../part/useStudy";
import { LayupPanel } from "../panels/LayupPanel";
import { LoadPanel } from "../panels/LoadPanel";
import { OwnMaterials } from "../panels/OwnMaterials";
import { ShapePanel } from "../panels/ShapePanel";
import { TargetsPanel } from "../panels/TargetsPanel";

const PANELS = [
  ["layup", "Lay-up"],
  ["shape", "Shape"],
  ["load", "Loads"],
  ["wanted", "Targets"],
] as const;

interface Props {
  panel: string;
  setPanel: (panel: string) => void;
  document: Airframe;
  part: Part;
  problems: Problem[];
  path: string;
  change: (edit: (part: Part) => Part) => void;
  edit: (change: (document: Airframe) => Airframe) => void;
  /** With the builder's own materials; `reference` without. */
  catalogue: Catalogue;
  reference: Catalogue;
  estimate: Estimate | null;
  subject: Subject;
  chosen: LoadCase;
  pick: (id: string) => void;
  selected: string | null;
  setSelected: (id: string | null) => void;
  setApart: () => void;
  openWorking: (figure: string) => void;
}

/** What to change, beside the drawing. */
export function BenchPanels(props: Props) {
  const { panel, setPanel, document, part, problems, path, change, edit, catalogue, reference } = props;
  const { estimate, subject, chosen, pick, selected, setSelected, setApart, openWorking } = props;
  const shared = { part, problems, path, change };
  return (
    <Tabs.Root
      value={panel}
      onValueChange={setPanel}
      className="flex min-h-0 flex-col border-rule min-[1100px]:border-r max-[1099px]:order-3"
    >
      <Tabs.List aria-label="Edit this part" className="flex border-b border-rule px-2">
        {PANELS.map(([value, label]) => (
          <Tabs.Trigger
            key={value}
            value={value}
            className="label-type min-h-11 flex-1 border-b-[3px] border-transparent data-[state=active]:border-pick data-[state=active]:text-pick"
          >
            {label}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value="layup" className="min-h-0 flex-1 overflow-y-auto">
        <LayupPanel {...shared} {...{ catalogue, estimate, subject, selected, setSelected }} />
        <details className="px-4 pb-6">
          <summary className="label-type min-h-10 cursor-pointer">
            Measured by you{document.materials?.length ? ` (${document.materials.length})` : ""}
          </summary>
          <OwnMaterials {...{ document, problems }} catalogue={reference} edit={edit} />
        </details>
      </Tabs.Content>
      <Tabs.Content value="shape" className="min-h-0 flex-1 overflow-y-auto p-5">
        <ShapePanel {...shared} {...{ catalogue, document, setApart }} edit={edit} />
      </Tabs.Content>
      <Tabs.Content value="load" className="min-h-0 flex-1 overflow-y-auto p-5">
        <LoadPanel {...shared} {...{ document, chosen, estimate, catalogue, openWorking }} pick={pick} />
      </Tabs.Content>
      <Tabs.Content value="wanted" className="min-h-0 flex-1 overflow-y-auto p-5">
        <TargetsPanel {...shared} {...{ chosen, estimate }} />
      </Tabs.Content>
    </Tabs.Root>
  );
}
