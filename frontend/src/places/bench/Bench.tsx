import { useMemo } from "react";
import { useParams } from "react-router";
import { type AirframeOut, type Catalogue } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { useKept, useStored } from "../../part/useKept";
import { withOwn } from "./panels/ownMaterials";
import { Sheet } from "./plan/Sheet";
import { NotHere } from "../../words/NotHere";

/** Loads an airframe and the materials, then hands them to the work place. */
export function Bench() {
  const { airframeId = "", partId = "" } = useParams();
  const airframe = useStored(airframeId);
  const catalogue = useCatalogue();
  if (airframe.isError || catalogue.isError) return <NotHere says="This airframe is not on your Shelf" />;
  if (!airframe.data || !catalogue.data) return null;
  return (
    <WorkPlace key={airframe.data.id} state={airframe.data} partId={partId} catalogue={catalogue.data} />
  );
}

interface WorkPlaceProps {
  state: AirframeOut;
  partId: string;
  catalogue: Catalogue;
}

function WorkPlace({ state, partId, catalogue }: WorkPlaceProps) {
  const { keeper, draft } = useKept(state);
  const known = useMemo(() => withOwn(catalogue, draft.document), [catalogue, draft.document]);
  const part = draft.document.parts?.find((p) => p.id === partId);
  if (!part) return <NotHere says="This airframe has no part with that name" />;
  return <Sheet key={part.id} {...{ keeper, draft, part }} catalogue={known} reference={catalogue} />;
}
