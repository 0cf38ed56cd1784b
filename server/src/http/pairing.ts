import { createHash, createHmac, randomBytes, randomInt, timingSafeEqual } from "node:crypto";
import { clipped, PairedBrowsers, wellFormed } from "@hound/core/record";
import type { Request, RequestHandler } from "express";
import { z } from "zod";
import { Problem } from "../problems.ts";
import type { PairedList } from "./paired.ts";
import { type Route, route } from "./route.ts";

const COOKIE = "hound_paired";
const YEAR = 365 * 86_400_000;
/** Wrong codes a minute from one address, and from all: eight digits then last for years. */
const TRIES = { most: 10, ofAll: 100, within: 60_000 } as const;
/** A cookie from later than now, but for clocks that differ a little, was made by nobody here. */
const AHEAD = 300_000;
const LOOPBACK = /^(?:::1|(?:::ffff:)?127(?:\.\d{1,3}){3})$/;

const Body = z.strictObject({ code: z.string().max(40) });

/**
 * Who may use a server that is open to a network: this machine itself, and browsers that were told the code that the
 * terminal shows. They keep a signed cookie, good for a year and over restarts.
 */
export class Pairing {
  /** Another at every start. */
  readonly code = String(randomInt(0, 1e8))
    .padStart(8, "0")
    .replace(/(\d{4})/, "$1 ");
  private wrong: { readonly from: string; readonly at: number }[] = [];
  /** Behind TLS the prefix holds it to this very host. RFC 6265bis, §4.1.3. */
  private readonly cookie: string;

  /**
   * @param secret what cookies are signed with
   * @param paired those that were let in: a cookie of another is good for nothing
   * @param isSecure true behind TLS
   */
  constructor(
    private readonly secret: string,
    private readonly paired: PairedList,
    private readonly isSecure: boolean,
    private readonly now: () => Date,
  ) {
    this.cookie = isSecure ? `__Host-${COOKIE}` : COOKIE;
  }

  readonly guard: RequestHandler = (request, _response, next) => {
    if (!LOOPBACK.test(request.socket.remoteAddress ?? "") && !this.isPaired(request)) throw new Problem("not-paired");
    next();
  };

  readonly pair: RequestHandler = (request, response) => {
    const parsed = Body.safeParse(request.body);
    if (!parsed.success) throw new Problem("invalid-input", { detail: "a code is expected" });
    const time = this.now().getTime();
    const from = request.socket.remoteAddress ?? "";
    this.wrong = this.wrong.filter(({ at }) => at >= time - TRIES.within);
    const isFull = this.wrong.length >= TRIES.ofAll || this.wrong.filter((w) => w.from === from).length >= TRIES.most;
    // Whoever sits at this machine reads the code from its terminal.
    if (isFull && !LOOPBACK.test(from)) throw new Problem("too-many-tries");
    if (!isEqual(parsed.data.code.replace(/\D/g, ""), this.code.replace(/\D/g, ""))) {
      this.wrong.push({ from, at: time });
      throw new Problem("wrong-code");
    }
    this.forget(time);
    const token = `${randomBytes(24).toString("base64url")}-${time.toString(36)}`;
    const on = /\(([^)]*)\)/.exec(request.get("user-agent") ?? "")?.[1] ?? "";
    this.paired.add({ id: idOf(token), at: this.now().toISOString(), from, on: wellFormed(clipped(on, 80)) });
    response.cookie(this.cookie, `${token}.${this.sign(token)}`, {
      httpOnly: true,
      sameSite: "strict",
      secure: this.isSecure,
      path: "/",
      maxAge: YEAR,
    });
    response.status(204).end();
  };

  /** `/api/pairings`: who was let in, and the end of it. */
  routes(): Route[] {
    return [
      route(
        { method: "get", path: "/pairings", summary: "Browsers that were let in", answer: PairedBrowsers },
        async (_input, { req }) => {
          this.forget(this.now().getTime());
          return { list: [...this.paired.all()].reverse(), own: this.ownId(req) };
        },
      ),
      route(
        {
          method: "delete",
          path: "/pairings/:id",
          summary: "Let a browser in no more",
          params: z.object({ id: z.string().max(100) }),
        },
        async ({ params: { id } }) => this.paired.end(id),
      ),
    ];
  }

  /** What is over its year needs no place in the list. */
  private forget(time: number) {
    for (const { id, at } of this.paired.all()) if (time - Date.parse(at) >= YEAR) this.paired.end(id);
  }

  private ownId(request: Request): string | null {
    return this.isPaired(request) ? idOf(this.tokenOf(request).token) : null;
  }

  private tokenOf({ headers }: Request): { token: string; signature: string } {
    const kept = (headers.cookie ?? "").split(/;\s*/).find((c) => c.startsWith(`${this.cookie}=`));
    const [token = "", signature = ""] = (kept ?? "").slice(this.cookie.length + 1).split(".");
    return { token, signature };
  }

  private isPaired(request: Request): boolean {
    const { token, signature } = this.tokenOf(request);
    const age = this.now().getTime() - Number.parseInt(token.slice(token.lastIndexOf("-") + 1), 36);
    if (!(age < YEAR && age > -AHEAD && isEqual(signature, this.sign(token)))) return false;
    const id = idOf(token);
    return this.paired.all().some((one) => one.id === id);
  }

  private sign(token: string): string {
    return createHmac("sha256", this.secret).update(token).digest("base64url");
  }
}

/** By which a pairing is known; the cookie cannot be made of it. */
const idOf = (token: string) => createHash("sha256").update(token).digest("base64url");

function isEqual(a: string, b: string): boolean {
  const [one, two] = [Buffer.from(a), Buffer.from(b)];
  return one.length === two.length && timingSafeEqual(one, two);
}

/** A secret of the length that signatures with SHA-256 ask for. */
export const newSecret = () => randomBytes(32).toString("base64url");
