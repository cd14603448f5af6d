import { useInfiniteQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { api, must, type Airframe } from "../../api/client";

interface Props {
  airframeId: string;
  revision: number;
  partId: string;
  /** Pin the part as it was in a revision; a refusal's message, or null. */
  pin: (revision: number, name: string) => Promise<string | null>;
  bringBack: (document: Airframe) => void;
  /** Put it on the shelf as another airframe; a refusal's message, or null. */
  newFrom: (document: Airframe) => Promise<string | null>;
  onClose: () => void;
}

const PAGE = 40;

/** Every state of the airframe, the newest first: to pin up, to bring back, or to start another airframe from. */
export function HistoryDialog(props: Props) {
  const { airframeId, revision, partId, onClose } = props;
  const [told, setTold] = useState("");
  const pages = useInfiniteQuery({
    queryKey: ["history", airframeId, revision],
    queryFn: ({ pageParam }) =>
      must(
        api.GET("/api/airframes/{airframe_id}/revisions", {
          params: { path: { airframe_id: airframeId }, query: pageParam ? { before: pageParam } : {} },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last) => (last.length === PAGE ? last.at(-1)!.number : undefined),
    gcTime: 0,
  });
  const entries = pages.data?.pages.flat() ?? [];
  const read = async (number: number) => {
    const path = { airframe_id: airframeId, number };
    return (await must(api.GET("/api/airframes/{airframe_id}/revisions/{number}", { params: { path } })))
      .document;
  };
  const act = (number: number, then: (document: Airframe) => Promise<string | null> | void) => {
    const told = async () => (await then(await read(number))) ?? "";
    void told().then(setTold, () => setTold("This state could not be read: is the server running?"));
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-black/45" />
        <Dialog.Content className="fixed top-0 right-0 z-30 h-dvh w-[min(44rem,96vw)] overflow-y-auto border-l border-ink bg-sheet p-7">
          <div className="flex items-start justify-between gap-4">
            <Dialog.Title className="text-title font-bold">History of this airframe</Dialog.Title>
            <Dialog.Close className="key-button">Close</Dialog.Close>
          </div>
          <Dialog.Description className="mt-1 text-soft">
            Nothing is ever overwritten. Restoring an earlier version is a normal change and can be undone.
          </Dialog.Description>
          <p aria-live="polite" className="mt-2 min-h-6">
            {told}
          </p>
          <ol>
            {entries.map((e) => (
              <li
                key={e.number}
                className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-4 gap-y-1 border-t border-rule py-2.5"
              >
                <div>
                  <p className="label-type text-small text-soft">
                    {e.number}
                    {e.number === revision && " · current"} ·{" "}
                    {new Date(e.created).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
                  </p>
                  <ul className="text-body leading-snug">
                    {e.says.slice(0, 4).map((s) => (
                      <li key={s}>{s}</li>
                    ))}
                    {e.says.length > 4 && <li className="text-soft">and {e.says.length - 4} more</li>}
                  </ul>
                </div>
                <div className="flex flex-wrap items-start justify-end gap-1.5">
                  {e.parts.includes(partId) && (
                    <button
                      type="button"
                      className="key-button"
                      aria-label={`Keep version ${e.number} as a variant`}
                      onClick={() =>
                        void props
                          .pin(e.number, `Version ${e.number}`)
                          .then((trouble) => setTold(trouble ?? `Version ${e.number} is kept as a variant.`))
                      }
                    >
                      Keep as variant
                    </button>
                  )}
                  {e.number !== revision && (
                    <button
                      type="button"
                      className="key-button"
                      aria-label={`Restore version ${e.number}`}
                      onClick={() =>
                        act(e.number, (document) => {
                          props.bringBack(document);
                          onClose();
                        })
                      }
                    >
                      Restore
                    </button>
                  )}
                  <button
                    type="button"
                    className="key-button"
                    aria-label={`New airframe from version ${e.number}`}
                    onClick={() => act(e.number, props.newFrom)}
                  >
                    New airframe from this
                  </button>
                </div>
              </li>
            ))}
          </ol>
          {pages.hasNextPage && (
            <button type="button" className="key-button mt-3" onClick={() => void pages.fetchNextPage()}>
              Show older
            </button>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
