import { clipped, wellFormed } from "@hound/core/record";
import type { Request, RequestHandler, Response } from "express";
import { Problem } from "../problems.ts";

/** A line that says nothing, so that nobody between takes the connection for dead. */
const BREATH_EVERY = 25_000;

/** Who comes and goes within so many milliseconds is told at once. */
const GATHERED = 200;
/** Pages that hear of one job, and of all of them. */
const MOST = { ofOne: 100, ofAll: 500 };

/** Tells every page that has a job open when the job was changed: server-sent events without content. */
export class JobEvents {
  private readonly open = new Map<string, Map<Response, string>>();
  private readonly telling = new Set<string>();

  /** @param changedAt when a job was changed last; null where there is none */
  constructor(private readonly changedAt: (id: string) => Promise<string | null>) {}

  /** A stream for one job; it ends with the page. */
  readonly stream: RequestHandler = (request: Request, response) => {
    const id = String(request.params.id);
    const all = [...this.open.values()].reduce((sum, of) => sum + of.size, 0);
    if (all >= MOST.ofAll || (this.open.get(id)?.size ?? 0) >= MOST.ofOne) throw new Problem("too-many-pages");
    response.status(200).set({
      "Content-Type": "text/event-stream",
      // Compressed it would be held back until there is enough of it.
      "Cache-Control": "no-store, no-transform",
      "X-Accel-Buffering": "no",
    });
    response.write("retry: 2000\n\n");
    const here = this.open.get(id) ?? new Map<Response, string>();
    this.open.set(id, here.set(response, clipped(wellFormed(String(request.query.who ?? "")), 80)));
    this.tellWho(id);
    // Whoever has it as it was changed last need not ask for it again.
    this.changedAt(id).then(
      (at) => response.write(`event: at\ndata: ${at ?? ""}\n\n`),
      () => response.write("event: changed\ndata: \n\n"),
    );
    const breath = setInterval(() => response.write(":\n\n"), BREATH_EVERY);
    breath.unref();
    response.on("close", () => {
      clearInterval(breath);
      here.delete(response);
      if (here.size === 0) this.open.delete(id);
      else this.tellWho(id);
    });
  };

  /** Tells of every change of a job that the server acknowledged. */
  readonly watch: RequestHandler = (request, response, next) => {
    const { id } = request.params;
    // Minutes are counted beside the work: nobody has to look again for them.
    if (request.method !== "GET" && !request.path.endsWith("/minutes"))
      response.on("finish", () => {
        if (response.statusCode < 300) this.tell(String(id));
      });
    next();
  };

  /** Everything may have changed. */
  tellAll() {
    for (const id of this.open.keys()) this.tell(id);
  }

  /** Who has the job open, by the names that their pages gave; those without one are counted. */
  private tellWho(id: string) {
    if (this.telling.has(id)) return;
    this.telling.add(id);
    setTimeout(() => {
      this.telling.delete(id);
      const here = this.open.get(id);
      const told = `event: here\ndata: ${JSON.stringify([...(here?.values() ?? [])])}\n\n`;
      for (const response of here?.keys() ?? []) response.write(told);
    }, GATHERED).unref();
  }

  private tell(id: string) {
    for (const response of this.open.get(id)?.keys() ?? []) response.write("event: changed\ndata: \n\n");
  }
}
