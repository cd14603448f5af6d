interface Props {
  title: string;
  head: string[];
  rows: (number | null)[][];
  /** How a value of a column is written. */
  written: (value: number, column: number) => string;
}

/** What a picture shows, as a table behind it. */
export function ValueTable({ title, head, rows, written }: Props) {
  return (
    <details className="text-small print:hidden">
      <summary className="label-type min-h-10 cursor-pointer pt-2">Show as table</summary>
      <div className="max-h-72 overflow-auto">
        <table className="w-full">
          <caption className="sr-only">{title}</caption>
          <thead>
            <tr className="border-b border-ink text-left">
              {head.map((h) => (
                <th key={h} scope="col" className="px-2 py-1">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((r, i) => (
              <tr key={i} className="border-b border-rule">
                {r.map((v, n) => (
                  <td key={n} className="figure-type px-2 py-0.5">
                    {v === null ? "–" : written(v, n)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
