import { Popover } from "radix-ui";
import { useEffect, useId, useRef, useState, type KeyboardEvent } from "react";
import { found } from "./finding";

interface Props {
  /** What is chosen here, as the field is called. */
  label: string;
  value: string;
  options: readonly { value: string; label: string; group?: string }[];
  choose: (value: string) => void;
}

/** Beside a long list: type a part of a name, and pick from what fits. */
export function SearchList(props: Props) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="label-type -my-2 inline-flex min-h-10 items-center px-1 text-small text-pick underline underline-offset-4">
        Search <span className="sr-only">in {props.label}</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          aria-label={`Search in ${props.label}`}
          className="z-40 w-80 max-w-[calc(100vw-1rem)] border border-ink bg-raised p-2"
        >
          <Finder {...props} close={() => setOpen(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Finder({ label, value, options, choose, close }: Props & { close: () => void }) {
  const [typed, setTyped] = useState("");
  const [at, setAt] = useState(0);
  const list = useRef<HTMLUListElement>(null);
  const id = useId();
  const fits = found(options, typed);
  const here = Math.min(at, fits.length - 1);
  // in braces: some browsers answer a scroll with a promise, which is no clean-up
  useEffect(() => {
    void list.current?.children[here]?.scrollIntoView?.({ block: "nearest" });
  }, [here]);
  const take = (option: { value: string } | undefined) => {
    if (!option) return;
    choose(option.value);
    close();
  };
  const keys = (e: KeyboardEvent) => {
    if (e.key === "ArrowDown") setAt(Math.min(here + 1, fits.length - 1));
    else if (e.key === "ArrowUp") setAt(Math.max(here - 1, 0));
    else if (e.key === "Enter") take(fits[here]);
    else return;
    e.preventDefault();
  };
  return (
    <>
      <input
        className="field-box"
        role="combobox"
        aria-label={`Part of the name, ${label}`}
        aria-expanded="true"
        aria-controls={id}
        aria-activedescendant={fits[here] && `${id}-${here}`}
        placeholder="part of the name"
        autoComplete="off"
        spellCheck={false}
        value={typed}
        onChange={(e) => {
          setTyped(e.target.value);
          setAt(0);
        }}
        onKeyDown={keys}
      />
      <ul
        ref={list}
        id={id}
        role="listbox"
        aria-label={label}
        tabIndex={-1}
        className="mt-1 max-h-72 overflow-y-auto"
      >
        {fits.map((o, i) => (
          <li
            key={o.value}
            id={`${id}-${i}`}
            role="option"
            aria-selected={o.value === value}
            className={`flex min-h-11 cursor-pointer flex-col justify-center border-b border-rule px-2 leading-tight ${i === here ? "bg-pick-wash" : ""}`}
            onPointerMove={() => setAt(i)}
            onClick={() => take(o)}
          >
            <span>
              {o.value === value && "✓ "}
              {o.label}
            </span>
            {o.group && <span className="text-note text-soft">{o.group}</span>}
          </li>
        ))}
      </ul>
      <p role="status" className={fits.length ? "sr-only" : "p-2 text-small text-soft"}>
        {fits.length ? `${fits.length} found` : `Nothing has “${typed}” in its name.`}
      </p>
    </>
  );
}
