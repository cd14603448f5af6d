import { DropdownMenu } from "radix-ui";
import { useQuery } from "@tanstack/react-query";
import { api, must, type Part, type Schemas } from "../api/client";
import { tagOf } from "../words/tags";
import type { Subject } from "./useStudy";

export type Mark = NonNullable<Part["damage"]>[number];

/** Where a part was pressed: mm from the root and per cent behind the nose, null where none in particular. */
export interface Pressed {
  at: number;
  percent: number | null;
}

interface Props {
  subject: Subject;
  pressed: Pressed;
  put: (mark: Mark) => void;
}

/** What may be marked at a place of this construction, in its own words; each mark comes placed. */
export function MarkMenu({ subject, pressed, put }: Props) {
  const body = { ...subject, at_mm: pressed.at, percent: pressed.percent };
  const offers = useQuery({
    queryKey: ["offers", tagOf(subject.document), subject.part_id, pressed],
    queryFn: ({ signal }) => must(api.POST("/api/crash/offers", { body, signal })),
    retry: false,
    gcTime: 60_000,
  });
  return (
    <DropdownMenu.Portal>
      <DropdownMenu.Content
        align="start"
        sideOffset={4}
        aria-label="Damage here"
        className="z-20 max-h-(--radix-dropdown-menu-content-available-height) min-w-60 overflow-y-auto border border-ink bg-raised"
      >
        {offers.isPending && <p className="px-4 py-3 text-body text-soft">Loading…</p>}
        {offers.isError && (
          <p className="max-w-72 px-4 py-3 text-body text-fail">Mend what is refused of this part first.</p>
        )}
        {offers.data?.map((offer: Schemas["Offer"]) => (
          <DropdownMenu.Item
            key={offer.says}
            onSelect={() => put(offer.mark)}
            className="flex min-h-11 cursor-pointer items-center px-4 outline-none data-highlighted:bg-pick-wash"
          >
            {offer.says}
          </DropdownMenu.Item>
        ))}
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  );
}

/** The part with one more mark. */
export const withMark =
  (mark: Mark) =>
  (part: Part): Part => ({ ...part, damage: [...(part.damage ?? []), mark] });
