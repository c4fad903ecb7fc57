"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { degreeDays, deriveWeather, relativeHumidity, type WeatherYear } from "@arroyo/core";
import { Quantity, SelectInput } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { HourMap } from "../../ui/HourMap.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { MonthBands } from "./MonthBands.tsx";
import { SunPath } from "./SunPath.tsx";

const looks = { months: "Months", hours: "Hours", wind: "Wind", sun: "Sun path", air: "Psychrometric chart" } as const;
type Look = keyof typeof looks;

/** The weather of the year in view, looked at by months, hours, wind, sun and humid air. */
export function WeatherLook() {
  const hours = useStore((s) => s.live.weather?.hours);
  const [look, setLook] = useState<Look>("months");
  return (
    <Flex direction="column" gap="3">
      <Flex gap="1">
        {(Object.keys(looks) as Look[]).map((l) => (
          <Toggle key={l} on={l === look} onClick={() => setLook(l)}>
            {looks[l]}
          </Toggle>
        ))}
      </Flex>
      {look === "months" && <MonthBands />}
      {hours && look === "hours" && <Hours w={hours} />}
      {hours && look === "wind" && <WindRose w={hours} />}
      {hours && look === "sun" && <SunPath w={hours} />}
      {hours && look === "air" && <HumidAir w={hours} />}
    </Flex>
  );
}

const mapped = {
  dryBulb: ["Dry-bulb temperature", "°C"],
  relativeHumidity: ["Relative humidity", "%"],
  globalHorizontal: ["Global horizontal", "W/m²"],
  diffuseHorizontal: ["Diffuse horizontal", "W/m²"],
  windSpeed: ["Wind speed", "m/s"],
  windDirection: ["Wind direction", "°"],
  cloudCover: ["Cloud cover", "1"],
  pressure: ["Pressure", "Pa"],
} as const;
type Mapped = keyof typeof mapped;

