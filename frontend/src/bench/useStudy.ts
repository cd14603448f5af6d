import { keepPreviousData, useQuery } from "@tanstack/react-query";
import type { Airframe } from "../api/client";
import { tagOf } from "../shared/tags";
import { useSettled } from "../shared/useSettled";

/** What a study is about: the document as it stands, one part, one load case. */
export interface Subject {
  document: Airframe;
  part_id: string;
  case_id: string;
}

/** A study of the part as it stands, asked when the drawing has rested; the last answer stays until the next. */
export function useStudy<T>(
  name: string,
  subject: Subject,
  ask: (body: Subject) => Promise<{ data?: T }>,
  enabled = true,
) {
  const settled = useSettled(subject.document, 800);
  const body = { ...subject, document: settled };
  return useQuery({
    queryKey: [name, tagOf(settled), subject.part_id, subject.case_id],
    queryFn: async () => {
      const { data } = await ask(body);
      if (data === undefined) throw new Error("refused");
      return data;
    },
    enabled,
    retry: false,
    gcTime: 60_000,
    placeholderData: keepPreviousData,
  });
}
