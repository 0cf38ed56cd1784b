import type { Locator, Page } from "@playwright/test";
import { count } from "./deep.ts";
import { allInFull } from "./menu.ts";
import { patient } from "./patience.ts";
import { alone, expect, fresh, test } from "./server.ts";
import { StandIn } from "./standIn.ts";

const withMeter = alone.extend<{ meter: StandIn }>({
  meter: async ({ server }, use) => {
    const meter = new StandIn();
    await meter.start();
    await server.kill();
    server.meter = meter.address;
    await server.start();
    await use(meter);
    await meter.kill();
  },
});

/** Readings taken in a row. */
const READINGS = count(12, 3);
const PUMP = "Pump controller, well shaft";
const lineOf = (page: Page) => page.getByLabel("Reading", { exact: true });
const readingsIn = (page: Page) => page.getByRole("list", { name: "Readings" }).getByRole("listitem");

/** Readings of a job as the server has them. */
async function stored(server: { address: string }, page: Page) {
  const id = new URL(page.url()).pathname.split("/")[2];
  const response = await fetch(`${server.address}/api/jobs/${id}`);
  const { readings } = (await response.json()) as {
    readings: { id: string; reading: { from?: string; to?: string } }[];
  };
  return readings;
}

test("a slip is asked about beside the line, and one key takes the correction", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "readings"));
  const line = lineOf(page);
  await expect(page.getByRole("list", { name: "Leading suspects" })).toBeVisible();
  await expect(page.getByText(/^Next: /)).toBeVisible();
  await line.focus();
  await page.keyboard.type("A -23.9");
  const asked = page.getByRole("list", { name: "Asked" });
  await expect(asked).toContainText("were the leads swapped?");
  await page.keyboard.press("Alt+Enter");
  await expect(line).toHaveValue("");
  await expect(readingsIn(page).first()).toContainText("23.9 V");
  await expect(readingsIn(page).first()).not.toContainText("−23.9");
  await expect(page.getByText(/^Next: /)).toBeVisible();
  await page.keyboard.type("A 23900");
  await expect(asked).toBeVisible();
  // What no supply here can bring about moves nothing, and is recorded only when it is said twice.
  await expect(page.getByRole("list", { name: "Leading suspects" })).not.toContainText("volts");
  await page.keyboard.press("Enter");
  await expect(line).toHaveValue("A 23900");
  await page.keyboard.press("Enter");
  await expect(readingsIn(page).first()).toContainText(/23\.9\d*\skV/);
  await page.keyboard.press("Control+z");
  await expect(page.getByText(/^Next: /)).toBeVisible();
  // What no single fault brings about is held by the first Enter, before anything was weighed, and stays marked.
  await page.keyboard.type("A -23");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Not recorded yet: Enter again records it.", { exact: true })).toBeVisible();
  await expect(asked).toBeVisible();
  await expect(line).toHaveValue("A -23");
  await page.keyboard.press("Enter");
  await expect(readingsIn(page).first()).toContainText("unlikely, said twice");
  await page.keyboard.press("Control+z");
  // A sum is answered where it is asked.
  await page.keyboard.type("R1 + R2 = BT1?");
  await expect(page.getByText(/against .* apart/)).toBeVisible();
});

test("a current is taken step by step; while its branch is open every stage says so, and another reading is asked about", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("vent", "readings"));
  const line = lineOf(page);
  await expect(page.getByText(/^Next: /)).toBeVisible();
  await line.focus();
  await page.keyboard.press("Alt+c");
  // Asked for by words, it is the proposal: board, coach and a bare number follow.
  await page.keyboard.type("R1 current");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^Next: amperes through R1/)).toBeVisible();
  const coach = page.getByRole("region", { name: "Meter" });
  await expect(coach).toContainText("red to A");
  await expect(coach).toContainText("black to R1’s free end at A");
  await expect(page.getByRole("list", { name: "Cautions" })).toContainText("never across a supply");
  const steps = coach.getByRole("list", { name: /Current through R1/ });
  await steps.getByRole("button", { name: /Power off, capacitors/ }).click();
  await steps.getByRole("button", { name: /Take R1’s lead off A/ }).click();
  await line.fill("");
  await page.keyboard.press("Alt+2");
  const strip = page.getByRole("region", { name: "In hand" });
  await expect(strip).toContainText("R1’s branch is open");
  await expect(line).toHaveCount(0);
  await page.keyboard.press("Alt+3");
  await expect(line).toBeFocused();
  await page.keyboard.type("A 24.0");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("list", { name: "Asked" })).toContainText("R1’s branch is still open");
  await expect(line).toHaveValue("A 24.0");
  await page.keyboard.press("Enter");
  await expect(readingsIn(page).first()).toContainText("a lead of R1 lifted");
  // The empty line ticks the next step: one key each.
  await expect(line).toHaveValue("");
  await page.keyboard.press("Enter");
  await expect(strip).toContainText("The meter stands in R1’s branch");
  await page.keyboard.press("Enter");
  await page.keyboard.type("38.6m");
  await page.keyboard.press("Enter");
  await expect(readingsIn(page).first()).toContainText("38.6 mA");
  await expect(readingsIn(page).first()).not.toContainText("left in");
  await expect(strip).toContainText("Next: Power off");
  for (let left = 3; left > 0; left -= 1) {
    const before = (await strip.textContent()) ?? "";
    await page.keyboard.press("Enter");
    await expect(left > 1 ? strip.filter({ hasNotText: before }) : strip).toHaveCount(left > 1 ? 1 : 0);
  }
});

