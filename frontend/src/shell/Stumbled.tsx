import { Component, type ReactNode } from "react";
import { draftsHere, setAside } from "../part/drafts";

interface Props {
  children: ReactNode;
}

/**
 * Stands where a place falls over: says so, and leads on. A draft in this browser that no page can show is the usual
 * reason; it can be put aside, and is kept as a file.
 */
export class Stumbled extends Component<Props, { fell: Error | null }> {
  override state = { fell: null };

  static getDerivedStateFromError(fell: Error) {
    return { fell };
  }

  override render() {
    if (!this.state.fell) return this.props.children;
    const drafts = draftsHere();
    return (
      <main className="max-w-2xl p-8">
        <h1 className="text-title font-bold">This place has stumbled</h1>
        <p className="mt-2">
          What was saved is safe on the server. Reload the page; if it stumbles again,{" "}
          {drafts.length > 0
            ? "put aside the unsaved draft in this browser: it is kept as a file that you can send on."
            : "go back to the shelf and open the airframe from there."}
        </p>
        <div className="mt-5 flex flex-wrap gap-3">
          <button type="button" className="key-button" onClick={() => window.location.reload()}>
            Reload
          </button>
          {drafts.map((key) => (
            <button key={key} type="button" className="key-button" onClick={() => setAside(key)}>
              Put the draft aside
            </button>
          ))}
          <a href="/" className="key-button">
            To the shelf
          </a>
        </div>
      </main>
    );
  }
}
