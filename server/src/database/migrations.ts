import { createHash } from "node:crypto";
import knex, { type Knex } from "knex";

/** As it was when checksums came in: a migration imports nothing that may change. */
function sumThen(...parts: readonly unknown[]): string {
  return createHash("sha256").update(JSON.stringify(parts)).digest("hex").slice(0, 32);
}

/** Migrations only append; a published one is never changed. */
const MIGRATIONS: readonly { readonly name: string; readonly up: (db: Knex) => Promise<void> }[] = [
  {
    name: "0001_jobs",
    up: async (db) => {
      await db.schema.createTable("jobs", (t) => {
        t.text("id").primary();
        t.text("title").notNullable();
        t.text("complaint").notNullable();
        t.text("finding").notNullable();
        t.text("state").notNullable();
        t.text("settings").notNullable();
        t.integer("revision").notNullable();
        t.text("created_at").notNullable();
        t.text("updated_at").notNullable();
        t.text("deleted_at");
      });
      await db.schema.createTable("circuits", (t) => {
        t.text("job_id").notNullable().references("id").inTable("jobs").onDelete("CASCADE");
        t.integer("revision").notNullable();
        t.text("trail").notNullable();
        t.integer("part_count").notNullable();
        t.text("created_at").notNullable();
        t.primary(["job_id", "revision"]);
      });
      await db.schema.createTable("readings", (t) => {
        t.text("id").primary();
        t.text("job_id").notNullable().references("id").inTable("jobs").onDelete("CASCADE");
        t.integer("place").notNullable();
        t.text("data").notNullable();
        t.integer("revision").notNullable();
        t.text("created_at").notNullable();
        t.text("deleted_at");
        t.index(["job_id", "place"]);
      });
    },
  },
  {
    name: "0002_workshop_and_library",
    up: async (db) => {
      await db.schema.createTable("workshop", (t) => {
        t.text("key").primary();
        t.text("data").notNullable();
      });
      await db.schema.createTable("library", (t) => {
        t.text("id").primary();
        t.text("name").notNullable();
        t.text("notes").notNullable();
        t.integer("revision").notNullable();
        t.text("created_at").notNullable();
        t.text("updated_at").notNullable();
        t.text("deleted_at");
      });
      await db.schema.createTable("library_revisions", (t) => {
        t.text("library_id").notNullable().references("id").inTable("library").onDelete("CASCADE");
        t.integer("revision").notNullable();
        t.text("trail").notNullable();
        t.integer("part_count").notNullable();
        t.text("created_at").notNullable();
        t.primary(["library_id", "revision"]);
      });
      await db.schema.alterTable("jobs", (t) => {
        t.text("library_id");
      });
    },
  },
  {
    name: "0003_history_and_sums",
    up: async (db) => {
      await db.schema.createTable("history", (t) => {
        t.increments("id");
        t.text("job_id").notNullable().references("id").inTable("jobs").onDelete("CASCADE");
        t.text("data").notNullable();
        t.text("created_at").notNullable();
        t.index(["job_id", "id"]);
      });
      for (const table of ["jobs", "circuits", "readings", "library_revisions"])
        await db.schema.alterTable(table, (t) => {
          t.text("sum");
        });
      for (const r of await db("jobs"))
        await db("jobs")
          .where({ id: r.id })
          .update({ sum: sumThen(r.id, r.title, r.complaint, r.finding, r.state, r.settings, r.created_at) });
      for (const r of await db("circuits"))
        await db("circuits")
          .where({ job_id: r.job_id, revision: r.revision })
          .update({ sum: sumThen(r.job_id, r.revision, r.trail, r.created_at) });
      for (const r of await db("readings"))
        await db("readings")
          .where({ id: r.id })
          .update({ sum: sumThen(r.id, r.job_id, r.place, r.data, r.revision, r.created_at) });
      for (const r of await db("library_revisions"))
        await db("library_revisions")
          .where({ library_id: r.library_id, revision: r.revision })
          .update({ sum: sumThen(r.library_id, r.revision, r.trail, r.created_at) });
    },
  },
  {
    name: "0004_logbook",
    up: async (db) => {
      await db.schema.alterTable("circuits", (t) => {
        t.text("who");
        // What is known of the circuit without reading it: its key, its title, and the kinds of its parts.
        t.text("key");
        t.text("name");
        t.text("kinds");
        t.text("exposure");
      });
      await db.schema.createTable("logbook", (t) => {
        t.increments("n");
        t.text("job_id").notNullable().unique().references("id").inTable("jobs").onDelete("CASCADE");
        for (const name of [
          "title",
          "complaint",
          "state",
          "created_at",
          "updated_at",
          "circuit",
          "circuit_name",
          "tags",
        ])
          t.text(name).notNullable();
        for (const name of ["deleted_at", "outcome", "closed_at"]) t.text(name);
        for (const name of ["customer", "device", "finding"]) t.text(name).notNullable();
        t.integer("part_count").notNullable();
        t.integer("reading_count").notNullable();
        t.float("minutes");
        t.integer("first_right");
        t.text("expected").notNullable();
        t.index(["deleted_at", "updated_at"]);
        t.index(["circuit"]);
      });
      await db.schema.createTable("found_faults", (t) => {
        t.text("job_id").notNullable().references("id").inTable("jobs").onDelete("CASCADE");
        for (const name of ["circuit", "kind", "part", "mode"]) t.text(name).notNullable();
        t.index(["job_id"]);
        t.index(["part"]);
      });
      await db.schema.createTable("said", (t) => {
        t.text("job_id").notNullable().references("id").inTable("jobs").onDelete("CASCADE");
        t.float("probability").notNullable();
        t.integer("was_true").notNullable();
        t.index(["job_id"]);
      });
      await db.schema.raw(
        "CREATE VIRTUAL TABLE words USING fts5(title, complaint, finding, parts, circuit, people, notes, tokenize = \"unicode61 remove_diacritics 2\", prefix = '2 3')",
      );
      await db.schema.createTable("spent", (t) => {
        t.text("job_id").notNullable().references("id").inTable("jobs").onDelete("CASCADE");
        t.text("stage").notNullable();
        t.float("minutes").notNullable();
        t.primary(["job_id", "stage"]);
      });
      await db.schema.createTable("pictures", (t) => {
        t.text("id").primary();
        t.text("job_id").notNullable().references("id").inTable("jobs").onDelete("CASCADE");
        t.text("name").notNullable();
        t.integer("width").notNullable();
        t.integer("height").notNullable();
        t.binary("data").notNullable();
        t.binary("small").notNullable();
        t.text("who");
        t.text("created_at").notNullable();
        t.text("deleted_at");
        t.text("sum").notNullable();
        t.index(["job_id"]);
      });
    },
  },
  {
    name: "0005_believed",
    up: async (db) => {
      // The habits that counted for a job when it was changed: a row where they were others than before.
      await db.schema.createTable("believed", (t) => {
        t.increments("n");
        t.text("job_id").notNullable().references("id").inTable("jobs").onDelete("CASCADE");
        t.text("at").notNullable();
        t.text("habits").notNullable();
        t.index(["job_id"]);
      });
    },
  },
  {
    name: "0006_apart",
    up: async (db) => {
      // Rows that a bad disk damaged so that nothing can be made of them, as JSON, as they were found.
      await db.schema.createTable("apart", (t) => {
        t.increments("n");
        t.text("at").notNullable();
        t.text("of").notNullable();
        t.text("why").notNullable();
        t.text("data").notNullable();
      });
    },
  },
  {
    name: "0007_columns_of_0004",
    up: async (db) => {
      // 0004 was given two columns after it had been in use: a database from before that has neither.
      if (!(await db.schema.hasColumn("circuits", "exposure")))
        await db.schema.alterTable("circuits", (t) => {
          t.text("exposure");
        });
      if (await db.schema.hasColumn("logbook", "expected")) return;
      await db.schema.alterTable("logbook", (t) => {
        t.text("expected").notNullable().defaultTo("{}");
      });
      // Both are made anew at the start, of the circuits.
      await db("circuits").update({ key: null });
      await db("logbook").delete();
    },
  },
  {
    name: "0008_picture_words",
    up: async (db) => {
      await db.schema.alterTable("pictures", (t) => {
        t.text("caption").notNullable().defaultTo("");
        t.integer("turns").notNullable().defaultTo(0);
        t.boolean("in_report").notNullable().defaultTo(true);
      });
    },
  },
  {
    name: "0009_hunts",
    up: async (db) => {
      // A hunt is a job of its own, which is in no logbook; what is hidden in it, and what was done.
      await db.schema.createTable("hunts", (t) => {
        t.text("job_id").primary().references("id").inTable("jobs").onDelete("CASCADE");
        t.text("hidden").notNullable();
        t.text("data").notNullable();
        t.text("created_at").notNullable();
        t.index(["created_at"]);
      });
    },
  },
  {
    name: "0010_exercises",
    up: async (db) => {
      for (const name of ["exercise_sets", "attempts"])
        await db.schema.createTable(name, (t) => {
          t.text("id").primary();
          t.text("data").notNullable();
          t.text("created_at").notNullable();
          t.index(["created_at"]);
        });
    },
  },
];

/** Names of all that this program knows, in their order. */
export const MIGRATION_NAMES: readonly string[] = MIGRATIONS.map((m) => m.name);

/** Every column, by table, of a database of this version. */
export async function columnsDue(): Promise<string[]> {
  const db = knex({ client: "better-sqlite3", connection: { filename: ":memory:" }, useNullAsDefault: true });
  try {
    await db.migrate.latest({ migrationSource });
    return await columnsIn(db);
  } finally {
    await db.destroy();
  }
}

/** Every column of a database's own tables, as `table.column`. */
export async function columnsIn(db: Knex): Promise<string[]> {
  const rows = (await db.raw(
    "SELECT t.name || '.' || c.name AS it FROM sqlite_master t, pragma_table_info(t.name) c WHERE t.type = 'table' AND t.name NOT GLOB 'knex_*' AND t.name NOT GLOB 'sqlite_*'",
  )) as { it: string }[];
  return rows.map((row) => row.it);
}

export const migrationSource: Knex.MigrationSource<(typeof MIGRATIONS)[number]> = {
  getMigrations: async () => [...MIGRATIONS],
  getMigrationName: (migration) => migration.name,
  getMigration: async (migration) => ({ up: migration.up, down: async () => {} }),
};