test("a load that stays dead is run to earth without a meter, one key an outcome, lead by lead", async ({
  page,
  server,
}) => {
  const id = crypto.randomUUID();
  const trail = "BT1 12V: F1 1A + S1 + [A] W1 + [B] LA1 12V 2W + [C] W2";
  const job = { id, title: "Door lantern", complaint: "Stays dark", trail };
  await page.request.post(`${server.address}/api/jobs`, { data: job });
  await page.goto(`${server.address}/jobs/${id}/readings`);
  await expect(page.getByText(/^Next: /)).toBeVisible();
  await page.getByText("Be led").click();
  await page.getByRole("button", { name: "LA1 does nothing" }).click();
  const led = page.getByRole("region", { name: "LA1 does nothing" });
  const settled = page.getByRole("heading", { name: /^Settled: replace W2/ });
  // What is but typed waits for nothing.
  await lineOf(page).fill("B 11.9");
  await expect(page.getByText("Typed, not recorded yet")).toBeVisible();
  await expect(led.getByText("Working it out")).toHaveCount(0);
  await lineOf(page).fill("");
  await led.focus();
  // W2 is broken: what is seen is dark until it is another one.
  for (let taken = 0; taken < 12; taken += 1) {
    await expect(led.getByText("Working it out")).toHaveCount(0);
    if (await settled.isVisible()) break;
    const step = led
      .getByRole("listitem")
      .filter({ has: page.getByRole("button") })
      .first();
    const words = (await step.textContent()) ?? "";
    const answer = words.startsWith("look at LA1")
      ? "is dark"
      : words.startsWith("look at F1")
        ? "looks intact"
        : words.startsWith("alone on the supply: LA1")
          ? "is lit"
          : words.startsWith("a known-good part for W2")
            ? "works then"
            : "as before";
    const key = (await step.getByRole("button", { name: answer }).textContent())?.charAt(0) ?? "";
    await page.keyboard.press(key);
    await expect(readingsIn(page).first()).toContainText(/F1|LA1/);
    await expect(page.getByRole("button", { name: /^all \d+$/ })).toHaveText(`all ${taken + 1}`);
  }
  await expect(settled).toBeVisible();
});

/** What is proposed, once it stands. @param before what it is no more */
async function atRest(next: Locator, before = ""): Promise<string> {
  let last = before;
  await expect
    .poll(
      async () => {
        const now = ((await next.textContent()) ?? "").trim();
        const isSame = now === last && now !== before && !now.includes("…");
        last = now;
        return isSame;
      },
      { intervals: [200] },
    )
    .toBe(true);
  return last;
}

