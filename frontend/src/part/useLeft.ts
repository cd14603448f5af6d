import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type Airframe, type Part } from "../api/client";
import { useSettled } from "../forms/useSettled";
import { tagOf } from "../words/tags";
import type { Subject } from "./useStudy";

const QUIET_MS = 250;

const marksOf = (document: Airframe, part: string) =>
  JSON.stringify(document.parts?.find((p) => p.id === part)?.damage ?? []);

/**
 * What the marks leave of the part. While they change there is no answer: the last one was about other marks, and
 * might say "fly" of a wing that has just been marked as broken. What is asked about the marks stays meanwhile.
 */
export function useLeft(subject: Subject, part: Part) {
  const document = useSettled(subject.document, QUIET_MS);
  const marked = (part.damage ?? []).length > 0;
  const settled = marksOf(document, part.id) === marksOf(subject.document, part.id);
  const { data, isError, isPlaceholderData } = useQuery({
    queryKey: ["left", tagOf(document), part.id, subject.case_id],
    queryFn: async ({ signal }) => {
      const answer = await api.POST("/api/crash/left", { body: { ...subject, document }, signal });
      if (answer.data === undefined) throw new Error("refused");
      return answer.data;
    },
    enabled: marked && settled,
    retry: false,
    gcTime: 60_000,
    placeholderData: keepPreviousData,
  });
  const current = marked && settled && !isPlaceholderData;
  return { left: current ? data : undefined, asked: data?.asked ?? [], failed: settled && isError };
}
