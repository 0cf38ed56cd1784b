import { PictureList } from "@hound/core/record";
import sharp from "sharp";
import { beforeEach, expect, it } from "vitest";
import { apiBench } from "../test/apiBench.ts";

const bench = apiBench();
let job: string;

beforeEach(async () => {
  job = (await bench.api.post("/api/jobs").send({ title: "Board with a scorch mark" }).expect(201)).body.id;
});

const plain = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: "#8a5a20" } });
const send = (bytes: Buffer, query = "name=board.png", status = 201) =>
  bench.api
    .post(`/api/jobs/${job}/pictures?${query}`)
    .set("Content-Type", "application/octet-stream")
    .set("x-hound-who", "Ann")
    .serialize((b) => b)
    .send(bytes as never)
    .expect(status);

it("a picture is kept as JPEG without anything else in it, large and small, and can be deleted and restored", async () => {
  const png = await plain(3000, 1000)
    .png()
    .withExif({ IFD0: { Copyright: "a camera's secret" } })
    .toBuffer();
  const id = "00000000-0000-4000-8000-000000000003";
  for (const _ of [1, 2]) await send(png, `name=board.png&id=${id}`);
  const { pictures } = PictureList.parse((await bench.api.get(`/api/jobs/${job}/pictures`).expect(200)).body);
  expect(pictures).toMatchObject([{ id, name: "board.png", width: 2000, height: 667, who: "Ann" }]);
  const read = async (query = "") => {
    const { body, headers } = await bench.api.get(`/api/jobs/${job}/pictures/${id}.jpg${query}`).buffer().expect(200);
    return { body: body as Buffer, type: headers["content-type"], cache: headers["cache-control"] };
  };
  const { body, type, cache } = await read();
  expect([type, cache]).toEqual(["image/jpeg", "private, max-age=31536000, immutable"]);
  const { format, width, exif } = await sharp(body).metadata();
  expect({ format, width, exif }).toEqual({ format: "jpeg", width: 2000, exif: undefined });
  expect((await sharp((await read("?small")).body).metadata()).width).toBe(320);
  const count = async (query = "") => (await bench.api.get(`/api/jobs/${job}/pictures${query}`)).body.pictures.length;
  await bench.api.delete(`/api/jobs/${job}/pictures/${id}`).expect(200);
  expect([await count(), await count("?deleted=true")]).toEqual([0, 1]);
  await bench.api.post(`/api/jobs/${job}/pictures/${id}/restore`).expect(200);
  expect(await count()).toBe(1);
});

it("a picture has a caption, is shown turned, stands on the report or not, and is in the timeline", async () => {
  const id = "00000000-0000-4000-8000-000000000004";
  await send(await plain(60, 20).png().toBuffer(), `name=board.png&id=${id}`);
  const url = `/api/jobs/${job}/pictures/${id}`;
  const told = async (body: object, status = 200) =>
    (await bench.api.patch(url).send(body).expect(status)).body.pictures?.[0] as object;
  expect(await told({ caption: "scorched at F1" })).toMatchObject({
    caption: "scorched at F1",
    turns: 0,
    inReport: true,
  });
  expect(await told({ turns: 1, inReport: false })).toMatchObject({
    caption: "scorched at F1",
    turns: 1,
    inReport: false,
  });
  expect(await told({})).toMatchObject({ turns: 1 });
  for (const wrong of [{ turns: 4 }, { turns: 0.5 }, { caption: "x".repeat(301) }, { name: "other" }])
    await told(wrong, 400);
  await bench.api.patch(url.replace(/4$/, "9")).send({ turns: 1 }).expect(404);
  const sizeOf = async (query: string) => {
    const { width, height } = await sharp((await bench.api.get(`${url}.jpg${query}`).buffer()).body).metadata();
    return [width, height];
  };
  expect([await sizeOf(""), await sizeOf("?turns=1"), await sizeOf("?small&turns=2")]).toEqual([
    [60, 20],
    [20, 60],
    [60, 20],
  ]);
  await bench.api.delete(url).expect(200);
  const { entries } = (await bench.api.get(`/api/jobs/${job}/history`).expect(200)).body;
  expect(entries.slice(0, 2)).toMatchObject([
    { what: "picture", done: "deleted", text: "scorched at F1", turns: 1 },
    { what: "picture", done: "added", who: "Ann" },
  ]);
});

it("a long name is kept as far as there is room for it", async () => {
  await send(await plain(50, 50).png().toBuffer(), `name=${"n".repeat(200)}`);
  const { pictures } = PictureList.parse((await bench.api.get(`/api/jobs/${job}/pictures`).expect(200)).body);
  expect(pictures.map((p) => p.name)).toEqual(["n".repeat(200)]);
});

it("what is no picture, or too large, is refused, and nothing is kept", async () => {
  const svg = Buffer.from(
    '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>',
  );
  const jpeg = await plain(50, 50).jpeg().toBuffer();
  for (const [bytes, why] of [
    [svg, /it is SVG/],
    [Buffer.from("GIF89a nothing"), /^there is no picture in it/],
    [jpeg.subarray(0, jpeg.length >> 1), /cut short$/],
  ] as const) {
    const { title, detail } = (await send(bytes, "name=x", 422)).body;
    expect(`${title}: ${detail}`).toMatch(/no picture/);
    expect(detail).toMatch(why);
  }
  expect((await send(Buffer.alloc(20_000_001), "name=x", 413)).body.detail).toMatch(/^20 MB/);
  await bench.api.post(`/api/jobs/${job}/pictures`).send({ a: 1 }).expect(415);
  const nowhere = "00000000-0000-4000-8000-000000000099";
  await bench.api.get(`/api/jobs/${job}/pictures/${nowhere}.jpg`).expect(404);
  expect((await bench.api.get(`/api/jobs/${job}/pictures`)).body.pictures).toEqual([]);
});
