import { Tabs } from "radix-ui";

/** The tabs of a stage's pane; the contents follow within the same `Tabs.Root`. */
export function TabStrip({ label, tabs }: { label: string; tabs: Readonly<Record<string, string>> }) {
  return (
    <Tabs.List aria-label={label} className="flex flex-wrap gap-1">
      {Object.entries(tabs).map(([value, name]) => (
        <Tabs.Trigger
          key={value}
          value={value}
          className="rounded-t-lg border border-b-0 border-transparent px-3.5 py-1.5 text-faint data-[state=active]:border-rule data-[state=active]:bg-sheet data-[state=active]:font-bold data-[state=active]:text-ink"
        >
          {name}
        </Tabs.Trigger>
      ))}
    </Tabs.List>
  );
}
