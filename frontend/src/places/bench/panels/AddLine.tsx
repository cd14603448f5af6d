import { DropdownMenu } from "radix-ui";
import type { Layer, Part } from "../../../api/client";
import { MAX_LINES } from "../../../part/edits";
import { named, useStarters } from "../../../part/useStarters";

interface Props {
  part: Part;
  add: (layer: Layer) => void;
}

/** A menu of what may be laid next on this kind of part. */
export function AddLine({ part, add }: Props) {
  const starters = useStarters(part);
  return (
    <div className="px-4 pt-4">
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          className="key-button w-full"
          disabled={part.layers.length >= MAX_LINES || starters.length === 0}
        >
          Add to lay-up
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            sideOffset={4}
            className="z-20 max-h-(--radix-dropdown-menu-content-available-height) w-(--radix-dropdown-menu-trigger-width) overflow-y-auto border border-ink bg-raised"
          >
            {starters.map((s) => (
              <DropdownMenu.Item
                key={s.label}
                onSelect={() => add(named(s, part))}
                className="flex min-h-11 cursor-pointer items-center px-4 outline-none data-highlighted:bg-pick-wash"
              >
                {s.label}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
}
