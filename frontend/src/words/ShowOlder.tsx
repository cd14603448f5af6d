interface Props {
  list: { more: boolean; fetching: boolean; readMore: () => void };
  /** What there are more of. */
  what: string;
}

/** Reads the next page of a long list; nothing where all is shown. */
export function ShowOlder({ list, what }: Props) {
  if (!list.more) return null;
  return (
    <button type="button" className="key-button mt-2" disabled={list.fetching} onClick={list.readMore}>
      {list.fetching ? "Reads on…" : `Show older ${what}`}
    </button>
  );
}
