import { allInFull, fromMenu } from "./menu.ts";
import { expect, fresh, test } from "./server.ts";

const TRAIL = "BT1 24V 2% ri=0.3: F1 1A + [A] R1 220 5% + [B] (R2 1k 5% | R3 470 2% + [C] R4 330 5%) + [D] R5 100 1%";

test("the five-minute walk, by keyboard alone", async ({ page, server }) => {
  await page.goto(server.address);
  await expect(page.getByRole("heading", { name: "Jobs" })).toBeVisible();
  await page.keyboard.press("n");
  await page.keyboard.type("Vent drive, third house");
  await page.keyboard.press("Enter");
  // The trail has the focus on a job without a circuit.
  await expect(page.getByLabel("Trail of the circuit")).toBeFocused();
  await page.keyboard.type(TRAIL);
  const board = page.getByRole("listbox", { name: /Board of/ });
  await expect(board.getByRole("option", { name: /^R4 330/ })).toBeAttached();
  await page.keyboard.press("Alt+3");
  const line = page.getByLabel("Reading", { exact: true });
  await expect(line).toBeFocused();
  // A glance comes before the probes where it tells as much.
  await expect(page.getByText(/^Next: (look at|volts (at|from))/)).toBeVisible();
  await expect(page.getByRole("heading", { name: "Not settled yet" })).toBeVisible();
  await expect(page.getByRole("list", { name: "Leading suspects" })).toContainText(/F1 blown/);
  for (const reading of ["A 23.97", "B 19.99", "D 1.82"]) {
    await page.keyboard.type(reading);
    await page.keyboard.press("Enter");
    await expect(line).toHaveValue("");
  }
  const leading = page.getByRole("list", { name: "Leading suspects" });
  // Each with what it foretells where the probes go next.
  await expect(leading).toContainText(/R3 open(?:1\.\d+|19\.\d+) ±/);
  await expect(leading).toContainText(/R4 open(?:1\.\d+|19\.\d+) ±/);
  // At C the two part ways: the next reading is one there, and a bare number is taken for it.
  await expect(page.getByText(/^Next: volts (at C|from [BC] to [CD])/)).toBeVisible();
  await expect(page.getByText("1 more reading should settle it.")).toBeVisible();
  await page.keyboard.type("C 1.82");
  await expect(page.getByText("1.82 V from C to 0")).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(leading.getByRole("listitem").first()).toContainText("R3 open");
  await expect(leading.getByRole("listitem").first()).toContainText(/9\d(\.\d)?\s%/);
  await expect(page.getByRole("heading", { name: "Settled: replace R3" })).toBeVisible();
  const stands = page.getByRole("region", { name: "Where the job stands" });
  await expect(page.getByText(/^To prove it: lift a lead and take the ohms of R3/)).toBeVisible();
  await expect(page.getByRole("link", { name: "Repair: replace R3" })).toBeVisible();
  // A verdict is of what was recorded: while more is typed, none is told.
  await page.keyboard.type("B 17.0");
  await expect(page.getByRole("heading", { name: /^Settled/ })).toHaveCount(0);
  await expect(stands).toContainText("Enter records it");
  await line.fill("");
  await expect(page.getByRole("heading", { name: "Settled: replace R3" })).toBeVisible();
  await page.keyboard.press("Alt+5");
  const first = page.getByRole("region", { name: "Suspects" }).getByRole("listitem").first();
  await expect(first).toContainText("R3 open");
  await page.keyboard.press("Alt+3");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("list", { name: "Readings" }).getByRole("listitem")).toHaveCount(3);
  await allInFull(page);
  await expect(page.getByRole("list", { name: "Readings" }).getByRole("listitem")).toHaveCount(4);
});

