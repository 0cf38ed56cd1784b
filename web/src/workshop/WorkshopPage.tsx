import { NoticeArea, NoticeBar } from "../app/Notice.tsx";
import { TopBar } from "../frame/TopBar.tsx";
import { Backup } from "./Backup.tsx";
import { ConventionsTable } from "./ConventionsTable.tsx";
import { Folder } from "./Folder.tsx";
import { HabitsForm } from "./HabitsForm.tsx";
import { LetterheadForm } from "./LetterheadForm.tsx";
import { MeterLinkForm } from "./MeterLinkForm.tsx";
import { Meters } from "./Meters.tsx";
import { Paired } from "./Paired.tsx";
import { People } from "./People.tsx";

/** The sections of the workshop, in the order of the index. */
const SECTIONS = [
  { id: "conventions", name: "Conventions", Part: ConventionsTable },
  { id: "people", name: "People", Part: People },
  { id: "browsers", name: "Browsers", Part: Paired },
  { id: "meters", name: "Meters", Part: Meters },
  { id: "stream", name: "A meter that streams", Part: MeterLinkForm },
  { id: "habits", name: "Habits", Part: HabitsForm },
  { id: "letterhead", name: "Letterhead", Part: LetterheadForm },
  { id: "backup", name: "Backup", Part: Backup },
  { id: "files", name: "Open files", Part: Folder },
] as const;

/** What the workshop has agreed on: where practitioners differ, a setting and no argument. */
export function WorkshopPage() {
  return (
    <NoticeArea>
      <div className="mx-auto max-w-7xl px-4 pb-24">
        <TopBar title="Workshop" />
        <div className="grid gap-x-8 gap-y-4 md:grid-cols-[12rem_minmax(0,1fr)]">
          <nav aria-label="Sections" className="md:sticky md:top-4 md:self-start">
            <ul className="flex flex-wrap gap-x-2 md:flex-col">
              {SECTIONS.map(({ id, name }) => (
                <li key={id}>
                  <a href={`#${id}`} className="block rounded-lg px-2 py-1.5 hover:bg-band">
                    {name}
                  </a>
                </li>
              ))}
            </ul>
          </nav>
          <main className="flex min-w-0 flex-col gap-6">
            {SECTIONS.map(({ id, Part }) => (
              <div key={id} id={id} className="scroll-mt-2">
                <Part />
              </div>
            ))}
          </main>
        </div>
        <NoticeBar className="fixed inset-x-0 bottom-0 z-40" />
      </div>
    </NoticeArea>
  );
}
