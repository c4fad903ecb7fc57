import type { WeatherMapping } from "./mapping.ts";

/** Minutes from 1 January of the year 0 (proleptic Gregorian) to a date and time; days and hours may lie beyond their month and day. */
export function minutesOf(year: number, month: number, day: number, hour = 0, minute = 0): number {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - 400 * era;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  const days = 146097 * era + 365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return (days * 24 + hour) * 60 + minute;
}

/** Year of a time in minutes. @see minutesOf */
export function yearOfMinutes(minutes: number): number {
  let year = Math.floor(minutes / (60 * 24 * 365.2425));
  while (minutesOf(year + 1, 1, 1) <= minutes) year++;
  while (minutesOf(year, 1, 1) > minutes) year--;
  return year;
}

/** A year without 29 February for files that state none. */
export const PLAIN_YEAR = 2001;

const NUMBERS = /\d+/g;
/** Hour, minute and offset from UTC at the end of an ISO time. */
const OFFSET = /(Z|[+-]\d{2}:?\d{2})$/i;

/** Time of a text in minutes, NaN for none. An offset brings it to UTC, which is told. */
export function timeOfText(text: string, order: "iso" | "ymd" | "dmy" | "mdy"): { minutes: number; utc: boolean } {
  let offset = 0;
  let utc = false;
  let body = text;
  if (order === "iso") {
    const found = /\d[T ]\d/.test(text) ? OFFSET.exec(text) : null;
    if (found) {
      utc = true;
      body = text.slice(0, found.index);
      if (!/z/i.test(found[0])) {
        const digits = found[0].replace(/\D/g, "");
        offset = (found[0].startsWith("-") ? -1 : 1) * (60 * Number(digits.slice(0, 2)) + Number(digits.slice(2)));
      }
    }
  }
  const n = (body.match(NUMBERS) ?? []).map(Number);
  const compact = n.length >= 1 && /^\d{8,14}$/.test(body.trim());
  if (compact) {
    const digits = body.trim();
    const at = (i: number, l: number): number => Number(digits.slice(i, i + l) || 0);
    return { minutes: checked(at(0, 4), at(4, 2), at(6, 2), at(8, 2), at(10, 2)) - offset, utc };
  }
  if (n.length < 3) return { minutes: NaN, utc };
  const [a, b, c] = n;
  const [year, month, day] = order === "dmy" ? [c, b, a] : order === "mdy" ? [c, a, b] : [a, b, c];
  const afternoon = /\bp\.?m\b/i.test(body);
  const morning = /\ba\.?m\b/i.test(body);
  let hour = n[3] ?? 0;
  if (afternoon && hour < 12) hour += 12;
  if (morning && hour === 12) hour = 0;
  const minutes = checked(year < 100 ? year + (year < 60 ? 2000 : 1900) : year, month, day, hour, n[4] ?? 0);
  return { minutes: minutes - offset, utc };
}

/** A time whose parts are all possible; 24:00 is midnight of the next day. */
function checked(year: number, month: number, day: number, hour: number, minute: number): number {
  return year >= 1 && year <= 9999 && month >= 1 && month <= 12 && day >= 1 && day <= 31 && hour >= 0 && hour <= 24 && minute >= 0 && minute < 60
    ? minutesOf(year, month, day, hour, minute)
    : NaN;
}

/** Time of a row, minutes in the clock of the file; NaN where its cells are none. @param row from 0 */
export function timeOfRow(cells: readonly string[], row: number, time: WeatherMapping["time"]): { minutes: number; utc: boolean } {
  switch (time.kind) {
    case "none":
      return { minutes: minutesOf(PLAIN_YEAR, 1, 1) + (row + 1) * time.minutes, utc: false };
    case "one column":
      return timeOfText(cells[time.column] ?? "", time.order);
    case "date and time": {
      const date = timeOfText(cells[time.date] ?? "", time.order);
      const clock = clockOf(cells[time.time] ?? "");
      return { minutes: date.minutes + clock, utc: false };
    }
    case "parts": {
      const part = (column: number | null, absent: number): number => (column === null ? absent : Number((cells[column] ?? "").trim() || NaN));
      const year = part(time.year, PLAIN_YEAR);
      let hour = part(time.hour, 0);
      let minute = part(time.minute, 0);
      // an hour such as 1330, or a minute of 60
      if (time.minute === null && hour > 24) [hour, minute] = [Math.floor(hour / 100), hour % 100];
      if (minute === 60) return { minutes: checked(year, part(time.month, NaN), part(time.day, NaN), hour, 0), utc: false };
      return { minutes: checked(year < 100 ? 2000 + year : year, part(time.month, NaN), part(time.day, NaN), hour, minute), utc: false };
    }
  }
}

/** Minutes of a time of day such as 13:30, 1330, 24:00, "1:30 pm" or an hour alone. */
function clockOf(text: string): number {
  const n = (text.match(NUMBERS) ?? []).map(Number);
  if (n.length === 0) return NaN;
  const [first, minute] = n.length > 1 ? n : n[0] > 24 ? [Math.floor(n[0] / 100), n[0] % 100] : [n[0], 0];
  let hour = first;
  if (/p\.?m\b/i.test(text) && hour < 12) hour += 12;
  if (/a\.?m\b/i.test(text) && hour === 12) hour = 0;
  return hour <= 24 && minute < 60 ? 60 * hour + minute : NaN;
}

/** Steps of a clock further than this from the interval are jumps of summer time, min. */
const HOUR = 60;

/**
 * Brings the times of a clock that is put forward in summer to standard time: from the hour left out in spring to the hour that
 * comes twice in autumn the clock is an hour ahead. A file that begins in summer begins ahead.
 * @returns how many times it was put forward and back
 */
export function withoutSaving(times: Float64Array, interval: number): number {
  const jumps: [row: number, ahead: boolean][] = [];
  for (let i = 1; i < times.length; i++) {
    const step = times[i] - times[i - 1];
    if (Math.abs(step - (interval + HOUR)) < 1) jumps.push([i, true]);
    else if (Math.abs(step - (interval - HOUR)) < 1) jumps.push([i, false]);
  }
  if (jumps.length === 0) return 0;
  let ahead = !jumps[0][1];
  let k = 0;
  for (let i = 0; i < times.length; i++) {
    if (k < jumps.length && jumps[k][0] === i) ahead = jumps[k++][1];
    if (ahead) times[i] -= HOUR;
  }
  return jumps.length;
}
