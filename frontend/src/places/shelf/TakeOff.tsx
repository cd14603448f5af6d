import { AlertDialog } from "radix-ui";
import { NotStored } from "../../words/NotStored";
import { useRemoveAirframe } from "../../api/changes";

/** Puts an airframe into the bin, after asking. */
export function TakeOff({ id, name }: { id: string; name: string }) {
  const remove = useRemoveAirframe();
  return (
    <AlertDialog.Root>
      <NotStored change={remove} what={name} />
      <AlertDialog.Trigger
        className="inline-flex min-h-10 items-center text-fail underline"
        aria-label={`Delete ${name}`}
      >
        Delete
      </AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 bg-black/45" />
        <AlertDialog.Content className="fixed top-1/2 left-1/2 w-[min(30rem,94vw)] -translate-x-1/2 -translate-y-1/2 border border-ink bg-sheet p-6">
          <AlertDialog.Title className="text-lead font-bold">Delete {name}?</AlertDialog.Title>
          <AlertDialog.Description className="mt-2 leading-snug">
            It stays in the bin at the foot of the Shelf for 30 days, with its history, variants and log, and
            can be restored from there.
          </AlertDialog.Description>
          <div className="mt-4 flex justify-end gap-2">
            <AlertDialog.Cancel className="key-button">Cancel</AlertDialog.Cancel>
            <AlertDialog.Action className="key-button text-fail" onClick={() => remove.mutate(id)}>
              Delete airframe
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
