import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Page } from "@playwright/test";
import { fromMenu } from "./menu.ts";
import { patient } from "./patience.ts";
import { expect, test } from "./server.ts";

const board = (page: Page) => page.getByRole("listbox", { name: /Board of/ });
const part = (page: Page, name: RegExp) => board(page).getByRole("option", { name });

test("the chart says what every part should show, why, and how far tolerances move it", async ({
  page,
  server,
  context,
}) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await page.goto(await server.bench("vent", "expected"));
  const chart = page.getByRole("table", { name: "What every part should show" });
  await expect(chart.getByRole("row", { name: /^R3/ })).toContainText(/8\.04 ±\s0\.26\sV/);
  await expect(chart.getByRole("row", { name: /^BT1/ })).toContainText(/V32\.17 ±\s0\.92\smA/);
  await expect(chart.getByRole("row", { name: /^Total/ })).toContainText(/745\.6\sΩ/);
  await chart.getByRole("row", { name: /^R4/ }).getByRole("button").nth(1).click();
  const behind = page.getByRole("region", { name: "Behind I of R4" });
  await expect(behind).toContainText("Same current as R3: nothing branches off at C");
  await expect(behind).toContainText(/Still healthy.*mA to .*mA/);
  await behind.getByRole("button", { name: /^Draw 10\s000/ }).click();
  await expect(behind.getByRole("img", { name: /^Histogram/ })).toBeVisible({ timeout: patient(20_000) });
  await expect(behind).toContainText(/9[3-7]\.\d\s% fall within the bracket/);
  await page.getByRole("button", { name: "Copy as CSV" }).click();
  const csv = await page.evaluate(() => navigator.clipboard.readText());
  expect(csv.split("\n")[0]).toMatch(/^"Greenhouse vent drive.*: circuit version 1, .*"$/);
  expect(csv.split("\n")[2]).toBe("Part,V (V),V ± (V),I (A),I ± (A),R (Ω),P (W),P ± (W)");
  expect(csv).toMatch(/^Nodes against 0$/m);
  expect(csv).toMatch(/^R3,8\.04/m);
  await page.getByRole("button", { name: "P", exact: true }).click();
  await expect(chart.getByRole("row").nth(1)).toContainText("BT1");
  // Limits by choice: every part at its edge, or none; on the board as well.
  await page.getByLabel("Limits").selectOption("worst");
  await expect(chart.getByRole("row", { name: /^R3/ })).toContainText(/8\.04 ±\s0\.[3-9]\d\sV/);
  await page.getByLabel("Limits").selectOption("none");
  await expect(chart.getByRole("row", { name: /^R3/ })).toContainText(/8\.044\sV/);
  await expect(part(page, /^node C, expected 8\.865\sV/)).toBeAttached();
  await page.getByLabel("Limits").selectOption("likely");
  await expect(chart.getByRole("row", { name: /^R3/ })).toContainText(/8\.04 ±\s0\.26\sV/);
  // What was read stands beside what was calculated, the worst first.
  await page.getByRole("tab", { name: "Measured" }).click();
  const measured = page.getByRole("table", { name: "Measured against expected" });
  await expect(measured.getByRole("row", { name: /^V\(B\)/ })).toContainText("high");
  await expect(measured.getByRole("row", { name: /^V\(A\)/ })).toContainText("agrees");
});