withMeter(
  `${READINGS} readings of fourteen parts by the number pad: two keys a reading at most beside the digits and the key for another kind`,
  async ({ page, server, meter }) => {
    withMeter.setTimeout(patient(240_000));
    await page.goto(await server.bench("pump", "readings"));
    await page.getByRole("button", { name: "Bench view" }).click();
    const next = page.getByRole("region", { name: "Next" });
    const line = lineOf(page);
    await expect(line).toBeFocused();
    const before = (await stored(server, page)).length;
    let most = 0;
    for (let taken = 0; taken < READINGS; taken += 1) {
      let keys = 0;
      const press = async (key: string) => {
        keys += 1;
        await page.keyboard.press(key);
      };
      const volts = /^(?:At leisure: )?volts (?:at|from)\s*(\S+)(?: to (\S+))?$/;
      let proposed = await atRest(next);
      // What is no voltage is passed by with the key for the next kind.
      for (let passed = 0; !volts.test(proposed); passed += 1) {
        expect(passed, proposed).toBeLessThan(10);
        await page.keyboard.press("NumpadDivide");
        proposed = await atRest(next, proposed);
      }
      const [, from, to] = volts.exec(proposed) ?? [];
      const value = await meter.read(PUMP, { quantity: "voltage", from, ...(to ? { to } : {}), value: 0 });
      for (const sign of value.toFixed(2)) {
        if (sign === "-") await press("NumpadSubtract");
        else if (sign === ".") await page.keyboard.type(".");
        else await page.keyboard.type(sign);
      }
      await press("NumpadEnter");
      await expect(line).toHaveValue("");
      most = Math.max(most, keys);
    }
    expect(most).toBeLessThanOrEqual(2);
    await expect.poll(async () => (await stored(server, page)).length).toBe(before + READINGS);
    // Nothing is under 32 px that has to be read from where the probes are.
    for (const words of [next.locator("strong"), line, page.getByText(/%$/).last()])
      expect(await words.evaluate((e) => Number.parseFloat(getComputedStyle(e).fontSize))).toBeGreaterThanOrEqual(32);
    // A minus by itself takes the last one back.
    await page.keyboard.press("NumpadSubtract");
    await page.keyboard.press("NumpadEnter");
    await expect.poll(async () => (await stored(server, page)).length).toBe(before + READINGS - 1);
  },
);

withMeter(
  `${READINGS} readings by a meter that streams, without a key; it is killed and the page reloaded, and none is lost or doubled`,
  async ({ page, server, meter }) => {
    withMeter.setTimeout(patient(240_000));
    await page.goto(await server.bench("pump", "readings"));
    await expect(page.getByText(/^(Next|At leisure): /)).toBeVisible();
    const before = (await stored(server, page)).length;
    await page.getByRole("button", { name: "Bench set-up" }).click();
    await page.getByRole("button", { name: "Listen to the meter" }).click();
    const count = async () => (await stored(server, page)).length - before;
    await expect.poll(count, { timeout: patient(60_000) }).toBeGreaterThanOrEqual(READINGS / 4);
    await meter.kill();
    await expect(page.getByRole("region", { name: "Meter that streams" })).toContainText("No meter");
    await meter.start();
    await expect.poll(count, { timeout: patient(60_000) }).toBeGreaterThanOrEqual(READINGS / 2);
    await page.reload();
    await expect.poll(count, { timeout: patient(120_000) }).toBeGreaterThanOrEqual(READINGS);
    await page.getByRole("button", { name: "Stop listening" }).click();
    const all = await stored(server, page);
    expect(new Set(all.map((r) => r.id)).size).toBe(all.length);
    const places = all.slice(before).map(({ reading }) => `${reading.from} ${reading.to ?? ""}`);
    // No point twice in a row: what is steady is read once.
    expect(places.filter((p, i) => p === places[i - 1])).toEqual([]);
    await allInFull(page);
    await expect(readingsIn(page)).toHaveCount(all.length);
  },
);

fresh("a meter at a serial port of this device is listened to where the browser has one", async ({ page, server }) => {
  await page.addInitScript(() => {
    const port = {
      readable: null as ReadableStream<Uint8Array> | null,
      writable: new WritableStream<Uint8Array>(),
      async open() {
        let timer: ReturnType<typeof setInterval>;
        this.readable = new ReadableStream({
          start: (to) => {
            timer = setInterval(() => to.enqueue(new TextEncoder().encode("5.00 V\r\n")), 50);
          },
          cancel: () => clearInterval(timer),
        });
      },
      async close() {},
    };
    Object.defineProperty(navigator, "serial", { value: { requestPort: async () => port } });
  });
  await page.goto(await server.bench("vent", "readings"));
  await expect(page.getByText(/^Next: volts/)).toBeVisible();
  await page.getByRole("button", { name: "Bench set-up" }).click();
  await page.getByRole("button", { name: "… at a serial port" }).click();
  await expect(readingsIn(page).first()).toContainText("5.00 V");
});

