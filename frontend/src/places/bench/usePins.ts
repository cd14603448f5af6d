import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, must, type Airframe, type Part, type Schemas } from "../../api/client";
import { troubleOf, usePinUp, useRenamePin, useUnpin } from "../../api/changes";
import { usePinned } from "../../api/queries";
import { useSettled } from "../../forms/useSettled";

export type Pin = Schemas["PinOut"];
export type Figures = Schemas["Figures"];

export interface Pins {
  pins: Pin[];
  /** Figures of each pin under the present load cases, by its id; missing while they are computed. */
  figures: Map<number, Figures>;
  /** Pin the part up as it was in a revision, or a part from elsewhere; the message of a refusal, or null. */
  pin: (what: number | Part, name: string) => Promise<string | null>;
  rename: ReturnType<typeof useRenamePin>;
  unpin: ReturnType<typeof useUnpin>;
}

/** The variants of one part that are pinned up. */
export function usePins(
  airframeId: string,
  document: Airframe,
  part: Part,
  caseId: string,
  /** Compare only when the estimate itself is there, and the load rests: what is being typed comes first. */
  ready: boolean,
): Pins {
  const pinUp = usePinUp(airframeId);
  const rename = useRenamePin(airframeId);
  const unpin = useUnpin(airframeId);
  const kept = usePinned(airframeId);
  const pins = (kept.data ?? []).filter((p) => p.part_id === part.id);
  const { all_up_mass_g, top_speed_m_s, setting } = document;
  const loads = JSON.stringify([part.cases, all_up_mass_g, top_speed_m_s, setting]);
  const rested = useSettled(loads) === loads;
  const compared = useQuery({
    // the lay-up of the present part has no part in it
    queryKey: ["compare", pins.map((p) => p.id), caseId, loads],
    queryFn: ({ signal }) =>
      must(
        api.POST("/api/studies/compare", {
          body: { document, part_id: part.id, case_id: caseId, parts: pins.map((p) => p.part) },
          signal,
        }),
      ),
    enabled: ready && rested && pins.length > 0,
    retry: false,
    placeholderData: keepPreviousData,
  });
  const figures = new Map<number, Figures>();
  const told = compared.data ?? [];
  if (told.length === pins.length) pins.forEach((p, i) => figures.set(p.id, told[i]!));
  const pin = (what: number | Part, name: string) =>
    troubleOf(
      pinUp.mutateAsync({
        part_id: part.id,
        name,
        ...(typeof what === "number" ? { revision: what } : { part: what }),
      }),
    );
  return { pins, figures, pin, rename, unpin };
}

/** Work to the first break, bent the weaker way. */
export function weaker(estimate: Schemas["Estimate"]): Schemas["Band"] | null {
  const works = estimate.toughness.map((t) => t.first_mJ);
  return works.reduce<Schemas["Band"] | null>((a, b) => (a && a.typ <= b.typ ? a : b), null);
}

/** The figures of the live estimate, in the form in which variants are laid side by side. */
export function figuresOf(estimate: Schemas["Estimate"]): Figures {
  return {
    added_g: estimate.added_g,
    mass_g: estimate.mass_g,
    bend_mm: estimate.deflection_mm,
    twist_deg: estimate.twist_deg,
    breaks_at: estimate.breaks_at,
    margin: estimate.margin,
    governs: estimate.verdicts.find((v) => v.case_id === estimate.governs)?.name ?? "",
    first: estimate.first.sentence,
    at_mm: estimate.first.at_mm,
    behaviour: estimate.snaps[0]?.sentence ?? null,
    balance_mm: estimate.balance_mm,
    cost: estimate.effort.cost,
    hours: estimate.effort.hours,
    tough_mJ: weaker(estimate),
    bow_mm: estimate.warp?.bow_mm ?? null,
    divergence_m_s: estimate.shakes?.divergence_m_s ?? null,
    own_cases: false,
  };
}

/** The part with everything of a variant, but its own loads, targets, place and name. */
export function adopted(part: Part, variant: Part): Part {
  const { id, name, targets, place, hand } = part;
  const cases = variant.span_mm === part.span_mm ? part.cases : variant.cases;
  return { ...variant, id, name, targets, place, hand, cases };
}
