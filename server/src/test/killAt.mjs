// Loaded before a server: it ends itself, as if the plug were pulled, before its database's statement HOUND_KILL_AT.
import Database from "better-sqlite3";

let left = Number(process.env.HOUND_KILL_AT);
for (const verb of ["prepare", "exec", "pragma", "backup"]) {
  const own = Database.prototype[verb];
  Database.prototype[verb] = function (...given) {
    left -= 1;
    if (left < 0) process.kill(process.pid, "SIGKILL");
    return own.apply(this, given);
  };
}
