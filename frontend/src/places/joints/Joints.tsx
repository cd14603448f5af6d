import { Tabs } from "radix-ui";
import { useSearchParams } from "react-router";
import { Coupons } from "./Coupons";
import { Glues } from "./Glues";
import { GlueTable } from "./GlueTable";
import { Holders } from "./Holders";
import { Hinges } from "./Hinges";

/** What can be chosen here, by the key in the address. */
const TABS = [
  ["glue", "Glue"],
  ["table", "My glues"],
  ["hinge", "Hinges"],
  ["hold", "Hold-downs"],
  ["coupons", "My glue tests"],
] as const;

/** Joints: which glue, which hinge, what holds a battery in, and own trials. */
export function Joints() {
  const [query, setQuery] = useSearchParams();
  const what = TABS.find(([key]) => key === query.get("what"))?.[0] ?? "glue";
  const label = TABS.find(([key]) => key === what)![1];
  return (
    <>
      <h1 className="sr-only">Joints</h1>
      <p data-print-title className="hidden px-6 pt-2 text-title font-bold">
        Joints: {label}
      </p>
      <Tabs.Root value={what} onValueChange={(v) => setQuery({ what: v })}>
        <Tabs.List aria-label="What to choose" className="flex border-b border-rule px-5">
          {TABS.map(([key, label]) => (
            <Tabs.Trigger
              key={key}
              value={key}
              className="label-type min-h-11 border-b-[3px] border-transparent px-3 data-[state=active]:border-pick data-[state=active]:text-pick"
            >
              {label}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="glue">
          <Glues />
        </Tabs.Content>
        <Tabs.Content value="table">
          <GlueTable />
        </Tabs.Content>
        <Tabs.Content value="hinge">
          <Hinges />
        </Tabs.Content>
        <Tabs.Content value="hold">
          <Holders />
        </Tabs.Content>
        <Tabs.Content value="coupons">
          <Coupons />
        </Tabs.Content>
      </Tabs.Root>
    </>
  );
}