test("mistakes in a trail are marked where they are, mended with one key, and the picture stays", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("vent", "circuit"));
  const board = page.getByRole("listbox", { name: /Board of/ });
  await expect(board.getByRole("option", { name: /^R9/ })).toBeAttached();
  const editor = page.getByLabel("Trail of the circuit");
  await editor.click();
  await page.keyboard.press("Control+End");
  await page.keyboard.type("\n[A] R7 R47 [D]\nR8 5 [A]");
  const mistakes = page.getByRole("list", { name: "Mistakes in the trail" });
  await expect(mistakes).toContainText("R7 has no value; for 0.47 Ω write 0R47");
  await expect(mistakes).toContainText(/Line \d+, column 1\b/);
  await expect(page.getByText("The picture is from before the mistakes")).toBeVisible();
  await expect(board.getByRole("option", { name: /^R9/ })).toBeAttached();
  // From half a trail no stage works anything out: each says which mistake stands in the way, beside the last whole picture.
  for (const key of ["Alt+2", "Alt+3", "Alt+5"]) {
    await page.keyboard.press(key);
    await expect(page.getByText(/^The trail has (?:a mistake|\d mistakes)$/)).toBeVisible();
    await expect(page.getByText(/Line \d+, column \d+: R7 has no value/)).toBeVisible();
    await expect(page.getByText("No circuit yet")).toHaveCount(0);
    await expect(page.getByText("The picture is from before the mistakes")).toBeVisible();
  }
  await page.getByRole("button", { name: "Mend it" }).click();
  await mistakes.getByRole("button", { name: "write 0R47", exact: true }).click();
  await expect(mistakes).not.toContainText("R7 has no value");
  await page.keyboard.press("Control+End");
  await page.getByLabel("Trail of the circuit").click();
  await page.keyboard.press("Control+End");
  for (let i = 0; i < "R8 5 [A]".length; i += 1) await page.keyboard.press("Backspace");
  await expect(board.getByRole("option", { name: /^R7 470\smΩ/ })).toBeAttached();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
});

test("readings are corrected, deleted and taken back; slips of the pen get a question", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "readings"));
  const line = page.getByLabel("Reading", { exact: true });
  await line.fill("R3 12");
  await expect(page.getByText(/volts across R3, amperes through it, or ohms/)).toBeVisible();
  await page.getByRole("button", { name: "R3 12mA" }).click();
  await expect(page.getByText("12 mA through R3, B to C")).toBeVisible();
  await line.fill("Q9 5");
  await expect(page.getByText("there is no node or part Q9 in this circuit")).toBeVisible();
  await page.keyboard.press("Enter");
  const list = page.getByRole("list", { name: "Readings" });
  await expect(list.getByRole("listitem")).toHaveCount(3);
  await list.getByRole("button", { name: "Correct D" }).click();
  // Letter by letter, as at a keyboard: the focus stays where it is.
  await page.getByLabel("Note", { exact: true }).focus();
  await page.keyboard.type("still hot");
  await expect(page.getByLabel("Note", { exact: true })).toHaveValue("still hot");
  await page.getByLabel("Corrected reading").fill("D 2.05");
  await page.keyboard.press("Enter");
  await expect(list.getByRole("listitem").first()).toContainText(/2\.05\sV.*still hot/s);
  await list.getByRole("button", { name: "Delete D" }).click();
  await expect(list.getByRole("listitem")).toHaveCount(2);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(list.getByRole("listitem")).toHaveCount(3);
  await page.keyboard.press("Control+z");
  await expect(list.getByRole("listitem").first()).toContainText("1.95");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect(list.getByRole("listitem").first()).toContainText("1.95");
});

test("a reading at a junction nobody named writes the name into the trail", async ({ page, server }) => {
  await page.goto(await server.bench("soil", "readings"));
  await page.getByLabel("Reading", { exact: true }).fill("n1 1.2");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Alt+1");
  await expect(page.getByLabel("Trail of the circuit")).toContainText("R5 680 5% [n1]");
});

test("suspects give their reasons, and a ranking that nothing changes comes to rest", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "suspects"));
  const first = page.getByRole("region", { name: "Suspects" }).getByRole("listitem").first();
  await first
    .getByText(/^R\d open/)
    .first()
    .click();
  await expect(first.getByRole("row", { name: /^A / })).toContainText("says nothing");
  await expect(first.getByRole("row", { name: /^B / })).toContainText(/1\d\sbits for/);
  await expect(first).toContainText(/together 3\d\sbits for/);
  const rankings = () => page.evaluate(() => performance.getEntriesByName("hound:ranked").length);
  const before = await rankings();
  // What one would begin anew at every drawing of the page shows within a few of them.
  for (const row of await first.getByRole("row").all()) await row.hover();
  await page.evaluate(async () => {
    for (let frame = 0; frame < 30; frame += 1) await new Promise(requestAnimationFrame);
  });
  expect(await rankings()).toBe(before);
});

