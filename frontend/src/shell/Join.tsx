import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { accepted, Refused } from "../api/changes";
import { api, must, rememberSession, type Problem } from "../api/client";
import { keys } from "../api/queries";
import { regainSession } from "../api/session";

/** Where an invitation leads: a name and a password make an account. */
export function Join() {
  const { token = "" } = useParams();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const [problems, setProblems] = useState<Problem[]>([]);
  const invitation = useQuery({
    queryKey: ["invitation", token],
    queryFn: () => must(api.GET("/api/invitations/{token}", { params: { path: { token } } })),
  });
  if (!invitation.data) return null;
  if (!invitation.data.holds)
    return (
      <main className="mx-auto mt-[12vh] w-96 max-w-[94vw]">
        <h1 className="border-b border-ink pb-2 text-title font-bold">This invitation holds no more</h1>
        <p className="mt-4">
          Ask who sent it for another, or{" "}
          <Link to="/" className="text-pick underline">
            sign in
          </Link>
          .
        </p>
      </main>
    );
  const make = async (form: FormData) => {
    const body = { username: name, password: String(form.get("password")) };
    try {
      const session = await accepted(
        api.POST("/api/invitations/{token}", { params: { path: { token } }, body }),
      );
      regainSession();
      queries.setQueryData(keys.session, rememberSession(session!));
      void navigate("/", { replace: true });
    } catch (refused) {
      if (!(refused instanceof Refused)) throw refused;
      setProblems(refused.problems);
    }
  };
  const at = (path: string) => problems.find((p) => p.path === path)?.message;
  return (
    <main className="mx-auto mt-[12vh] w-80 max-w-[94vw]">
      <h1 className="border-b border-ink pb-2 text-figure font-bold">Fletcher</h1>
      <p className="mt-4">You are invited. Choose a name and a password of at least eight letters.</p>
      <form action={make} className="mt-6 grid gap-4">
        <label className="grid gap-1">
          <span className="label-type">Name</span>
          <input
            value={name}
            onChange={(e) => setName(e.target.value)}
            autoComplete="username"
            required
            maxLength={60}
            aria-invalid={at("username") ? true : undefined}
            className="field-box"
          />
        </label>
        <label className="grid gap-1">
          <span className="label-type">Password</span>
          <input
            name="password"
            type="password"
            autoComplete="new-password"
            required
            minLength={8}
            aria-invalid={at("password") ? true : undefined}
            className="field-box"
          />
        </label>
        <p role="alert" className="min-h-6 text-fail">
          {problems.map((p) => p.message).join(" ")}
        </p>
        <button type="submit" className="key-button justify-self-start">
          Make my account
        </button>
      </form>
    </main>
  );
}
