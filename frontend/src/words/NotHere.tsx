import { Link } from "react-router";

interface Props {
  says: string;
  to?: string;
  way?: string;
}

/** A place that an address names in vain, and the way back. */
export function NotHere({ says, to = "/", way = "Back to the shelf" }: Props) {
  return (
    <main className="p-8">
      <h1 className="text-title font-bold">{says}</h1>
      <Link to={to} className="text-pick underline">
        {way}
      </Link>
    </main>
  );
}
