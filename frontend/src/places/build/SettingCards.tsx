import type { Schemas } from "../../api/client";

/** What a tool is set to, how much is mixed, how hard it is pressed: figures first, then what to mind. */
export function SettingCards({ cards, open }: { cards: Schemas["SettingCard"][]; open?: boolean }) {
  return cards.map((card) => (
    <details open={open} key={card.kind + card.title} className="mt-1 border-l-2 border-ink pl-3">
      <summary className="cursor-pointer text-small">
        <span className="font-semibold">{card.title}</span>
        {card.lines[0] && (
          <span className="text-soft">
            {" "}
            · {card.lines[0].name}: {card.lines[0].value}
          </span>
        )}
      </summary>
      <dl className="mt-1 grid grid-cols-[auto_minmax(0,1fr)] gap-x-4 text-small">
        {card.lines.map((line) => (
          <div key={line.name} className="col-span-full grid grid-cols-subgrid border-b border-rule py-0.5">
            <dt className="text-soft">{line.name}</dt>
            <dd className="figure-type">{line.value}</dd>
          </div>
        ))}
      </dl>
      {card.do.map((say) => (
        <p key={say} className="mt-1 max-w-prose text-small leading-snug">
          {say}
        </p>
      ))}
    </details>
  ));
}
