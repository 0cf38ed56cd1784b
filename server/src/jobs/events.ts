import type { Request, RequestHandler, Response } from "express";

/** A line that says nothing, so that nobody between takes the connection for dead. */
const BREATH_EVERY = 25_000;

/** Tells every page that has a job open when the job was changed: server-sent events without content. */
export class JobEvents {
  private readonly open = new Map<string, Map<Response, string>>();

  /** A stream for one job; it ends with the page. */
  readonly stream: RequestHandler = (request: Request, response) => {
    const id = String(request.params.id);
    response.status(200).set({
      "Content-Type": "text/event-stream",
      // Compressed it would be held back until there is enough of it.
      "Cache-Control": "no-store, no-transform",
      "X-Accel-Buffering": "no",
    });
    response.write("retry: 2000\n\n");
    const here = this.open.get(id) ?? new Map<Response, string>();
    this.open.set(id, here.set(response, String(request.query.who ?? "").slice(0, 80)));
    this.tellWho(id);
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
    const names = [...(this.open.get(id)?.values() ?? [])];
    for (const response of this.open.get(id)?.keys() ?? [])
      response.write(`event: here\ndata: ${JSON.stringify(names)}\n\n`);
  }

  private tell(id: string) {
    for (const response of this.open.get(id)?.keys() ?? []) response.write("event: changed\ndata: \n\n");
  }
}
