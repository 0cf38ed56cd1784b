import type { Request, RequestHandler, Response } from "express";

/** A line that says nothing, so that nobody between takes the connection for dead. */
const BREATH_EVERY = 25_000;

/** Tells every page that has a job open when the job was changed: server-sent events without content. */
export class JobEvents {
  private readonly open = new Map<string, Set<Response>>();

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
    const here = this.open.get(id) ?? new Set();
    this.open.set(id, here.add(response));
    const breath = setInterval(() => response.write(":\n\n"), BREATH_EVERY);
    breath.unref();
    response.on("close", () => {
      clearInterval(breath);
      here.delete(response);
      if (here.size === 0) this.open.delete(id);
    });
  };

  /** Tells of every change of a job that the server acknowledged. */
  readonly watch: RequestHandler = (request, response, next) => {
    const { id } = request.params;
    if (request.method !== "GET")
      response.on("finish", () => {
        if (response.statusCode < 300) this.tell(String(id));
      });
    next();
  };

  /** Everything may have changed. */
  tellAll() {
    for (const id of this.open.keys()) this.tell(id);
  }

  private tell(id: string) {
    for (const response of this.open.get(id) ?? []) response.write("event: changed\ndata: \n\n");
  }
}