/** One quantity hour by hour, its extremes and the hours in bands; degree days at any base. */
function Hours({ w }: { w: WeatherYear }) {
  const units = useUnits();
  const [q, setQ] = useState<Mapped>("dryBulb");
  const [base, setBase] = useState({ heating: 18, cooling: 18 });
  const [label, unit] = mapped[q];
  const values = w[q];
  const [low, high] = useMemo(() => [values.reduce((a, b) => Math.min(a, b)), values.reduce((a, b) => Math.max(a, b))], [values]);
  const sorted = useMemo(() => Float64Array.from(values).sort(), [values]);
  const quantile = (share: number): number => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
  const bands = useMemo(() => {
    const step = (high - low) / 8 || 1;
    const nice = [1, 2, 2.5, 5, 10].map((k) => k * 10 ** Math.floor(Math.log10(step))).find((k) => k >= step) ?? step;
    const from = Math.floor(low / nice) * nice;
    const out: { from: number; to: number; hours: number }[] = [];
    for (let a = from; a < high || out.length === 0; a += nice) out.push({ from: a, to: a + nice, hours: 0 });
    for (const v of values) out[Math.min(out.length - 1, Math.max(0, Math.floor((v - from) / nice)))].hours++;
    return out;
  }, [values, low, high]);
  const days = degreeDays(w, base.heating, base.cooling);
  const share = unit === "1" ? 2 : unit === "Pa" ? 0 : 1;
  return (
    <Flex direction="column" gap="4">
      <SelectInput
        label="Quantity of the map"
        align="left"
        width="260px"
        value={q}
        options={(Object.keys(mapped) as Mapped[]).map((value) => ({ value, label: mapped[value][0] }))}
        onChange={(v) => setQ(v as Mapped)}
      />
      <HourMap
        title={label}
        label={`${label}, hour by hour`}
        values={values}
        span={[low, high]}
        height={190}
        scale={`${units.text(low, unit, share)} to ${units.words(high, unit, share)}, standard time`}
        words={(h) => units.words(values[h], unit, share)}
      />
      <Flex gap="8" wrap="wrap">
        <Box w="300px">
          <Text textStyle="title">Hours in bands</Text>
          <Grid
            label="Hours in bands"
            head={[{ text: label, left: true, unit: units.unit(unit) }, { text: "Hours" }, { text: "Share", unit: "%" }]}
            rows={bands.map((b) => ({
              key: String(b.from),
              cells: [`${units.text(b.from, unit, share)} to ${units.text(b.to, unit, share)}`, figure(b.hours, 0), figure((100 * b.hours) / values.length, 1)],
            }))}
          />
        </Box>
        <Box w="260px">
          <Text textStyle="title">Extremes</Text>
          <Grid
            label="Extremes"
            head={[
              { text: "Not passed in", left: true },
              { text: label, unit: units.unit(unit) },
            ]}
            rows={(
              [
                ["lowest hour", 0],
                ["0.4 %, low", 0.004],
                ["1 %, low", 0.01],
                ["half of the hours", 0.5],
                ["1 %, high", 0.99],
                ["0.4 %, high", 0.996],
                ["highest hour", 1],
              ] as const
            ).map(([words, s]) => ({ key: words, cells: [words, units.text(quantile(s), unit, share)] }))}
          />
        </Box>
        <Box w="240px">
          <Text textStyle="title">Degree days</Text>
          {(["heating", "cooling"] as const).map((kind) => (
            <Flex key={kind} align="center" gap="2" py="1" borderBottom="1px solid" borderColor="line">
              <Text color="ink2" flex="1">
                {kind === "heating" ? "Heating below" : "Cooling above"}
              </Text>
              <Quantity
                label={`Base of ${kind} degree days`}
                width="52px"
                bare
                value={base[kind]}
                unit="°C"
                digits={1}
                onCommit={(v) => {
                  if (!(v >= -40 && v <= 60)) return "A base lies between −40 and 60 °C.";
                  setBase({ ...base, [kind]: v });
                  return null;
                }}
              />
              <Text>{units.unit("°C")}:</Text>
              <b>{units.text(days[kind], "K·d", 0)}</b>
            </Flex>
          ))}
        </Box>
      </Flex>
    </Flex>
  );
}

const SECTORS = 16;
const SPEEDS = [0.5, 2, 4, 6, 9] as const;
const SHADES = ["#D7E3E2", "#A9C9CB", "#5D9DA8", "#0E6B80", "#152E42"] as const;

