// Stand-ins for services on the network: a weather service that answers for a place and a year with an invented year, in the open weather
// CSV, and a logger that offers the trend data of the library (see logger.ts).
import { readFileSync } from "node:fs";
import { createServer } from "node:http";
import { isLeapYear, shippedClimates, synthesizeYear, writeWeatherCsv } from "../core/src/index.ts";
import { withLeapDay } from "../core/src/verification/box.ts";

const port = Number(process.env.STAND_INS_PORT ?? 0);

/** Files the logger offers. */
const LOGS = [
  { name: "plant.csv", title: "Rooms, upper air system and chiller, by the hour" },
  { name: "meters.csv", title: "Gas and electricity meters, clock in UTC" },
];

/** The shipped climate that is most like a place by latitude and height. */
function climateFor(latitude: number, elevation: number): (typeof shippedClimates)[string] {
  const distance = (c: { latitude: number; elevation: number }): number =>
    Math.abs(Math.abs(c.latitude) - Math.abs(latitude)) + Math.abs(c.elevation - elevation) / 200;
  return Object.values(shippedClimates).reduce((a, b) => (distance(b) < distance(a) ? b : a));
}

const server = createServer((request, response) => {
  const { pathname, searchParams } = new URL(request.url ?? "/", "http://service");
  const refuse = (status: number, message: string): void =>
    void response.writeHead(status, { "content-type": "text/plain; charset=utf-8" }).end(`${message}\n`);
  if (request.method === "GET" && pathname === "/logs") return void response.writeHead(200, { "content-type": "application/json" }).end(JSON.stringify(LOGS));
  const log = LOGS.find((l) => pathname === `/logs/${l.name}`);
  if (request.method === "GET" && log)
    return void response.writeHead(200, { "content-type": "text/csv; charset=utf-8" }).end(readFileSync(new URL(`./measured/${log.name}`, import.meta.url)));
  if (request.method !== "GET" || pathname !== "/year") return refuse(404, "Ask GET /year with latitude, longitude, elevation, time_zone and year.");
  const number = (name: string): number => Number(searchParams.get(name) ?? NaN);
  const [latitude, longitude, elevation, timeZone, year] = ["latitude", "longitude", "elevation", "time_zone", "year"].map(number);
  if (!(Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180 && elevation >= -450 && elevation <= 6000 && Math.abs(timeZone) <= 14))
    return refuse(400, "latitude, longitude, elevation and time_zone are numbers of a place on earth.");
  if (!(Number.isInteger(year) && year >= 1980 && year <= new Date().getUTCFullYear()))
    return refuse(404, `There is no year ${searchParams.get("year") ?? ""} here; from 1980 on there is.`);
  const climate = climateFor(latitude, elevation);
  const site = { name: `Invented, like ${climate.name}`, latitude, longitude, elevation, timeZone };
  const made = synthesizeYear(site, climate.normals, year);
  response.writeHead(200, { "content-type": "text/csv; charset=utf-8" }).end(writeWeatherCsv({ ...(isLeapYear(year) ? withLeapDay(made) : made), year }));
});
server.listen(port, "127.0.0.1");
for (const signal of ["SIGTERM", "SIGINT"] as const) process.on(signal, () => process.exit(0));
