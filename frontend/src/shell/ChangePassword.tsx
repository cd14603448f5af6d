import { Dialog } from "radix-ui";
import { useState } from "react";
import { accepted, troubleOf } from "../api/changes";
import { api, rememberSession } from "../api/client";

const FIELDS = [
  ["now", "Present password", "current-password"],
  ["then", "New password", "new-password"],
] as const;

/** One's own password: this window stays signed in, all others have to sign in anew. */
export function ChangePassword() {
  const [open, setOpen] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const change = async (form: FormData) => {
    const body = { now: String(form.get("now")), then: String(form.get("then")) };
    const refused = await troubleOf(
      accepted(api.PUT("/api/session/password", { body })).then((session) => rememberSession(session!)),
    );
    setTrouble(refused);
    if (refused === null) setOpen(false);
  };
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="key-button mb-2 w-full">Change password</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-40 w-96 max-w-[94vw] -translate-x-1/2 -translate-y-1/2 border border-ink bg-sheet p-7"
        >
          <Dialog.Title className="text-title font-bold">Change password</Dialog.Title>
          <form action={change} className="mt-5 grid gap-4">
            {FIELDS.map(([name, label, complete]) => (
              <label key={name} className="grid gap-1">
                <span className="label-type">{label}</span>
                <input name={name} type="password" autoComplete={complete} required className="field-box" />
              </label>
            ))}
            <p role="alert" className="min-h-6 text-fail">
              {trouble}
            </p>
            <div className="flex gap-3">
              <button type="submit" className="key-button">
                Change it
              </button>
              <Dialog.Close className="key-button border-transparent">Cancel</Dialog.Close>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
