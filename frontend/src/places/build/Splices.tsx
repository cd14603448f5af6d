import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { accepted } from "../../api/changes";
import { api, type Airframe, type Schemas } from "../../api/client";
import { tagOf } from "../../words/tags";

type Offer = Schemas["SpliceOffer"];

interface Props {
  document: Airframe;
  wish: Schemas["CutWish"];
  edit: (change: (d: Airframe) => Airframe) => void;
}

/** Spars that are longer than they are sold: where to join them, by one press. */
export function Splices({ document, wish, edit }: Props) {
  const found = useQuery({
    queryKey: ["splices", tagOf(document), tagOf(wish)],
    queryFn: async ({ signal }) =>
      (await accepted(api.POST("/api/studies/splices", { body: { document, wish }, signal })))!,
    retry: false,
    placeholderData: keepPreviousData,
    gcTime: 60_000,
  });
  if (!found.data) return null;
  return (
    <section aria-label="Join long spars" className="border-b border-rule">
      {found.data.offers.map((o) => (
        <p key={o.layer_id} className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 py-2">
          <span className="max-w-prose leading-snug">{o.says}</span>
          <button
            type="button"
            className="key-button print:hidden"
            disabled={found.isPlaceholderData}
            onClick={() => edit((d) => joined(d, o))}
          >
            Join it there
          </button>
        </p>
      ))}
      {found.data.nowhere.map((says) => (
        <p key={says} className="py-2 leading-snug">
          <strong className="text-fail">⚠</strong> {says}
        </p>
      ))}
    </section>
  );
}

/** The document with a spar joined as it was offered. */
export function joined(document: Airframe, offer: Offer): Airframe {
  const { splices, sleeve } = offer.layer;
  return {
    ...document,
    parts: (document.parts ?? []).map((p) =>
      p.id !== offer.part_id
        ? p
        : {
            ...p,
            layers: p.layers.map((l) =>
              l.id === offer.layer_id && l.type === "bar" ? { ...l, splices, sleeve: sleeve ?? null } : l,
            ),
          },
    ),
  };
}