/** How often the wind comes from where, and how strong it is. */
function WindRose({ w }: { w: WeatherYear }) {
  const units = useUnits();
  const { counts, calm, most } = useMemo(() => {
    const c = Array.from({ length: SECTORS }, () => new Float64Array(SPEEDS.length));
    let still = 0;
    w.windSpeed.forEach((v, h) => {
      if (v < SPEEDS[0]) return void still++;
      const s = Math.round((w.windDirection[h] / 360) * SECTORS) % SECTORS;
      let k = SPEEDS.length - 1;
      while (v < SPEEDS[k]) k--;
      c[s][k]++;
    });
    return { counts: c, calm: still, most: Math.max(...c.map((x) => x.reduce((a, b) => a + b, 0))) };
  }, [w]);
  const n = w.windSpeed.length;
  const R = 190;
  const ring = Math.max(0.01, Math.ceil((100 * most) / n / 4) / 25);
  const rings = [1, 2, 3, 4].map((k) => (k * ring) / 4).filter((r) => r <= ring + 1e-9);
  const wedge = (s: number, from: number, to: number): string => {
    const half = (0.42 * 2 * Math.PI) / SECTORS;
    const mid = (2 * Math.PI * s) / SECTORS;
    const at = (r: number, a: number): string => `${220 + R * r * Math.sin(a)} ${220 - R * r * Math.cos(a)}`;
    return `M${at(from, mid - half)}L${at(to, mid - half)}L${at(to, mid + half)}L${at(from, mid + half)}Z`;
  };
  return (
    <Flex gap="8">
      <svg width="440" height="440" role="img" aria-label="Wind by direction and strength">
        {rings.map((r) => (
          <g key={r}>
            <circle cx="220" cy="220" r={(R * r) / ring} fill="none" stroke="var(--chakra-colors-line)" />
            <text x="224" y={216 - (R * r) / ring + 12} fontSize="11" fill="var(--chakra-colors-ink2)">
              {figure(100 * r, 1)} %
            </text>
          </g>
        ))}
        {counts.map((c, s) => {
          let from = 0;
          return SPEEDS.map((_, k) => {
            const to = from + c[k] / n / ring;
            const d = wedge(s, from, to);
            from = to;
            return c[k] > 0 ? <path key={`${s}-${k}`} d={d} fill={SHADES[k]} /> : null;
          });
        })}
        {["N", "E", "S", "W"].map((t, i) => (
          <text
            key={t}
            x={220 + (R + 16) * Math.sin((i * Math.PI) / 2)}
            y={224 - (R + 16) * Math.cos((i * Math.PI) / 2)}
            textAnchor="middle"
            fontSize="12"
            fill="var(--chakra-colors-ink)"
          >
            {t}
          </text>
        ))}
      </svg>
      <Box pt="4" w="220px">
        <Text textStyle="title" mb="1">
          Where the wind comes from
        </Text>
        {SPEEDS.map((v, k) => (
          <Flex key={v} align="center" gap="2" fontSize="12.5px">
            <Box w="12px" h="12px" background={SHADES[k]} />
            {k + 1 < SPEEDS.length ? `${units.text(v, "m/s", 1)} to ${units.words(SPEEDS[k + 1], "m/s", 1)}` : `${units.words(v, "m/s", 1)} and more`}
          </Flex>
        ))}
        <Text color="ink2" fontSize="12px" mt="2">
          Share of the {figure(n, 0)} hours by {SECTORS} directions; {figure((100 * calm) / n, 1)} % are calmer than {units.words(SPEEDS[0], "m/s", 1)}.
        </Text>
      </Box>
    </Flex>
  );
}

