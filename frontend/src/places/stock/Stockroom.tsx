import { NavLink, useSearchParams } from "react-router";
import { InHead } from "../../words/InHead";
import { Materials } from "./Materials";
import { OwnShelf } from "./OwnShelf";
import { WhichFoam } from "./WhichFoam";

const VIEWS = [
  ["", "What is there"],
  ["materials", "Materials"],
  ["foam", "Which foam is this?"],
] as const;

/** Stockroom: what is on the shelf, what the tables say of it, and what an unknown foam is. */
export function Stockroom() {
  const [query] = useSearchParams();
  const view = query.get("view") ?? "";
  return (
    <>
      <InHead>
        <h1 className="sr-only">Stockroom</h1>
      </InHead>
      <main className="mx-auto w-full max-w-[76rem] px-6 pb-16 max-sm:px-4">
        <nav aria-label="Stockroom" className="flex flex-wrap gap-x-1 border-b border-rule">
          {VIEWS.map(([key, name]) => (
            <NavLink
              key={key}
              to={key ? `?view=${key}` : "?"}
              aria-current={view === key ? "page" : undefined}
              className={`label-type flex min-h-11 items-center border-y-[3px] border-transparent px-2 hover:text-pick ${
                view === key ? "border-b-pick text-pick" : ""
              }`}
            >
              {name}
            </NavLink>
          ))}
        </nav>
        {view === "materials" ? <Materials /> : view === "foam" ? <WhichFoam /> : <OwnShelf />}
      </main>
    </>
  );
}