fresh(
  "a foot switch is learnt once and records; the keypad types where there is no keyboard; a voice speaks when asked",
  async ({ page, server }) => {
    await page.addInitScript(() => {
      const spoken: string[] = [];
      Object.assign(window, { spoken });
      speechSynthesis.speak = (words) => void spoken.push(words.text);
    });
    const spoken = () => page.evaluate(() => (window as unknown as { spoken: string[] }).spoken);
    await page.setViewportSize({ width: 390, height: 844 });
    await page.goto(`${await server.bench("vent", "readings")}?view=bench`);
    const next = page.getByRole("region", { name: "Next" });
    await expect(next).toContainText(/volts|look/);
    await page.getByRole("button", { name: "Set-up" }).click();
    await page.getByRole("button", { name: "Learn a foot switch" }).click();
    await page.keyboard.press("PageDown");
    await expect(page.getByRole("button", { name: "Foot switch: PageDown" })).toBeVisible();
    await page.getByRole("button", { name: "Keypad" }).click();
    const keys = page.getByRole("group", { name: "Keypad" });
    await page.getByLabel("Reading", { exact: true }).fill("C ");
    for (const key of ["1", "2", "Point", "3"]) await keys.getByRole("button", { name: key, exact: true }).click();
    await keys.getByRole("button", { name: "Swap leads" }).click();
    await keys.getByRole("button", { name: "Swap leads" }).click();
    await expect(page.getByLabel("Reading", { exact: true })).toHaveValue("C 12.3");
    await page.keyboard.press("PageDown");
    await expect(page.getByText("C 12.3 V")).toBeVisible();
    expect(await spoken()).toEqual([]);
    await page.getByRole("button", { name: "Silent" }).click();
    await expect.poll(async () => (await spoken()).join(" ")).toMatch(/C 12\.3 volts.*percent.*Next: /);
  },
);

test("what is dangerous is said in the coach, in What-if, among suspects, at the breadboard and on paper, in the same words", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("lantern", "circuit"));
  await page.locator(".cm-content").fill("PS1 48V mains ri=0.1: F1 1A + [A] R1 100 + [B] R2 100");
  const mains = /PS1 is from the mains\. Isolate, lock off and prove dead/;
  const said = page.getByRole("list", { name: "Cautions" }).filter({ hasText: mains });
  await page.getByRole("tab", { name: "Breadboard" }).click();
  await expect(said).toContainText("does not belong on a breadboard");
  const base = page.url().replace(/\/circuit.*/, "");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  for (const stage of ["readings", "suspects", "whatif", "sheets/job"]) {
    await page.goto(`${base}/${stage}`);
    await expect(said.first()).toBeVisible();
  }
  await page.goto(`${base}/whatif`);
  await page.getByRole("textbox", { name: "What if" }).fill("R1 shorted");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("list", { name: "Cautions" })).toContainText("Never short a part on the bench");
});

test("a meter is added in the workshop, used by a job, and remembered by its readings", async ({ page, server }) => {
  await page.goto(`${server.address}/workshop`);
  await page.getByRole("button", { name: "Copy bench" }).click();
  const form = page.getByRole("form", { name: "Meter" });
  await form.getByLabel("Name, one word").fill("fine meter");
  await form.getByRole("button", { name: "Save meter" }).click();
  await expect(form.getByRole("alert")).toContainText("a name is one word");
  await form.getByLabel("Name, one word").fill("fine");
  await form.getByLabel("Known").fill("5 V");
  await form.getByLabel("It shows").fill("4.98 V");
  await form.getByRole("button", { name: "Add this check" }).click();
  await expect(form).toContainText(/20(\.0)?\smV low/);
  await form.getByRole("button", { name: "Save meter" }).click();
  await expect(page.getByRole("region", { name: "Meters" })).toContainText("checked at 1 value");
  await page.goto(await server.bench("vent", "readings"));
  await page.getByRole("button", { name: "Bench set-up" }).click();
  await page.getByText("Meter", { exact: true }).click();
  await page.getByLabel("and besides").selectOption("fine");
  await page.getByRole("radio", { name: /^fine/ }).check();
  await lineOf(page).focus();
  await page.keyboard.type("A 23.9012");
  await page.keyboard.press("Enter");
  await expect.poll(async () => JSON.stringify(await stored(server, page))).toContain('"meter":"fine"');
});

test("readings come from a spreadsheet by paste, and are seen by point with their spread", async ({ page, server }) => {
  await page.goto(await server.bench("lantern", "readings"));
  await lineOf(page).focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData("text/plain", "Point\tReading\nA\t11.9 V\nA\t12.1 V\nB\t11.8 V\tflickers");
    document.activeElement?.dispatchEvent(
      new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  const dialog = page.getByRole("dialog", { name: "Import" });
  await expect(dialog).toContainText("list of readings, 3 readings");
  await dialog.getByRole("button", { name: "Take over" }).click();
  await expect(readingsIn(page)).toHaveCount(3);
  await allInFull(page);
  await page.getByLabel("By point").check();
  await expect(page.getByRole("list", { name: "Readings by point" })).toContainText(/A 2 times, on average 12\.00\sV/);
});
