import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { accepted } from "../api/changes";
import { Refused, api, must, rememberSession, type Problem } from "../api/client";
import { keys } from "../api/queries";
import { regainSession } from "../api/session";
import { AccountName, Password } from "../forms/account";

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
        <AccountName value={name} onChange={setName} wrong={at("username") !== undefined} />
        <Password
          autoComplete="new-password"
          minLength={8}
          aria-invalid={at("password") ? true : undefined}
        />
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
