import { useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { api, rememberSession, type Session } from "../api/client";
import { keys } from "../api/queries";
import { regainSession } from "../api/session";
import { AccountName, Password } from "../forms/account";
import { Modal } from "../forms/Modal";

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
      else setDenied((error as { message?: string }).message ?? "Sign-in failed. Try again.");
    } catch {
      setDenied("The server does not answer. Try again in a moment.");
    }
  };
  return (
    <form action={submit} className="mt-6 grid gap-4">
      <AccountName value={name} onChange={setName} fixed={fixed} />
      <Password autoComplete="current-password" />
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
    <Modal
      title="Sign in again"
      wide={24}
      says="You have been signed out meanwhile. What you changed is kept in this browser and saved once you are back."
    >
      <SignInForm name={user} fixed onDone={done}>
        <button type="button" className="key-button" onClick={() => window.location.assign("/")}>
          As somebody else
        </button>
      </SignInForm>
    </Modal>
  );
}
