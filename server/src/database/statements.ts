import { Recent } from "../recent.ts";

/** What of a connection is used here (better-sqlite3). */
interface Connection {
  prepare(sql: string): unknown;
}

/**
 * Keeps a connection's statements compiled: a verb asks the same twenty each time, and compiling them costs as much as
 * asking. A changed schema is noticed by SQLite itself, which compiles anew.
 */
export function keepStatements(connection: Connection) {
  const compile = connection.prepare.bind(connection);
  const kept = new Recent<unknown>(300);
  connection.prepare = (sql) => kept.of(sql, () => compile(sql));
}
