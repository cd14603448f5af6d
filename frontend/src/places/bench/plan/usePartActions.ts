import { useNavigate } from "react-router";
import type { Airframe, Part } from "../../../api/client";
import { troubleOf, useNewAirframe } from "../../../api/changes";
import { freshId } from "../../../forms/ids";
import { withPart } from "../../../part/edits";
import type { Keeper } from "../../../part/keeper";
import type { usePins } from "../usePins";

/** What can be done with the whole part: pinned up, taken from elsewhere, made an airframe of its own, set apart. */
export function usePartActions(
  keeper: Keeper,
  part: Part,
  pins: ReturnType<typeof usePins>,
  taken: () => void,
) {
  const another = useNewAirframe();
  const navigate = useNavigate();
  const pinNow = async (name: string) => {
    await keeper.flush();
    return pins.pin(keeper.get().revision, name);
  };
  const take = (next: Part, mass?: number) => {
    keeper.edit((d) => ({
      ...withPart(d, part.id, () => ({ ...next, id: part.id })),
      ...(mass ? { all_up_mass_g: mass } : {}),
    }));
    taken();
  };
  const newFrom = async (from: Airframe) => {
    const name = `${from.name}, copy`.slice(0, 80);
    // what was weighed was the other one
    const trouble = await troubleOf(another.mutateAsync({ ...from, name, weighings: [] }));
    if (trouble === null) void navigate("/");
    return trouble;
  };
  const setApart = () =>
    keeper.edit((d) => {
      const id = freshId(
        `${part.id}-right`.slice(0, 30),
        (d.parts ?? []).map((p) => p.id),
      );
      const right: Part = { ...part, id, name: `${part.name} (right)`.slice(0, 80), hand: "right" };
      const left = withPart(d, part.id, (p) => ({ ...p, hand: "left" }));
      return { ...left, parts: [...left.parts, right] };
    });

  return { pinNow, take, newFrom, setApart };
}