test("every kind of measurement is proposed, and what cannot be reached is left out", async ({ page, server }) => {
  const made = await page.request.post(`${server.address}/api/jobs`, {
    data: { title: "One resistor", trail: "BT1 9V: [A] R1 3k9" },
  });
  const { id } = await made.json();
  await page.goto(`${server.address}/jobs/${id}/readings`);
  const line = page.getByLabel("Reading", { exact: true });
  const next = page.getByText(/^Next: /);
  await expect(next).toBeVisible();
  await line.fill("A 9.0");
  await line.press("Enter");
  // No voltage tells any more: ohms, amperes or a lifted lead do, and a bare value is taken for them.
  await expect(next).toContainText(/ohms|amperes|lift a lead|known-good/);
  const first = (await next.textContent()) ?? "";
  await page.getByRole("button", { name: "Cannot reach that" }).click();
  await expect(next).not.toContainText(first);
  await expect(line).toBeFocused();
});

test("the reading line keeps its place while readings come in", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "readings"));
  const line = page.getByLabel("Reading", { exact: true });
  await expect(page.getByText(/^Next: /)).toBeVisible();
  const top = async () => (await line.boundingBox())?.y;
  const before = await top();
  for (const reading of ["C 12.1", "A 23.9"]) {
    await line.fill(reading);
    expect(await top()).toBe(before);
    await line.press("Enter");
    expect(await top()).toBe(before);
    await expect(page.getByText(/^Next: /)).toBeVisible();
    expect(await top()).toBe(before);
  }
});

fresh("a notice covers nothing, waits while someone is at it, and can be dismissed", async ({ page, server }) => {
  await page.clock.install();
  for (const width of [1280, 390]) {
    await page.setViewportSize({ width, height: 800 });
    await page.goto(await server.bench("pump", "readings"));
    const line = page.getByLabel("Reading", { exact: true });
    await line.fill("H 4.1");
    const undo = page.getByRole("status").getByRole("button", { name: "Undo" });
    await line.press("Enter");
    await expect(undo).toBeVisible();
    // No part of the bench that shows, as far as what scrolls lets it show, lies where the notice is.
    const covered = await page.evaluate(() => {
      const notice = document.querySelector("[role=status]:has(button)");
      const shown = (element: Element) => {
        let { left, right, top, bottom } = element.getBoundingClientRect();
        for (let up = element.parentElement; up; up = up.parentElement) {
          if (getComputedStyle(up).overflow === "visible") continue;
          const box = up.getBoundingClientRect();
          [left, right] = [Math.max(left, box.left), Math.min(right, box.right)];
          [top, bottom] = [Math.max(top, box.top), Math.min(bottom, box.bottom)];
        }
        return { left, right, top, bottom };
      };
      const own = notice?.getBoundingClientRect() as DOMRect;
      return [...document.querySelectorAll("main button, main input, main li, header button, section button, svg text")]
        .filter((e) => e.checkVisibility())
        .filter((e) => {
          const box = shown(e);
          const [wide, high] = [
            Math.min(box.right, own.right) - Math.max(box.left, own.left),
            Math.min(box.bottom, own.bottom) - Math.max(box.top, own.top),
          ];
          return box.right > box.left && box.bottom > box.top && wide > 1 && high > 1;
        })
        .map((e) => e.textContent);
    });
    expect(covered).toEqual([]);
    await undo.focus();
    await page.clock.fastForward(30_000);
    await expect(undo).toBeVisible();
    await line.focus();
    await page.clock.fastForward(10_000);
    await expect(undo).toHaveCount(0);
    await line.fill("H 4.2");
    await line.press("Enter");
    await page.getByRole("button", { name: "Dismiss" }).click();
    await expect(undo).toHaveCount(0);
  }
});