test("own figures are marked at once, with the likely slip, what follows from it and what can be filled next; and printed", async ({
  page,
  server,
}) => {
  const made = await page.request.post(`${server.address}/api/jobs`, {
    data: { title: "Own sheet", trail: "BT1 24V ri=0: R1 220 + [A] (R2 1k | R3 470 + [C] R4 330) + [D] R5 100" },
  });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`${server.address}/jobs/${id}/expected`);
  await page.getByRole("button", { name: "Check mine" }).click();
  // The board keeps the answers to itself meanwhile.
  await expect(part(page, /^node A$/)).toBeAttached();
  await page.getByLabel("Show the figures on the board").check();
  await expect(part(page, /^node A, expected 17\.09/)).toBeAttached();
  await page.getByLabel("Show the figures on the board").uncheck();
  const put = async (label: string, text: string) => {
    await page.getByLabel(`My ${label}`, { exact: true }).fill(text);
    await page.getByLabel(`My ${label}`, { exact: true }).press("Enter");
  };
  for (const [label, text] of [
    ["R of Ra", "800"],
    ["R of Rb", "1800"],
    ["R of Rc", "2120"],
    ["I(R1)", "11,3mA"],
    ["P(R5)", "98.6mW"],
  ])
    await put(label, text);
  await expect(page.getByRole("status").filter({ hasText: "2 right, 1 wrong, 2 right from" })).toBeVisible();
  const again = page.getByRole("list", { name: "What to look at again" }).getByRole("listitem");
  await expect(again).toHaveText([
    /^R of Rb 1800: wrong: added up, as if in series; they are parallel\.$/,
    /^R of Rc 2120: follows: right from your R of Rb 1800\.$/,
    /^I\(R1\) 11,3mA: follows: right from your R of Rc 2120\.$/,
  ]);
  await put("V(R1)", "lots");
  await expect(page.getByLabel("My V(R1)")).toHaveAttribute("aria-invalid", "true");
  await put("V(R1)", "");
  await put("R of Rb", "444");
  await put("R of Rc", "764.4");
  await page.getByRole("button", { name: "What can be filled now?" }).click();
  const next = page.getByRole("region", { name: "What can be filled now" });
  await expect(next).toContainText("I(BT1) = E(BT1) ÷ Rc");
  await page.getByLabel("My own equation").fill("I1 = I2 - I3");
  await page.keyboard.press("Enter");
  await expect(page.getByText("does not hold: the sign of I(R3)")).toBeVisible();
  for (const equation of ["I1 = I2 + I3", "24 - 320*I1 - 1000*I2 = 0", "1000*I2 = 800*I3"]) {
    await page.getByLabel("My own equation").fill(equation);
    await page.keyboard.press("Enter");
  }
  await expect(page.getByText(/^Solved together: I\(R1\) = 31\.40\smA, I\(R2\) = 13\.95\smA/)).toBeVisible();
  await page.getByLabel("Own volts from").selectOption("A");
  await page.getByLabel("Own volts to").selectOption("D");
  await page.getByLabel("My volts between").fill("13.95");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("My V from A to D")).toHaveValue("13.95");
  await expect(page.getByRole("status").filter({ hasText: /^5 right, / })).toBeVisible();
  // It is the job's: there again after a reload, on the sheet, and no reading.
  await page.goto(`${server.address}/jobs/${id}/sheets/expected`);
  const sheet = page.getByRole("table", { name: "Own figures" });
  await expect(sheet.getByRole("row", { name: /^I\(R1\) 11,3mA/ })).toContainText(/31\.40\smA/);
  const { readings } = (await (await fetch(`${server.address}/api/jobs/${id}`)).json()) as { readings: unknown[] };
  expect(readings).toEqual([]);
});

test("the chart's figures are those of the command line", async ({ page, server, context }) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  const root = join(import.meta.dirname, "../..");
  for (const name of ["3-soil-bridge", "5-battery-box", "8-fan-speed"]) {
    const file = join(root, "demo/circuits", `${name}.trail`);
    const solved = JSON.parse(
      execFileSync(process.execPath, [join(root, "scripts/hound.mjs"), "solve", file]).toString(),
    );
    const made = await page.request.post(`${server.address}/api/jobs`, {
      data: { title: name, trail: readFileSync(file, "utf8") },
    });
    await page.goto(`${server.address}/jobs/${(await made.json()).id}/expected`);
    await page.getByRole("button", { name: "Copy as CSV" }).click();
    const csv = await page.evaluate(() => navigator.clipboard.readText());
    const rows = csv
      .trim()
      .split("\n")
      .slice(3)
      .map((line) => line.split(","));
    const figures = rows.flatMap(([part, , , amps, , , watts]) =>
      part in solved.amps ? [[part, Math.abs(Number(amps)), Math.abs(Number(watts))]] : [],
    );
    expect(figures.length).toBe(Object.keys(solved.amps).length);
    for (const [part, amps, watts] of figures as [string, number, number][]) {
      expect(amps.toPrecision(3), part).toBe(Math.abs(solved.amps[part]).toPrecision(3));
      expect(watts.toPrecision(3), part).toBe(Math.abs(solved.watts[part]).toPrecision(3));
    }
  }
});

