import { createServer, type Server } from "node:http";
import { afterEach, describe, expect, it } from "vitest";
import { projectWeather, writeWeatherCsv, type WeatherYear } from "@arroyo/core";
import { boxProject } from "../../core/src/verification/box.ts";
import { askWeather, createProject, deleteProject, keepWeather, listWeather, removeWeather, storedWeather, type Refusal } from "./index.ts";

let server: Server | null = null;
afterEach(() => {
  server?.closeAllConnections();
  server?.close();
  server = null;
});
/** A weather service that answers as it is told; what it was asked for. */
async function service(answer: (respond: (status: number, body: string) => void) => void): Promise<{ address: string; asked: URL[] }> {
  const asked: URL[] = [];
  const made = createServer((request, response) => {
    asked.push(new URL(request.url ?? "", "http://x"));
    answer((status, body) => void response.writeHead(status, { "content-type": "text/csv" }).end(body));
  });
  server = made;
  await new Promise<void>((resolve) => made.listen(0, "127.0.0.1", resolve));
  const at = made.address();
  return { address: `http://127.0.0.1:${typeof at === "object" && at ? at.port : 0}/`, asked };
}
const project = boxProject();
const year = { ...(projectWeather(project) as WeatherYear), year: 2019 };
const question = { latitude: 40, longitude: -105, elevation: 1600, timeZone: -7, year: 2019 };
const refusal = (work: Promise<unknown>): Promise<Refusal> =>
  work.then(
    () => {
      throw new Error("it was accepted");
    },
    (e: unknown) => e as Refusal,
  );

describe("a weather service", () => {
  it("is asked for a place and a year, and its year is kept by content", async () => {
    const { address, asked } = await service((respond) => respond(200, writeWeatherCsv(year)));
    const kept = await askWeather(question, address);
    expect(kept.year).toBe(2019);
    expect(asked[0].pathname).toBe("/year");
    expect(Object.fromEntries(asked[0].searchParams)).toEqual({ latitude: "40", longitude: "-105", elevation: "1600", time_zone: "-7", year: "2019" });
    expect((await storedWeather(kept.hash)).dryBulb[100]).toBe(year.dryBulb[100]);
  });
  it("has its years listed with who uses them; only one that nothing uses is removed", async () => {
    const free = await keepWeather({ ...year, name: "Free", dryBulb: year.dryBulb.map((t) => t + 0.25) });
    const used = await keepWeather({ ...year, name: "Used", dryBulb: year.dryBulb.map((t) => t + 0.5) });
    const { id } = await createProject({ ...project, id: "weatherUser", weathers: { year: { kind: "stored", name: "Used", hash: used } } });
    const listed = await listWeather();
    expect(listed.find((k) => k.hash === used)?.projects).toEqual([project.name]);
    expect(listed.find((k) => k.hash === free)).toMatchObject({ name: "Free", projects: [], runs: 0 });
    expect(await refusal(removeWeather(used))).toMatchObject({
      status: 409,
      message: expect.stringContaining('"Used" is used by 1 project and 0 stored runs'),
    });
    expect(await removeWeather(free)).toEqual({ removed: true });
    expect((await listWeather()).some((k) => k.hash === free)).toBe(false);
    expect((await refusal(removeWeather(free))).status).toBe(404);
    await deleteProject(id);
  });
  it("that fails, is slow, malformed, of another year, away or not set up is told plainly", async () => {
    const failing = await service((respond) => respond(500, "The archive is being moved.\nmore"));
    expect((await refusal(askWeather(question, failing.address))).message).toBe("The weather service answers 500: The archive is being moved.");
    server?.close();
    const slow = await service(() => undefined);
    expect(await refusal(askWeather(question, slow.address, 300))).toMatchObject({
      status: 504,
      message: expect.stringContaining("did not answer within 0.3 s"),
    });
    server?.closeAllConnections();
    server?.close();
    const broken = await service((respond) => respond(200, writeWeatherCsv(year).split("\n").slice(0, 300).join("\n")));
    const told = await refusal(askWeather(question, broken.address));
    expect(told.message).toContain("no whole weather year");
    expect(told.problems[0].message).toContain("hours are missing");
    server?.close();
    const other = await service((respond) => respond(200, writeWeatherCsv({ ...year, year: 2018 })));
    expect((await refusal(askWeather(question, other.address))).message).toContain("asked for 2019 and answers with 2018");
    server?.close();
    const page = await service((respond) => respond(200, "<html>hello</html>"));
    expect((await refusal(askWeather(question, page.address))).problems[0].message).toContain("not an Arroyo weather CSV");
    const gone = page.address;
    server?.closeAllConnections();
    await new Promise<void>((resolve) => (server ? server.close(() => resolve()) : resolve()));
    server = null;
    expect((await refusal(askWeather(question, gone))).message).toContain("cannot be reached");
    expect(await refusal(askWeather(question, ""))).toMatchObject({ status: 503 });
  });
});
