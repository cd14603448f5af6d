import { useState } from "react";
import { accepted, troubleOf } from "../api/changes";
import { api, rememberSession } from "../api/client";
import { Password } from "../forms/account";
import { Modal } from "../forms/Modal";

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
    <>
      <button type="button" className="key-button mb-2 w-full" onClick={() => setOpen(true)}>
        Change password
      </button>
      {open && (
        <Modal title="Change password" wide={24} onClose={() => setOpen(false)}>
          <form action={change} className="mt-5 grid gap-4">
            {FIELDS.map(([name, label, complete]) => (
              <Password key={name} name={name} label={label} autoComplete={complete} />
            ))}
            <p role="alert" className="min-h-6 text-fail">
              {trouble}
            </p>
            <div className="flex gap-3">
              <button type="submit" className="key-button">
                Change it
              </button>
              <button type="button" className="key-button border-transparent" onClick={() => setOpen(false)}>
                Cancel
              </button>
            </div>
          </form>
        </Modal>
      )}
    </>
  );
}
