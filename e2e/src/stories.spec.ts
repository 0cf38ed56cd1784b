import { count } from "./deep.ts";
import { expect, test } from "./server.ts";

/** What of a story the page is held to. */
interface Story {
  readonly tells: string;
  readonly trail: string;
  readonly lines: readonly string[];
  readonly situation?: string;
  readonly meter?: object;
  readonly stands?: "settled" | "healthy" | "open" | "stuck";
  readonly repair?: string;
  readonly first?: string | readonly string[];
}

// The table is the computation's own: it is no part of what these tests are compiled with.
const TABLE = "../../core/src/test/stories/stories.ts";
const { STORIES } = (await import(TABLE)) as { readonly STORIES: readonly Story[] };

/** Stories typed into the page as at the bench; `HOUND_STORIES=all` types every one. */
const FEW = count(12, 3);
/** Those that say where the job stands, of which the page shows all that it has to. */
const TOLD = STORIES.filter((s) => s.stands !== undefined && s.meter === undefined);
const chosen = process.env.HOUND_STORIES === "all" ? STORIES.filter((s) => s.meter === undefined) : spread(TOLD, FEW);

const HEADLINES: Readonly<Record<NonNullable<Story["stands"]>, RegExp>> = {
  settled: /^Settled: /,
  healthy: /^Agrees with healthy$/,
  open: /^(Not settled yet(: .+)?|Nothing speaks for a fault yet)$/,
  stuck: /^Nothing measured here tells these apart$/,
};

for (const story of chosen) {
  test(`as at the bench: ${story.tells}`, async ({ page, server }) => {
    const made = await page.request.post(`${server.address}/api/jobs`, {
      data: { title: story.tells, trail: story.trail },
    });
    const { id } = (await made.json()) as { id: string };
    await page.goto(`${server.address}/jobs/${id}/readings`);
    if (story.situation) {
      await page.getByRole("button", { name: "Bench set-up" }).click();
      await page.getByLabel("Here because").selectOption(story.situation);
    }
    const line = page.getByLabel("Reading", { exact: true });
    for (const words of story.lines) {
      await line.fill(words);
      await line.press("Enter");
      await expect(line).toHaveValue("");
    }
    const leading = page.getByRole("list", { name: "Leading suspects" });
    await expect(leading).toHaveAttribute("aria-busy", "false");
    if (story.stands) await expect(page.locator("main h2:not(.sr-only)").first()).toHaveText(HEADLINES[story.stands]);
    if (story.repair && story.stands === "settled")
      await expect(page.locator("main h2:not(.sr-only)").first()).toHaveText(
        new RegExp(`^Settled: ${story.repair.split(" & ").map(stepPattern).join(", and ")}$`),
      );
    const firsts = [story.first ?? []].flat();
    if (firsts.length > 0) {
      const words = firsts.map((f) => (f === "nothing" ? "Nothing wrong" : f.split(/[ ~]/)[0]));
      await expect(leading.getByRole("listitem").first()).toContainText(new RegExp(words.join("|")));
    }
  });
}

/** A part to be replaced, which may be no more than the wrong way round; a bridge to be cleared. */
function stepPattern(step: string): string {
  if (step.includes("~")) return `clear what joins ${step.replace("~", " to ")}`;
  return `(replace ${step}(, or turn it round)?|turn ${step} round)`;
}

/** So many of a list, evenly spread over it. */
function spread<T>(list: readonly T[], count: number): T[] {
  return list.filter((_, i) => Math.floor((i * count) / list.length) !== Math.floor(((i - 1) * count) / list.length));
}
