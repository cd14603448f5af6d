import { useRef } from "react";

interface Props {
  /** What stands on the button, and what the file is called for those who do not see it. */
  label: string;
  name: string;
  /** File types, as the input's attribute has them. */
  accept: string;
  onFile: (file: File) => void;
}

/** A button that opens a file; the same file can be opened again after it was changed. */
export function FileButton({ label, name, accept, onFile }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <button type="button" className="key-button min-h-11" onClick={() => input.current?.click()}>
        {label}
      </button>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={name}
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) onFile(file);
          e.target.value = "";
        }}
      />
    </>
  );
}