/** Every hour by temperature and humidity ratio, with lines of relative humidity and the usual range of comfort. */
function HumidAir({ w }: { w: WeatherYear }) {
  const units = useUnits();
  const [W, H] = [720, 430];
  const derived = useMemo(() => deriveWeather(w), [w]);
  const [low, high] = useMemo(
    () => [Math.floor(w.dryBulb.reduce((a, b) => Math.min(a, b)) / 5) * 5, Math.ceil(w.dryBulb.reduce((a, b) => Math.max(a, b)) / 5) * 5],
    [w],
  );
  const top = useMemo(() => Math.max(0.012, Math.ceil(derived.humidityRatio.reduce((a, b) => Math.max(a, b)) * 250) / 250), [derived]);
  const pressure = w.pressure[0];
  const x = (t: number): number => 20 + ((W - 90) * (t - low)) / (high - low);
  const y = (ratio: number): number => H - 34 - ((H - 50) * ratio) / top;
  const cells = useMemo(() => {
    // hours by cells of 0.5 K and 0.25 g/kg, so that thousands of dots stay light
    const found = new Map<string, { t: number; r: number; n: number }>();
    w.dryBulb.forEach((t, h) => {
      const [a, b] = [Math.round(2 * t) / 2, Math.round(4000 * derived.humidityRatio[h]) / 4000];
      const key = `${a} ${b}`;
      const cell = found.get(key);
      if (cell) cell.n++;
      else found.set(key, { t: a, r: b, n: 1 });
    });
    return [...found.values()];
  }, [w, derived]);
  const most = cells.reduce((m, c) => Math.max(m, c.n), 1);
  const ratioAt = (t: number, rh: number): number => {
    // the ratio at which the air has this humidity: found from the humidity of a small ratio, which is nearly in proportion
    let r = 0.005;
    for (let i = 0; i < 30; i++) r *= rh / relativeHumidity(t, r, pressure);
    return r;
  };
  const curve = (rh: number): string => {
    let d = "";
    for (let t = low; t <= high; t += 1) {
      const r = ratioAt(t, rh);
      if (r > top) break;
      d += `${d === "" ? "M" : "L"}${x(t).toFixed(1)} ${y(r).toFixed(1)}`;
    }
    return d;
  };
  const comfort = [20, 26].flatMap((t, i) =>
    i === 0
      ? [
          [t, ratioAt(t, 0.3)],
          [t, Math.min(0.012, ratioAt(t, 0.6))],
        ]
      : [
          [t, 0.012],
          [t, ratioAt(t, 0.3)],
        ],
  ) as [number, number][];
  const inside = useMemo(() => {
    let n = 0;
    w.dryBulb.forEach((t, h) => {
      const rh = w.relativeHumidity[h];
      if (t >= 20 && t <= 26 && rh >= 30 && rh <= 60 && derived.humidityRatio[h] <= 0.012) n++;
    });
    return n;
  }, [w, derived]);
  const ticks = Array.from({ length: (high - low) / 5 + 1 }, (_, i) => low + 5 * i);
  return (
    <Box>
      <Text textStyle="title">
        Psychrometric chart{" "}
        <Text as="span" color="ink2" fontWeight="400">
          hours by temperature, {units.unit("°C")}, and humidity ratio, g/kg, at {figure(pressure / 100, 0)} hPa
        </Text>
      </Text>
      <svg width={W} height={H} role="img" aria-label="Hours by temperature and humidity ratio">
        {ticks.map((t) => (
          <g key={t}>
            <line x1={x(t)} x2={x(t)} y1={y(0)} y2={y(Math.min(top, ratioAt(t, 1)))} stroke="var(--chakra-colors-line)" />
            <text x={x(t)} y={H - 18} textAnchor="middle" fontSize="11" fill="var(--chakra-colors-ink2)">
              {units.text(t, "°C", 0)}
            </text>
          </g>
        ))}
        {Array.from({ length: Math.floor(top / 0.004) + 1 }, (_, i) => 0.004 * i).map((r) => (
          <text key={r} x={W - 62} y={y(r) + 4} fontSize="11" fill="var(--chakra-colors-ink2)">
            {figure(1000 * r, 0)}
          </text>
        ))}
        {[0.2, 0.4, 0.6, 0.8, 1].map((rh) => (
          <path
            key={rh}
            d={curve(rh)}
            fill="none"
            stroke={rh === 1 ? "var(--chakra-colors-ink2)" : "var(--chakra-colors-line)"}
            strokeWidth={rh === 1 ? 1.6 : 1.2}
          />
        ))}
        {cells.map((c) => (
          <rect
            key={`${c.t} ${c.r}`}
            x={x(c.t) - 2}
            y={y(c.r) - 2}
            width="4"
            height="4"
            fill="var(--chakra-colors-water)"
            opacity={0.15 + 0.85 * Math.sqrt(c.n / most)}
          />
        ))}
        <path d={`M${comfort.map(([t, r]) => `${x(t)} ${y(r)}`).join("L")}Z`} fill="none" stroke="var(--chakra-colors-clay)" strokeWidth="1.6" />
      </svg>
      <Text color="ink2" fontSize="12px">
        Framed: {units.text(20, "°C", 0)} to {units.words(26, "°C", 0)}, 30 to 60 %, at most 12 g/kg (a usual range of comfort for light activity);{" "}
        {figure(inside, 0)} hours of the year lie in it. Lines: relative humidity 20, 40, 60, 80 and 100 %.
      </Text>
    </Box>
  );
}
