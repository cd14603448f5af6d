import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { catalogueQuery } from "../../api/queries";

/** Reads what the Bench needs while the Shelf is looked at, so that a part opens at once. */
export function useReadAhead(wanted: boolean) {
  const queries = useQueryClient();
  useEffect(() => {
    if (!wanted) return;
    const later = setTimeout(() => {
      void import("../bench/Bench").catch(() => undefined);
      void queries.prefetchQuery(catalogueQuery);
    }, 0);
    return () => clearTimeout(later);
  }, [wanted, queries]);
}
