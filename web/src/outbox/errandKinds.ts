import {
  Conventions,
  type HabitSettings,
  type Letterhead,
  type LibraryCircuit,
  type Meter,
  type NewLibraryCircuit,
  type PeopleChange,
  type WorkshopMeter,
} from "@hound/core/record";
import { call } from "../api/client.ts";
import { jobsApi } from "../api/jobs.ts";
import { libraryApi } from "../api/library.ts";
import { metersApi } from "../api/meters.ts";
import { workshopApi } from "../api/workshop.ts";

/** What each kind of errand needs, and how it is done. */
export interface ErrandBodies {
  keepCircuit: NewLibraryCircuit & { readonly id: string };
  changeCircuit: {
    readonly id: string;
    readonly revision: number;
    readonly fields: { readonly name?: string; readonly notes?: string; readonly trail?: string };
  };
  deleteCircuit: { readonly id: string; readonly isDeleted: boolean };
  deleteJob: { readonly id: string; readonly isDeleted: boolean };
  importCase: { readonly id: string; readonly text: string };
  conventions: Partial<Conventions>;
  keepMeter: { readonly id: string; readonly revision: number; readonly meter: Meter };
  removeMeter: { readonly id: string };
  people: PeopleChange;
  letterhead: Letterhead;
  habits: HabitSettings;
}

type Kinds = {
  readonly [K in keyof ErrandBodies]: {
    /** Queries that have to be asked again when it is done. */
    readonly touches: readonly string[];
    readonly send: (body: ErrandBodies[K], current: unknown) => Promise<unknown>;
  };
};

export const ERRAND_KINDS: Kinds = {
  keepCircuit: { touches: ["library"], send: (circuit) => libraryApi.keep(circuit) },
  changeCircuit: {
    touches: ["library"],
    // Somebody changed something else meanwhile: field by field, what is set here holds.
    send: ({ id, revision, fields }, current) =>
      libraryApi.change(id, { revision: (current as LibraryCircuit | undefined)?.revision ?? revision, ...fields }),
  },
  deleteCircuit: {
    touches: ["library"],
    send: ({ id, isDeleted }) => (isDeleted ? libraryApi.remove(id) : libraryApi.restore(id)),
  },
  deleteJob: {
    touches: ["jobs"],
    send: ({ id, isDeleted }) => (isDeleted ? jobsApi.remove(id) : jobsApi.restore(id)),
  },
  importCase: { touches: ["jobs"], send: ({ id, text }) => jobsApi.importCase(text, id) },
  keepMeter: {
    touches: ["meters"],
    // Somebody changed it meanwhile: what is kept last holds, as in a book of meters.
    send: ({ id, revision, meter }, current) =>
      metersApi.put(id, (current as WorkshopMeter | undefined)?.revision ?? revision, meter),
  },
  removeMeter: { touches: ["meters"], send: ({ id }) => metersApi.remove(id) },
  people: { touches: ["people"], send: (change) => workshopApi.changePeople(change) },
  letterhead: { touches: ["letterhead"], send: (letterhead) => workshopApi.writeLetterhead(letterhead) },
  habits: {
    touches: ["habits"],
    // Somebody changed them meanwhile: what is set last holds.
    send: (settings, current) =>
      workshopApi.writeHabits({
        ...settings,
        revision: (current as HabitSettings | undefined)?.revision ?? settings.revision,
      }),
  },
  conventions: { touches: ["conventions"], send: (change) => call("PATCH", "/conventions", Conventions, change) },
};
