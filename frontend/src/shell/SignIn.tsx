import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, rememberSession } from "../api/client";
import { keys } from "../api/queries";

/** Sign-in, shown to everyone without a session outside demo mode. */
export function SignIn() {
  const queries = useQueryClient();
  const [denied, setDenied] = useState("");
  const submit = async (form: FormData) => {
    const payload = { username: String(form.get("username")), password: String(form.get("password")) };
    const { data, error } = await api.POST("/api/session", { body: payload });
    if (data) queries.setQueryData(keys.session, rememberSession(data));
    else setDenied((error as { message?: string }).message ?? "Signing in did not work. Try again.");
  };
  return (
    <main className="mx-auto mt-[12vh] w-80">
      <h1 className="border-b border-ink pb-2 text-figure font-bold">Fletcher</h1>
      <form action={submit} className="mt-6 grid gap-4">
        <label className="grid gap-1">
          <span className="label-type">Name</span>
          <input name="username" autoComplete="username" required className="field-box" />
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
        <button type="submit" className="key-button">
          Sign in
        </button>
      </form>
    </main>
  );
}
