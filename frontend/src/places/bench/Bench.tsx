import { useMemo, type ReactNode } from "react";
import { Link, useParams } from "react-router";
import { type AirframeOut, type Catalogue } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { useKept, useStored } from "../../part/useKept";
import { withOwn } from "./panels/ownMaterials";
import { Sheet } from "./plan/Sheet";

type Header = (children?: ReactNode) => ReactNode;

/** Loads an airframe and the materials, then hands them to the work place. */
export function Bench({ header }: { header: Header }) {
  const { airframeId = "", partId = "" } = useParams();
  const airframe = useStored(airframeId);
  const catalogue = useCatalogue();
  if (airframe.isError || catalogue.isError)
    return (
      <>
        {header()}
        <main className="p-8">
          <h1 className="text-title font-bold">This airframe is not on your shelf</h1>
          <Link to="/" className="text-pick underline">
            Back to the shelf
          </Link>
        </main>
      </>
    );
  if (!airframe.data || !catalogue.data) return header();
  return (
    <WorkPlace
      key={airframe.data.id}
      state={airframe.data}
      partId={partId}
      catalogue={catalogue.data}
      header={header}
    />
  );
}

interface WorkPlaceProps {
  state: AirframeOut;
  partId: string;
  catalogue: Catalogue;
  header: Header;
}

function WorkPlace({ state, partId, catalogue, header }: WorkPlaceProps) {
  const { keeper, draft } = useKept(state);
  const known = useMemo(() => withOwn(catalogue, draft.document), [catalogue, draft.document]);
  const part = draft.document.parts?.find((p) => p.id === partId);
  if (!part)
    return (
      <>
        {header()}
        <main className="p-8">
          <h1 className="text-title font-bold">This airframe has no such part</h1>
          <Link to="/" className="text-pick underline">
            Back to the shelf
          </Link>
        </main>
      </>
    );
  return <Sheet key={part.id} {...{ keeper, draft, part, header }} catalogue={known} reference={catalogue} />;
}