test("the circuit is reduced step by step on the board, and unfolded again", async ({ page, server }) => {
  await page.goto(await server.bench("vent", "expected"));
  await page.getByRole("tab", { name: "Reduce" }).click();
  const steps = page.getByRole("list", { name: "Steps" });
  await page.getByRole("button", { name: "A step on" }).click();
  await expect(steps.locator("[aria-current=step]")).toContainText("Ra is R3 + R4");
  await expect(part(page, /^Ra 800\sΩ/)).toBeAttached();
  await expect(part(page, /^R3 /)).toHaveCount(0);
  await steps.getByRole("button", { name: "Step 3" }).click();
  await expect(part(page, /^Rc 745\.\d\sΩ/)).toBeAttached();
  await part(page, /^Rc /).click();
  await expect(part(page, /^Rb 425\.\d\sΩ/)).toBeAttached();
  await page.getByRole("button", { name: "Play" }).click();
  await expect(page.getByText("Step 4 of 7")).toBeVisible();
  await page.getByRole("button", { name: "Stop" }).click();
  await steps.getByRole("button", { name: "Step 7" }).click();
  await expect(part(page, /^R3 470\sΩ/)).toBeAttached();
  await expect(steps).toContainText(/I\(R2\) = 13\.69\sV ÷ 1\skΩ = 13\.69\smA/);
  // A bridge does not reduce: it says why, and goes on by its junctions.
  await page.goto(await server.bench("soil", "expected"));
  await page.getByRole("tab", { name: "Reduce" }).click();
  await expect(page.getByText(/It goes no further: BT2 is a supply among the rest/)).toBeVisible();
  await expect(page.getByRole("list", { name: "Junction equations" })).toContainText("= 0, with V(K)");
  await expect(page.getByRole("region", { name: "Loop rule" })).toContainText(/together 0\sV/);
});

test("without a supply all is in ohms: from any two nodes, step by step, beside something else, and as measured", async ({
  page,
  server,
}) => {
  const id = crypto.randomUUID();
  const trail = "[A] R1 33 5% [B]\n[B] R2 180 5% [C]\n[B] R3 180 5% [C]";
  await page.request.post(`${server.address}/api/jobs`, { data: { id, title: "Loose rail", trail } });
  await page.goto(`${server.address}/jobs/${id}/expected`);
  await expect(page.getByRole("row", { name: /^A to C .*123\.0 ± 3\.6\sΩ/ })).toBeVisible();
  await page.getByRole("tab", { name: "Reduce" }).click();
  const steps = page.getByRole("list", { name: "Steps" });
  await expect(steps).toContainText(/Ra is R2 parallel R3/);
  const whole = page.getByRole("region", { name: "All of it" });
  await expect(whole).toContainText(/A to C: 123\sΩ/);
  await expect(whole).toContainText(/116\.8\sΩ to 129\.\d+\sΩ/);
  await page.getByRole("combobox", { name: /^From/ }).selectOption("B");
  await expect(whole).toContainText(/B to C: 90\sΩ/);
  await page.getByRole("tab", { name: "Between" }).click();
  await page.getByLabel("Another path beside it").fill("123");
  await expect(page.getByRole("region", { name: "Power off" })).toContainText(/beside it: 61\.5\d?\sΩ/);
  await expect(page.getByRole("region", { name: "Power on" })).toHaveCount(0);
  await page.getByText("Every two nodes: ohms").click();
  await expect(page.getByRole("row", { name: /^C 123\.0\sΩ 90\.0\d?\sΩ/ })).toBeVisible();
  // Bare numbers are ohms; what was measured of a part counts instead of what is marked on it.
  await page.keyboard.press("Alt+3");
  await expect(page.getByText(/^Next: ohms/)).toBeVisible();
  for (const line of ["A-B 30.0", "A-C 119.5"]) {
    await page.getByLabel("Reading", { exact: true }).fill(line);
    await page.keyboard.press("Enter");
  }
  await expect(page.getByRole("list", { name: "Readings" })).toContainText(/119\.5\sΩ/);
  await page.keyboard.press("Alt+2");
  await page.getByRole("tab", { name: "Between" }).click();
  await expect(page.getByRole("region", { name: "Power off" })).toContainText(/as measured: 120\.0\s±.*R1 30/);
  await page.getByRole("tab", { name: "Measured" }).click();
  await expect(page.getByRole("row", { name: /A–C/ })).toContainText(/119\.5\sΩ/);
});