test("what is changed in the circuit is logged, and readings are taken so until it is as drawn again", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("vent", "readings"));
  const line = page.getByLabel("Reading", { exact: true });
  await line.fill("R2 lifted");
  await expect(page.getByText("R2 one lead lifted, from here on.")).toBeVisible();
  await line.press("Enter");
  const standing = page.getByRole("region", { name: "How the circuit stands" });
  await expect(standing).toContainText("a lead of R2 lifted");
  await line.fill("F1 swapped");
  await line.press("Enter");
  await expect(standing).toContainText("known-good F1, a lead of R2 lifted");
  // Healthy is what the circuit would show as it stands: with R2 out of the way B lies higher.
  await line.fill("B 23.5");
  await line.press("Enter");
  const newest = page.getByRole("list", { name: "Readings" }).getByRole("listitem").first();
  await expect(newest).toContainText(/B23\.50?\sV.*with known-good F1, a lead of R2 lifted/);
  await allInFull(page);
  await expect(newest).toContainText(/healthy 19\.0\d ±\s0\.\d+\sV/);
  await page.reload();
  await expect(newest).toContainText("a lead of R2 lifted");
  await standing.getByRole("button", { name: "As drawn again" }).click();
  await expect(standing).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(standing).toContainText("known-good F1, a lead of R2 lifted");
  await line.fill("R2 restored");
  await line.press("Enter");
  await expect(standing).toContainText("Not as drawn: known-good F1.");
});

test("jobs are searched, exported, imported, deleted and restored", async ({ page, server }) => {
  await page.goto(server.address);
  const jobs = page.getByRole("main").getByRole("listitem");
  await expect(jobs).toHaveCount(8);
  await page.keyboard.press("/");
  await page.keyboard.type("lantern");
  await expect(jobs).toHaveCount(1);
  await jobs.getByRole("link").click();
  const download = page.waitForEvent("download");
  await fromMenu(page, "Export as a case file");
  const path = await (await download).path();
  await page.getByRole("link", { name: "All jobs" }).click();
  await page.getByLabel("Case file", { exact: true }).setInputFiles({
    name: "broken.json",
    mimeType: "application/json",
    buffer: Buffer.from('{"format":"clever-hound-case","version":3}'),
  });
  await expect(page.getByText(/broken.json was not imported.*version 3/)).toBeVisible();
  await page.getByLabel("Case file", { exact: true }).setInputFiles(path);
  await expect(page.getByRole("heading", { name: "String lantern, pavilion end" })).toBeVisible();
  await page.getByRole("link", { name: "All jobs" }).click();
  await expect(jobs).toHaveCount(9);
  // A circuit by itself begins a job.
  await page.getByLabel("Case file", { exact: true }).setInputFiles({
    name: "Mist nozzle.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("Part,From,To,Value\nBT1,P,0,12V\nR1,P,A,47\nR2,A,0,1O0\n"),
  });
  await expect(page.getByRole("heading", { name: "Mist nozzle" })).toBeVisible();
  await expect(page.getByRole("option", { name: /^R2 100\sΩ/ })).toBeAttached();
  await page.getByRole("link", { name: "All jobs" }).click();
  await page.getByRole("button", { name: "Delete Mist nozzle" }).click();
  await expect(jobs).toHaveCount(9);
  await page.getByRole("button", { name: "Delete String lantern, pavilion end" }).first().click();
  await expect(jobs).toHaveCount(8);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(jobs).toHaveCount(9);
});

test("a meter's data change the limits, and a finding is kept with the solved job", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "readings"));
  await page.getByRole("button", { name: "Bench set-up" }).click();
  await page.getByText(/10\sMΩ on volts/).click();
  await page.getByLabel(/Input resistance on volts/).fill("much");
  await page.getByRole("button", { name: "Save meter" }).click();
  await expect(page.getByText(/Input resistance on volts.*is not a number/)).toBeVisible();
  await page.getByLabel(/Input resistance on volts/).fill("1M");
  await page.getByLabel(/Accuracy on volts/).fill("2");
  await page.getByRole("button", { name: "Save meter" }).click();
  await expect(page.getByText(/1\sMΩ on volts, ±\s2\s%/)).toBeVisible();
  await page.getByLabel("State of the job").selectOption("solved");
  const form = page.getByRole("form", { name: "Close the job" });
  await form.getByRole("radio", { name: "Found", exact: true }).check();
  await form.getByLabel("What it was").fill("R4's joint had cracked.");
  await form.getByRole("button", { name: "Close it" }).click();
  await expect(page.getByRole("region", { name: "How it ended" })).toContainText("R4's joint had cracked.");
  await expect(page.locator("[data-saved]")).toHaveText("Saved");
  await page.goto(server.address);
  await page.getByLabel("Search jobs").fill("cracked");
  await expect(page.getByRole("main").getByRole("listitem")).toHaveCount(1);
  await page.getByLabel("State").selectOption("new");
  await expect(page.getByText("No job matches.")).toBeVisible();
});
