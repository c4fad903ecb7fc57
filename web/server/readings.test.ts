import { createServer } from "node:http";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { readReadings, writeReadings, type Project, type Readings } from "@arroyo/core";
import { boxProject } from "../../core/src/verification/box.ts";
import {
  bindModels,
  createProject,
  database,
  deleteProject,
  keepReadings,
  keptReadings,
  loggedFile,
  loggedFiles,
  loggedOf,
  migrate,
  openProject,
  weatherFor,
  type Refusal,
} from "./index.ts";

beforeAll(async () => {
  bindModels(database());
  await migrate(database());
});
afterAll(() => database().close());

const refusal = (work: Promise<unknown>): Promise<Refusal> =>
  work.then(
    () => {
      throw new Error("it was accepted");
    },
    (e: unknown) => e as Refusal,
  );
const readings: Readings = {
  start: 1064962080,
  interval: 60,
  at: "interval",
  values: Float64Array.from({ length: 8760 }, (_, h) => (h % 50 === 7 ? NaN : 12 + (h % 24) / 4)),
};

describe("readings of points", () => {
  it("are kept by their content and come back to the bit; others are refused", async () => {
    const { hash } = await keepReadings(writeReadings(readings));
    expect(await keepReadings(writeReadings(readings))).toEqual({ hash });
    expect(readReadings(await keptReadings(hash))).toEqual(readings);
    expect(await refusal(keepReadings(new Uint8Array(40)))).toMatchObject({ status: 422 });
    expect(await refusal(keptReadings("0".repeat(32)))).toMatchObject({ status: 404 });
  });
  it("reach the year a stored run is made with, through what they drive", async () => {
    const { hash } = await keepReadings(writeReadings(readings));
    const p = JSON.parse(JSON.stringify(boxProject())) as Project;
    const { id } = await createProject({
      ...p,
      id: "driven",
      points: { t: { name: "T", unit: "°C", hash }, other: { name: "Other", unit: "°C", hash: "1".repeat(32) } },
      drives: { t: { point: "t", input: "weather/dryBulb" } },
      pairs: [{ id: "o", point: "other", series: { of: "zone", id: "a", quantity: "airTemperature" } }],
    });
    const { document } = await openProject(id);
    expect(Object.keys(await loggedOf(document))).toEqual([hash]);
    // an instant at the end of an hour lies between the means on either side
    expect((await weatherFor(document)).dryBulb[10]).toBeCloseTo((readings.values[10] + readings.values[11]) / 2, 12);
    await expect(weatherFor({ ...document, drives: { t: { point: "other", input: "weather/dryBulb" } } })).rejects.toThrow(/not at hand/);
    await deleteProject(id);
  });
});

describe("a logger", () => {
  it("lists its files and sends them; one that sends something else, or nothing, is told", async () => {
    let list = '[{"name":"plant.csv","title":"Rooms"}]';
    const server = createServer((request, response) => void response.end(request.url === "/logs" ? list : "a,b\n1,2\n"));
    await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
    const at = server.address();
    const address = `http://127.0.0.1:${typeof at === "object" && at ? at.port : 0}/`;
    expect(await loggedFiles(address)).toEqual([{ name: "plant.csv", title: "Rooms" }]);
    expect(await loggedFile("plant.csv", address)).toBe("a,b\n1,2\n");
    list = "<html>";
    expect(await refusal(loggedFiles(address))).toMatchObject({ status: 502, message: expect.stringContaining("no list of files") });
    expect(await refusal(loggedFile("../secret", address))).toMatchObject({ status: 404 });
    server.closeAllConnections();
    server.close();
    expect(await refusal(loggedFiles(address))).toMatchObject({ status: 502, message: expect.stringContaining("cannot be reached") });
    expect(await refusal(loggedFiles(""))).toMatchObject({ status: 503 });
  });
});
