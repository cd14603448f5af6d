import { DropdownMenu } from "radix-ui";
import type { Part } from "../../api/client";
import { MAX_LINES } from "../../part/edits";
import { named, useStarters, type Starter } from "../../part/useStarters";
import { putAt } from "./plan/snapping";

/** A place on the plan: along the part in mm, across in per cent of the chord, and where it is on the sheet, px. */
export interface Spot {
  y: number;
  percent: number;
  left: number;
  top: number;
}

interface Props {
  spot: Spot;
  open: boolean;
  setOpen: (open: boolean) => void;
  part: Part;
  change: (edit: (part: Part) => Part) => void;
  setSelected: (id: string) => void;
}

/** What can be put where the plan was pressed twice, or at the cut. */
export function PutMenu({ spot, open, setOpen, part, change, setSelected }: Props) {
  const starters = useStarters(part);
  const put = (starter: Starter) => {
    const layer = named(starter, part);
    change((p) => ({ ...p, layers: [...p.layers, putAt(layer, p, spot.y, spot.percent)] }));
    setSelected(layer.id);
  };
  return (
    <DropdownMenu.Root open={open} onOpenChange={setOpen} modal={false}>
      <DropdownMenu.Trigger
        aria-label="Add something here"
        title="Add something here"
        className="absolute z-10 grid size-10 -translate-x-1/2 place-items-center"
        style={{ left: spot.left, top: spot.top }}
      >
        <span className="grid size-6 place-items-center rounded-full border border-pick bg-raised font-label text-base leading-none text-pick">
          +
        </span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          sideOffset={2}
          align="start"
          className="z-20 max-h-(--radix-dropdown-menu-content-available-height) min-w-60 overflow-y-auto border border-ink bg-raised"
        >
          <DropdownMenu.Label className="label-type px-4 pt-2 pb-1 text-soft">Add here</DropdownMenu.Label>
          {starters.map((s) => (
            <DropdownMenu.Item
              key={s.label}
              disabled={part.layers.length >= MAX_LINES}
              onSelect={() => put(s)}
              className="flex min-h-10 cursor-pointer items-center px-4 outline-none data-highlighted:bg-pick-wash"
            >
              {s.label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
