import { useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState, type ReactNode } from "react";
import { api, rememberSession, type Session } from "../api/client";
import { keys } from "../api/queries";
import { regainSession } from "../api/session";

interface FormProps {
  /** The name that is put in; `fixed` where it has to be that one. */
  name?: string;
  fixed?: boolean;
  onDone: (session: Session) => void;
  children?: ReactNode;
}

/** Name and password. A name stays where the password was wrong. */
function SignInForm({ name: first = "", fixed = false, onDone, children }: FormProps) {
  const [name, setName] = useState(first);
  const [denied, setDenied] = useState("");
  const submit = async (form: FormData) => {
    const payload = { username: name, password: String(form.get("password")) };
    try {
      const { data, error } = await api.POST("/api/session", { body: payload });
      if (data) onDone(rememberSession(data));
      else setDenied((error as { message?: string }).message ?? "Signing in did not work. Try again.");
    } catch {
      setDenied("The server does not answer. Try again in a moment.");
    }
  };
  return (
    <form action={submit} className="mt-6 grid gap-4">
      <label className="grid gap-1">
        <span className="label-type">Name</span>
        <input
          value={name}
          onChange={(e) => setName(e.target.value)}
          readOnly={fixed}
          autoComplete="username"
          required
          className="field-box"
        />
      </label>
      <label className="grid gap-1">
        <span className="label-type">Password</span>
        <input
          name="password"
          type="password"
          autoComplete="current-password"
          required
          className="field-box"
        />
      </label>
      <p role="alert" className="min-h-6 text-fail">
        {denied}
      </p>
      <div className="flex gap-3">
        <button type="submit" className="key-button">
          Sign in
        </button>
        {children}
      </div>
    </form>
  );
}

/** Sign-in, shown to everyone without a session outside demo mode. */
export function SignIn() {
  const queries = useQueryClient();
  const done = (session: Session) => {
    regainSession();
    queries.setQueryData(keys.session, session);
  };
  return (
    <main className="mx-auto mt-[12vh] w-80 max-w-[94vw]">
      <h1 className="border-b border-ink pb-2 text-figure font-bold">Fletcher</h1>
      <SignInForm onDone={done} />
    </main>
  );
}

/** The session has run out under an open page: sign in again in place, and what waits is saved. */
export function SignInAgain({ user }: { user: string }) {
  const queries = useQueryClient();
  const done = (session: Session) => {
    queries.setQueryData(keys.session, session);
    regainSession();
    void queries.invalidateQueries({ predicate: (q) => q.state.status === "error" });
  };
  return (
    <Dialog.Root open>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/45" />
        <Dialog.Content
          className="fixed top-1/2 left-1/2 w-96 max-w-[94vw] -translate-x-1/2 -translate-y-1/2 border border-ink bg-sheet p-7"
          onEscapeKeyDown={(e) => e.preventDefault()}
          onPointerDownOutside={(e) => e.preventDefault()}
        >
          <Dialog.Title className="text-title font-bold">Sign in again</Dialog.Title>
          <Dialog.Description className="mt-1">
            You have been signed out meanwhile. What you changed is kept in this browser and saved once you
            are back.
          </Dialog.Description>
          <SignInForm name={user} fixed onDone={done}>
            <button type="button" className="key-button" onClick={() => window.location.assign("/")}>
              As somebody else
            </button>
          </SignInForm>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
