import type { Refused } from "../api/client";

/** Why a change was not stored; what was shown of it has been taken back. */
export function NotStored({ change, what }: { change: { error: Refused | null }; what: string }) {
  if (!change.error) return null;
  return (
    <p role="alert" className="text-fail">
      {what} was not changed: {change.error.message}.
    </p>
  );
}
