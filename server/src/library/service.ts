import { randomUUID } from "node:crypto";
import type { LibraryChange, LibraryCircuit, LibrarySummary, NewLibraryCircuit } from "@hound/core/record";
import type { Knex } from "knex";
import { inTransaction } from "../database/transaction.ts";
import { Problem } from "../problems.ts";
import { type Reader, readHere } from "../threads/threads.ts";
import { LibraryRepository } from "./repository.ts";

/** The work of the library's endpoints; each verb is one transaction. */
export class LibraryService {
  constructor(
    private readonly db: Knex,
    private readonly now: () => Date,
    private readonly reader: Reader = readHere,
  ) {}

  list(search: string, deleted: boolean, limit: number): Promise<{ circuits: LibrarySummary[]; total: number }> {
    return new LibraryRepository(this.db).list(search, deleted, limit);
  }

  async find(id: string): Promise<LibraryCircuit> {
    return found(await new LibraryRepository(this.db).find(id));
  }

  /** The same id twice is the same circuit: the answer to the first may have been lost on its way. */
  async create({ id = randomUUID(), name, notes = "", trail }: NewLibraryCircuit): Promise<LibraryCircuit> {
    const { partCount } = await this.reader.look(trail);
    return this.inTransaction(async (library, at) => {
      const kept = await library.find(id);
      if (kept) return kept;
      await library.create(id, { name, notes }, at);
      await library.addRevision(id, { trail, partCount, revision: 0 }, at);
      return found(await library.find(id));
    });
  }

  async change(id: string, { revision, name, notes, trail }: LibraryChange): Promise<LibraryCircuit> {
    const partCount = trail === undefined ? 0 : (await this.reader.look(trail)).partCount;
    return this.inTransaction(async (library, at) => {
      const kept = found(await library.find(id));
      if (kept.revision !== revision) throw new Problem("stale-revision", { current: kept });
      const isNew = trail !== undefined && trail !== kept.trail;
      const next = isNew ? revision + 1 : revision;
      if (isNew) await library.addRevision(id, { trail, partCount, revision: next }, at);
      await library.update(id, { name: name ?? kept.name, notes: notes ?? kept.notes, revision: next }, at);
      return found(await library.find(id));
    });
  }

  setDeleted(id: string, deleted: boolean): Promise<LibraryCircuit> {
    return this.inTransaction(async (library, at) => {
      found(await library.find(id));
      await library.markDeleted(id, deleted ? at : null);
      return found(await library.find(id));
    });
  }

  private inTransaction<T>(work: (library: LibraryRepository, at: string) => Promise<T>): Promise<T> {
    return inTransaction(this.db, (trx) => work(new LibraryRepository(trx), this.now().toISOString()));
  }
}

function found(circuit: LibraryCircuit | null): LibraryCircuit {
  if (!circuit) throw new Problem("circuit-not-found");
  return circuit;
}
