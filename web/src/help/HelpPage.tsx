import { useState } from "react";
import { NavLink, useParams } from "react-router";
import { SearchField } from "../app/SearchField.tsx";
import { TopBar } from "../frame/TopBar.tsx";
import { Lines } from "./Lines.tsx";
import { found } from "./search.ts";
import { Files, Keys, Parts, Percentages, Practice, Safety, Start } from "./Texts.tsx";
import { isTopic, LINE_TOPICS, type LineTopic, TOPICS, type Topic } from "./topics.ts";

const TEXTS: Readonly<Record<Exclude<Topic, LineTopic>, () => React.JSX.Element>> = {
  start: Start,
  practice: Practice,
  parts: Parts,
  figures: Percentages,
  keys: Keys,
  safety: Safety,
  files: Files,
};

/** Help: one screen a topic, from the same tables as what reads the lines; searchable. */
export function HelpPage() {
  const { topic: named } = useParams();
  const topic: Topic = isTopic(named) ? named : "start";
  const [search, setSearch] = useState("");
  return (
    <div className="mx-auto max-w-7xl px-4 pb-16">
      <TopBar title="Help" />
      <main className="grid gap-x-8 gap-y-4 md:grid-cols-[16rem_minmax(0,1fr)]">
        <nav aria-label="Topics" className="flex flex-col gap-1">
          <div className="flex">
            <SearchField label="Search help" hint="Search help" value={search} onChange={setSearch} />
          </div>
          <ul className="mt-1 flex flex-wrap gap-x-3 md:flex-col">
            {(Object.keys(TOPICS) as Topic[]).map((name) => (
              <li key={name}>
                <NavLink
                  to={`/help/${name}`}
                  onClick={() => setSearch("")}
                  aria-current={name === topic && search === "" ? "page" : undefined}
                  className={`block rounded-lg px-2 py-1.5 ${name === topic && search === "" ? "bg-band font-bold" : "hover:bg-band"}`}
                >
                  {TOPICS[name]}
                </NavLink>
              </li>
            ))}
          </ul>
        </nav>
        {search.trim() === "" ? (
          <TopicPane key={topic} topic={topic} />
        ) : (
          <Found search={search} onOpen={() => setSearch("")} />
        )}
      </main>
    </div>
  );
}

function TopicPane({ topic }: { topic: Topic }) {
  const Text = topic in LINE_TOPICS ? null : TEXTS[topic as keyof typeof TEXTS];
  return (
    <section aria-label={TOPICS[topic]} className="flex flex-col gap-3">
      <h2 className="text-2xl font-bold">{TOPICS[topic]}</h2>
      {Text ? <Text /> : <Lines topic={LINE_TOPICS[topic as LineTopic]} />}
    </section>
  );
}

/** What speaks of what is searched, by topic. */
function Found({ search, onOpen }: { search: string; onOpen: () => void }) {
  const rows = found(search);
  return (
    <section aria-label="Found" className="flex flex-col gap-2">
      <h2 className="text-2xl font-bold">“{search.trim()}”</h2>
      <p role="status">
        {rows.length === 0 ? "Nothing here speaks of it. Try a shorter word." : `${rows.length} found`}
      </p>
      <ul>
        {rows.map(({ topic, head, text }) => (
          <li key={topic + head + text} className="border-t border-rule py-1.5 first:border-0">
            <NavLink to={`/help/${topic}`} onClick={onOpen} className="text-faint underline">
              {TOPICS[topic]}
            </NavLink>{" "}
            <span className="font-mono whitespace-pre-wrap">{head}</span> <span>{text}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
