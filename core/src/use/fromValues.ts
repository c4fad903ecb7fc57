import { COMMON_YEAR, dateOfDay, type Project, type Schedule } from "../model/index.ts";
import { dayKinds } from "./schedules.ts";

export type FromValues = { readonly ok: true; readonly schedule: Schedule } | { readonly ok: false; readonly message: string };

/** Numbers of hours a schedule can be made from: a day, a week from Monday, a common year from 1 January. */
export const valueCounts = [24, 168, 8760] as const;
const dayNames = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"] as const;
const WHOLE_YEAR = { from: [1, 1] as [number, number], to: [12, 31] as [number, number] };

/**
 * A schedule from hourly values in clock time: 24 for every day alike, 168 for a week from Monday (holidays as Sunday), or 8,760
 * for a common year. Days that are alike share a profile; a year is told in stretches in which each day of the week is alike.
 * @param calendar gives each day of a year its weekday; with a schedule of a year it must stay the same
 */
export function scheduleFromValues(name: string, kind: Schedule["kind"], values: readonly number[], calendar: Project["calendar"]): FromValues {
  const count = values.length;
  if (!(valueCounts as readonly number[]).includes(count))
    return { ok: false, message: `There are ${count} values; a schedule is made from 24 (a day), 168 (a week from Monday) or 8760 (a year).` };
  const bad = values.findIndex((v) => !Number.isFinite(v) || (kind === "fraction" ? v < 0 || v > 1 : v < -100 || v > 1000));
  if (bad >= 0)
    return {
      ok: false,
      message: `Value ${bad + 1} is ${values[bad]}; ${kind === "fraction" ? "a share lies between 0 and 1" : "a temperature lies between −100 and 1000 °C"}.`,
    };
  const profiles: Schedule["profiles"] = {};
  const known = new Map<string, string>();
  const profileOf = (day: readonly number[], called: string): string => {
    const key = day.join(" ");
    const found = known.get(key);
    if (found) return found;
    const id = `p${known.size + 1}`;
    known.set(key, id);
    profiles[id] = { name: called, values: [...day] };
    return id;
  };
  if (count === 24) {
    const id = profileOf(values, "Every day");
    return { ok: true, schedule: { name, kind, profiles, weeks: [{ id: "all", ...WHOLE_YEAR, days: new Array<string>(8).fill(id) }] } };
  }
  if (count === 168) {
    const days = dayNames.map((d, i) => profileOf(values.slice(24 * i, 24 * i + 24), d));
    return { ok: true, schedule: { name, kind, profiles, weeks: [{ id: "all", ...WHOLE_YEAR, days: [...days, days[6]] }] } };
  }
  const kinds = dayKinds({ ...calendar, daylightSaving: null }, 0, COMMON_YEAR);
  const weeks: Schedule["weeks"] = [];
  let day = 0;
  while (day < COMMON_YEAR.days) {
    const from = day;
    const of = new Array<string | null>(8).fill(null);
    for (; day < COMMON_YEAR.days; day++) {
      const id = profileOf(values.slice(24 * day, 24 * day + 24), dateWords(day));
      const before = of[kinds[day]];
      if (before !== null && before !== id) break;
      of[kinds[day]] = id;
    }
    const any = of.find((x) => x !== null) as string;
    weeks.push({
      id: `w${weeks.length + 1}`,
      from: dateOfDay(from) as [number, number],
      to: dateOfDay(day - 1) as [number, number],
      days: of.map((x) => x ?? any),
    });
  }
  return { ok: true, schedule: { name, kind, profiles, weeks } };
}

const dateWords = (day: number): string => {
  const [m, d] = dateOfDay(day);
  return `As on ${d}.${m}.`;
};

/** What separates the cells of a file: a semicolon or tab where there is one; else the comma, unless it stands for a decimal point. */
function separatorOf(lines: readonly string[]): ";" | "\t" | "," | null {
  for (const mark of [";", "\t"] as const) if (lines.some((l) => l.includes(mark))) return mark;
  const data = lines.filter((l) => /\d/.test(l));
  if (!data.some((l) => l.includes(","))) return null;
  const plain = data.filter((l) => /^\s*-?\d+(,\d+)?\s*$/.test(l));
  if (plain.length < data.length) return ",";
  // "7,0" may be an hour and its value: then the first numbers count the lines
  const firsts = data.map((l) => Number(l.split(",")[0]));
  return data.length > 1 && firsts.every((v, k) => k === 0 || v === firsts[k - 1] + 1) ? "," : null;
}

/** Numbers of a text, one a line or in a row, with decimal points or commas; a head in words, and a time before each value, are passed over. */
export function valuesOfText(text: string): number[] | string {
  const lines = text
    .replace(/^\ufeff/, "")
    .split(/\r?\n/)
    .filter((l) => l.trim() !== "");
  const separator = separatorOf(lines);
  const values: number[] = [];
  for (const [i, line] of lines.entries()) {
    const cells = (separator === null ? [line] : line.split(separator)).map((c) => c.trim());
    const taken = cells.length === 2 && lines.length > 2 ? [cells[1]] : cells;
    for (const cell of taken) {
      if (cell === "") continue;
      const v = Number(separator === "," ? cell : cell.replace(",", "."));
      if (Number.isFinite(v)) values.push(v);
      else if (i === 0) break;
      else return `Line ${i + 1} has “${cell.slice(0, 40)}”, which is not a number.`;
    }
  }
  return values;
}
