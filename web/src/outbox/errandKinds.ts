import type { NewAttempt } from "@hound/core/paper";
import {
  Conventions,
  type HabitChange,
  type LetterheadChange,
  type LibraryCircuit,
  type Meter,
  type MeterLinkSettings,
  type NewLibraryCircuit,
  type PeopleChange,
  type PictureChange,
  type WorkshopMeter,
} from "@hound/core/record";
import { call } from "../api/client.ts";
import { exercisesApi } from "../api/exercises.ts";
import { jobsApi } from "../api/jobs.ts";
import { libraryApi } from "../api/library.ts";
import { metersApi } from "../api/meters.ts";
import { picturesApi } from "../api/pictures.ts";
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
  letterhead: LetterheadChange;
  habits: HabitChange;
  meterLink: MeterLinkSettings;
  attempt: NewAttempt;
  note: OfJob & { readonly note: { readonly id: string; readonly text: string } };
  addPicture: OfJob & { readonly id: string; readonly file: File };
  changePicture: OfJob & { readonly id: string; readonly change: PictureChange };
  deletePicture: OfJob & { readonly id: string; readonly isDeleted: boolean };
}

interface OfJob {
  /** Id of a job, which the server has to have first. */
  readonly job: string;
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
  letterhead: { touches: ["letterhead"], send: (change) => workshopApi.changeLetterhead(change) },
  habits: { touches: ["habits"], send: (change) => workshopApi.changeHabits(change) },
  meterLink: { touches: ["meter-link"], send: (settings) => metersApi.useLink(settings) },
  attempt: { touches: ["attempts"], send: (done) => exercisesApi.attempted(done) },
  note: { touches: ["history"], send: ({ job, note }) => jobsApi.note(job, note) },
  addPicture: { touches: ["pictures", "history"], send: ({ job, id, file }) => picturesApi.add(job, id, file) },
  changePicture: {
    touches: ["pictures", "history"],
    send: ({ job, id, change }) => picturesApi.change(job, id, change),
  },
  deletePicture: {
    touches: ["pictures", "history"],
    send: ({ job, id, isDeleted }) => (isDeleted ? picturesApi.remove(job, id) : picturesApi.restore(job, id)),
  },
  conventions: { touches: ["conventions"], send: (change) => call("PATCH", "/conventions", Conventions, change) },
};

/** The job that an errand is for, which the server has to have first; null where it is for none. */
export function jobOf(body: unknown): string | null {
  return typeof body === "object" && body !== null && "job" in body ? String(body.job) : null;
}

/** What an errand brings along that no text can say; null where it is all words. */
export function fileOf(body: unknown): File | null {
  return typeof body === "object" && body !== null && "file" in body && body.file instanceof File ? body.file : null;
}