test("conventions change sums, rounding and the decimal sign, and the checks say what rounding costs", async ({
  page,
  server,
}) => {
  await page.goto(`${server.address}/workshop`);
  // Each choice shows at once, though not within the click itself.
  for (const choice of [/^By product over sum/, /^Three figures carried on/, /^Comma/]) {
    await page.getByLabel(choice).click();
    await expect(page.getByLabel(choice)).toBeChecked();
  }
  const kept = async () => (await (await fetch(`${server.address}/api/conventions`)).json()).decimal;
  await expect.poll(kept).toBe("comma");
  await page.goto(await server.bench("vent", "expected"));
  await expect(
    page.getByRole("table", { name: "What every part should show" }).getByRole("row", { name: /^R1/ }),
  ).toContainText("7,08");
  await page.getByRole("tab", { name: "Reduce" }).click();
  await expect(page.getByRole("list", { name: "Steps" })).toContainText("×");
  await page.getByRole("tab", { name: "Checks" }).click();
  await expect(page.getByText(/Carrying three figures leaves most over here:/)).toBeVisible();
  await expect(page.getByRole("region", { name: "Round every loop the voltages cancel" })).toContainText(
    "rounding explains",
  );
});

test("between any two nodes: voltage, resistance with the power off, the equivalent source", async ({
  page,
  server,
}) => {
  await page.goto(await server.bench("vent", "expected"));
  await page.getByRole("tab", { name: "Between" }).click();
  await page.getByLabel("From (red lead)").selectOption("B");
  await page.getByLabel("To (black lead)").selectOption("D");
  await expect(page.getByRole("region", { name: "Power on" })).toContainText(/13\.69\sV from B to D/);
  const off = page.getByRole("region", { name: "Power off" });
  await expect(off).toContainText(/425\.5\sΩ/);
  await expect(off).toContainText("3 ways side by side: R2; R3 in series with R4; R9");
});

test("pocket sums answer as one types, with windows, and say at the field what is wrong", async ({ page, server }) => {
  await page.goto(`${server.address}/sums`);
  const together = page.getByRole("region", { name: "In series, in parallel" });
  await together.getByLabel("Resistances").fill("1k 5% 2k2");
  await expect(together).toContainText(/In series3\.20 ±\s0\.12\skΩ/);
  await together.getByLabel("Resistances").fill("1k 4q7");
  await expect(together.getByRole("alert")).toContainText("4q7");
  const ohm = page.getByRole("region", { name: "Ohm’s law and power" });
  await ohm.getByLabel("V", { exact: true }).fill("12");
  await ohm.getByLabel("I", { exact: true }).fill("0,5");
  await expect(ohm).toContainText(/24\sΩ/);
});

test("a pocket sum goes into a circuit, and into the reading line", async ({ page, server }) => {
  const job = await server.bench("vent", "circuit");
  await page.goto(job);
  await fromMenu(page, "Pocket sums");
  const together = page.getByRole("region", { name: "In series, in parallel" });
  await together.getByLabel("Resistances").fill("1k 5% 2k2");
  await together.getByRole("button", { name: "Send (R1 1k 5% | R2 2k2) to a circuit" }).click();
  // Designators that are in use there become free ones, and the next new part begins with them.
  await expect(page.getByRole("region", { name: "From the pocket sums" })).toContainText("(R6 1k 5% | R7 2k2)");
  await part(page, /^R5 /).click();
  await board(page).focus();
  await page.keyboard.press("a");
  await page.keyboard.press("Enter");
  await expect(part(page, /^R7 2\.2\skΩ/)).toBeAttached();
  await expect(page.getByRole("region", { name: "From the pocket sums" })).toHaveCount(0);
  // From the list of places one is asked for the job, and a value can become that of a part.
  await page.goto(`${server.address}/sums`);
  const bands = page.getByRole("region", { name: "What the bands say" });
  await bands.getByLabel("Bands").fill("green blu red");
  await expect(bands.getByRole("alert")).toHaveCount(0);
  await bands.getByRole("button", { name: "Send R1 5.6k 20% to a circuit" }).click();
  await page.getByLabel("Search jobs").fill("vent");
  await page.getByRole("list", { name: "Jobs" }).getByRole("button").first().click();
  await part(page, /^R1 220/).click();
  await page.getByRole("button", { name: "As the value of R1" }).click();
  await expect(part(page, /^R1 5\.6\skΩ/)).toBeAttached();
  // What was worked out as a reading waits for the part it was read at.
  await fromMenu(page, "Pocket sums");
  const ohm = page.getByRole("region", { name: "Ohm’s law and power" });
  await ohm.getByLabel("V", { exact: true }).fill("4.7");
  await ohm.getByLabel("R", { exact: true }).fill("470");
  await ohm.getByRole("button", { name: "Use 10mA as a reading" }).click();
  await part(page, /^R3 /).click();
  await expect(page.getByLabel("Reading", { exact: true })).toHaveValue("R3 10mA");
  await page.getByLabel("Reading", { exact: true }).press("Enter");
  await expect(page.getByText(/Recorded 10\smA.*R3/)).toBeVisible();
});
