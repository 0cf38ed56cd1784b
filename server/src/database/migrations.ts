import type { Knex } from "knex";

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
];

/** Names of all that this program knows, in their order. */
export const MIGRATION_NAMES: readonly string[] = MIGRATIONS.map((m) => m.name);

export const migrationSource: Knex.MigrationSource<(typeof MIGRATIONS)[number]> = {
  getMigrations: async () => [...MIGRATIONS],
  getMigrationName: (migration) => migration.name,
  getMigration: async (migration) => ({ up: migration.up, down: async () => {} }),
};
