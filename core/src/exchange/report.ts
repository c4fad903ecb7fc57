import { defaultsLeft, groupsOf, registerOf } from "../inputs/index.ts";
import { dateInRun, describeAddress, type Project, type ReportOutline, type SeriesRef, type Topic, type TopicKind } from "../model/index.ts";
import { isWholeYear, quantityOf, readSeries, statistics, zoneWeights, type SeriesTable, type Summary } from "../results/index.ts";
import { pow } from "../numeric/index.ts";
import { flowNames, type FlowName } from "../simulate/index.ts";

/** A run a report is made of. */
export interface ReportRun {
  /** What it is called beside others. */
  readonly name: string;
  /** The document it was made of. */
  readonly project: Project;
  readonly summary: Summary;
  /** Its hourly values, for topics of series; absent: they were not kept. */
  readonly table?: SeriesTable;
}
/** A figure with the decimals it is written with; a text; or nothing. */
export type Cell = { readonly value: number; readonly digits: number } | string | null;
export interface ReportTable {
  readonly kind: "table";
  readonly caption: string;
  readonly head: readonly { readonly text: string; readonly unit: string }[];
  /** The first cell names the row. */
  readonly rows: readonly (readonly Cell[])[];
}
export type Block =
  | { readonly kind: "heading"; readonly level: 1 | 2; readonly text: string }
  | { readonly kind: "paragraph"; readonly text: string }
  /** What stands in the way of a topic, told in its place. */
  | { readonly kind: "remark"; readonly text: string }
  | ReportTable;
export interface Report {
  readonly title: string;
  readonly blocks: readonly Block[];
}

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"] as const;
export const topicTitles: Readonly<Record<TopicKind, string>> = {
  text: "Notes",
  summary: "Summary",
  energy: "Energy by end use and month",
  flows: "Gains and losses by month",
  loads: "Heating and cooling by zone",
  zones: "Temperatures and hours unmet",
  comfort: "Comfort",
  components: "Systems and plant",
  series: "Series",
  assumptions: "Assumptions",
  warnings: "What is to be noted",
};
const flowWords: Readonly<Partial<Record<FlowName, string>>> = {
  glassSun: "sun held in glass",
  walls: "outside walls",
  exposedFloor: "exposed floor",
  partitions: "inner mass",
  outdoorAir: "outdoor air",
  openedAir: "windows, night air",
  betweenZones: "air between zones",
  storage: "stored in air",
};

const sum = (a: readonly number[]): number => a.reduce((s, v) => s + v, 0);
const figure = (value: number | null | undefined, digits: number): Cell =>
  value === null || value === undefined || !Number.isFinite(value) ? null : { value, digits };

/** Writes an outline for one run or for several; each topic tells the runs one after the other, the summary side by side. */
export function buildReport(outline: ReportOutline, runs: readonly ReportRun[]): Report {
  const [first] = runs;
  const blocks: Block[] = [];
  for (const topic of outline.topics) {
    blocks.push({ kind: "heading", level: 1, text: topic.title ?? topicTitles[topic.kind] });
    const told = topic.kind === "text" ? [] : topic.kind === "summary" ? summaryTopic(topic, runs) : runs.flatMap((run) => ofRun(topic, run, runs.length > 1));
    blocks.push(...told.map((b) => (b.kind === "table" ? trimmed(b, topic) : b)).filter((b) => b.kind !== "table" || b.rows.length > 0));
    if (topic.note) for (const text of topic.note.split(/\n{2,}/)) blocks.push({ kind: "paragraph", text: text.trim() });
  }
  return { title: first ? `${outline.name}: ${first.project.name}` : outline.name, blocks };
}

function ofRun(topic: Topic, run: ReportRun, several: boolean): Block[] {
  const head: Block[] = several ? [{ kind: "heading", level: 2, text: run.name }] : [];
  const topicsOf: Record<Exclude<TopicKind, "text" | "summary">, (t: Topic, r: ReportRun) => Block[]> = {
    energy: energyTopic,
    flows: flowsTopic,
    loads: loadsTopic,
    zones: zonesTopic,
    comfort: comfortTopic,
    components: componentsTopic,
    series: seriesTopic,
    assumptions: assumptionsTopic,
    warnings: warningsTopic,
  };
  return [...head, ...topicsOf[topic.kind as keyof typeof topicsOf](topic, run)];
}

/** A table without what was taken out by hand and without columns in which nothing stands. */
function trimmed(t: ReportTable, topic: Topic): ReportTable {
  const without = new Set(topic.without ?? []);
  const rows = t.rows.filter((r) => !(typeof r[0] === "string" && without.has(r[0])));
  const empty = (c: number): boolean =>
    rows.every((r) => r[c] === null || r[c] === "" || (typeof r[c] === "object" && Math.abs(r[c].value) < 0.5 * pow(10, -r[c].digits)));
  const kept = t.head.map((h, c) => (c === 0 || (!empty(c) && !without.has(h.text)) ? c : -1)).filter((c) => c >= 0);
  return { ...t, head: kept.map((c) => t.head[c]), rows: rows.map((r) => kept.map((c) => r[c])) };
}

/** kWh in the unit of a topic. */
function energyOf(topic: Topic): { readonly unit: string; readonly digits: number; readonly of: (kWh: number) => number } {
  const unit = topic.energy ?? "kWh";
  return { unit, digits: topic.digits ?? (unit === "kWh" ? 0 : 2), of: (v) => (unit === "kWh" ? v : v / 1000) };
}
/** Zones a topic tells of, with the groups they are read by. */
function zonesOf(topic: Topic, { project, summary }: ReportRun): { readonly name: string; readonly zones: Summary["zones"] }[] {
  if (!topic.of) return [{ name: "All zones", zones: summary.zones }];
  return groupsOf(project).flatMap((g) =>
    topic.of?.includes(g.id) ? [{ name: g.group.name, zones: summary.zones.filter((z) => g.zones.includes(z.id)) }] : [],
  );
}
const months = (topic: Topic, monthly: readonly number[]): number[] => (topic.month === undefined ? [...monthly] : [monthly[topic.month]]);
const monthHeads = (topic: Topic, unit: string): { text: string; unit: string }[] =>
  (topic.month === undefined ? [...MONTHS] : [MONTHS[topic.month]]).map((text) => ({ text, unit }));
const whole = (s: Summary): string => (isWholeYear(s) ? "Year" : "Run");

function summaryTopic(topic: Topic, runs: readonly ReportRun[]): Block[] {
  const e = energyOf(topic);
  const row = (name: string, unit: string, digits: number, of: (s: Summary) => number | null): Cell[] => [
    name,
    unit,
    ...runs.map((r) => figure(of(r.summary), topic.digits ?? digits)),
  ];
  const { currency } = runs[0].project.prices;
  const per = runs.every((r) => isWholeYear(r.summary)) ? "/a" : "";
  const at = (name: string, of: (s: Summary) => string | null): Cell[] => [name, "", ...runs.map((r) => stampWords(of(r.summary)))];
  const rows: Cell[][] = [
    row("Site energy by floor area", `kWh/m²${per.replace("/", "")}`, 1, (s) => s.energy.intensity),
    row("Net site energy by floor area", `kWh/m²${per.replace("/", "")}`, 1, (s) => s.energy.net),
    row("Conditioned floor area", "m²", 0, (s) => s.floorArea),
    row("Heating delivered", `${e.unit}${per}`, e.digits, (s) => e.of(s.loads.heating.total)),
    row("Cooling, sensible", `${e.unit}${per}`, e.digits, (s) => e.of(s.loads.cooling.total)),
    row("Cooling, latent", `${e.unit}${per}`, e.digits, (s) => e.of(s.loads.dehumidification.total)),
    row("Largest heating, hourly mean", "kW", 1, (s) => s.peaks.heating.power / 1000),
    at("largest heating in the hour to", (s) => s.peaks.heating.at),
    row("Largest cooling, hourly mean", "kW", 1, (s) => s.peaks.cooling.power / 1000),
    at("largest cooling in the hour to", (s) => s.peaks.cooling.at),
    row("Hours unmet", "h", 1, (s) => s.unmetHours),
    row("Cost", `${currency}${per}`, 0, (s) => s.energy.cost),
    row("Carbon", `t CO₂e${per}`, 1, (s) => s.energy.carbon / 1000),
    row("Primary energy", `${e.unit}${per}`, e.digits, (s) => e.of(s.energy.primary)),
  ].filter((r) => r.slice(2).some((c) => c !== null && c !== "—"));
  return [
    {
      kind: "table",
      caption: "Summary",
      head: [{ text: "Figure", unit: "" }, { text: "Unit", unit: "" }, ...runs.map((r) => ({ text: r.name, unit: "" }))],
      rows,
    },
  ];
}

function energyTopic(topic: Topic, run: ReportRun): Block[] {
  const e = energyOf(topic);
  const { summary: s } = run;
  const rows = s.energy.endUses
    .filter((u) => u.total > 0.5)
    .map((u): Cell[] => [
      `${u.use}, ${u.fuel}`,
      ...months(topic, u.monthly).map((v) => figure(e.of(v), e.digits)),
      ...(topic.month === undefined ? [figure(e.of(u.total), e.digits)] : []),
    ]);
  const all: Cell[] = [
    "all",
    ...months(
      topic,
      Array.from({ length: 12 }, (_, m) => sum(s.energy.endUses.map((u) => u.monthly[m]))),
    ).map((v) => figure(e.of(v), e.digits)),
    ...(topic.month === undefined ? [figure(e.of(sum(s.energy.endUses.map((u) => u.total))), e.digits)] : []),
  ];
  return [
    {
      kind: "table",
      caption: `Energy by end use and fuel, ${e.unit}`,
      head: [{ text: "End use", unit: "" }, ...monthHeads(topic, e.unit), ...(topic.month === undefined ? [{ text: whole(s), unit: e.unit }] : [])],
      rows: [...rows, all],
    },
  ];
}

function flowsTopic(topic: Topic, run: ReportRun): Block[] {
  const e = energyOf(topic);
  const weights = zoneWeights(run.project);
  return zonesOf(topic, run).map(({ name, zones }): ReportTable => {
    const of = (f: FlowName, m: number): number => sum(zones.map((z) => (weights.get(z.id)?.times ?? 1) * z.flows[f][m]));
    const rows = flowNames.flatMap((f): Cell[][] => {
      const monthly = MONTHS.map((_, m) => of(f, m));
      if (monthly.every((v) => Math.abs(v) < 0.5)) return [];
      return [
        [
          flowWords[f] ?? f,
          ...months(topic, monthly).map((v) => figure(e.of(v), e.digits)),
          ...(topic.month === undefined ? [figure(e.of(sum(monthly)), e.digits)] : []),
        ],
      ];
    });
    return {
      kind: "table",
      caption: `Heat into ${name.toLowerCase() === "all zones" ? "all zones" : name}, losses negative, ${e.unit}`,
      head: [{ text: "Heat flow", unit: "" }, ...monthHeads(topic, e.unit), ...(topic.month === undefined ? [{ text: whole(run.summary), unit: e.unit }] : [])],
      rows,
    };
  });
}

/** "01-14 07:15" as "14 Jan 07:15". */
function stampWords(at: string | null): string {
  const m = at === null ? null : /^(\d\d)-(\d\d) (\d\d:\d\d)$/.exec(at);
  return m ? `${Number(m[2])} ${MONTHS[Number(m[1]) - 1]} ${m[3]}` : "—";
}

function loadsTopic(topic: Topic, run: ReportRun): Block[] {
  const e = energyOf(topic);
  const d = (digits: number): number => topic.digits ?? digits;
  return zonesOf(topic, run).map(({ name, zones }): ReportTable => ({
    kind: "table",
    caption: `Heating and cooling, ${name}`,
    head: [
      { text: "Zone", unit: "" },
      { text: "Floor", unit: "m²" },
      { text: "Heating", unit: e.unit },
      { text: "Heating by floor", unit: "kWh/m²" },
      { text: "Cooling", unit: e.unit },
      { text: "Cooling by floor", unit: "kWh/m²" },
      { text: "Largest heating", unit: "W" },
      { text: "heating at", unit: "" },
      { text: "Largest cooling", unit: "W" },
      { text: "cooling at", unit: "" },
    ],
    rows: [
      ...zones.map((z): Cell[] => [
        z.name,
        figure(z.floorArea, d(1)),
        figure(e.of(z.heating), e.digits),
        figure(z.heating / z.floorArea, d(1)),
        figure(e.of(z.cooling), e.digits),
        figure(z.cooling / z.floorArea, d(1)),
        figure(z.peakHeating, d(0)),
        stampWords(z.peakHeatingAt),
        figure(z.peakCooling, d(0)),
        stampWords(z.peakCoolingAt),
      ]),
      totals(name, zones, e, d),
    ],
  }));
}
function totals(name: string, zones: Summary["zones"], e: ReturnType<typeof energyOf>, d: (digits: number) => number): Cell[] {
  const of = (read: (z: Summary["zones"][number]) => number): number => sum(zones.map(read));
  const area = of((z) => z.floorArea);
  return [
    name,
    figure(area, d(1)),
    figure(e.of(of((z) => z.heating)), e.digits),
    figure(of((z) => z.heating) / area, d(1)),
    figure(e.of(of((z) => z.cooling)), e.digits),
    figure(of((z) => z.cooling) / area, d(1)),
    null,
    "",
    null,
    "",
  ];
}

function zonesTopic(topic: Topic, run: ReportRun): Block[] {
  const d = (digits: number): number => topic.digits ?? digits;
  return zonesOf(topic, run).map(({ name, zones }): ReportTable => ({
    kind: "table",
    caption: `Temperatures and hours unmet, ${name}`,
    head: [
      { text: "Zone", unit: "" },
      { text: "Coldest", unit: "°C" },
      { text: "Mean", unit: "°C" },
      { text: "Warmest", unit: "°C" },
      { text: "Unmet, heating", unit: "h" },
      { text: "Unmet, cooling", unit: "h" },
      { text: "Above 80 % humidity", unit: "h" },
    ],
    rows: zones.map((z): Cell[] => [
      z.name,
      figure(z.temperature.min, d(1)),
      figure(z.temperature.mean, d(1)),
      figure(z.temperature.max, d(1)),
      figure(z.unmetHours.heating, d(1)),
      figure(z.unmetHours.cooling, d(1)),
      figure(z.humidHours, d(0)),
    ]),
  }));
}

function comfortTopic(topic: Topic, run: ReportRun): Block[] {
  const d = (digits: number): number => topic.digits ?? digits;
  const blocks = zonesOf(topic, run).map(({ name, zones }): ReportTable => ({
    kind: "table",
    caption: `Comfort while people are there, ${name}`,
    head: [
      { text: "Zone", unit: "" },
      { text: "With people", unit: "h" },
      { text: "Lowest vote", unit: "" },
      { text: "Mean vote", unit: "" },
      { text: "Highest vote", unit: "" },
      { text: "Dissatisfied", unit: "%" },
      { text: "Too cold", unit: "h" },
      { text: "Too warm", unit: "h" },
    ],
    rows: zones.flatMap((z): Cell[][] =>
      z.comfort
        ? [
            [
              z.name,
              figure(z.comfort.hours, d(0)),
              figure(z.comfort.vote.min, d(1)),
              figure(z.comfort.vote.mean, d(1)),
              figure(z.comfort.vote.max, d(1)),
              figure(z.comfort.dissatisfied, d(1)),
              figure(z.comfort.discomfort ? sum(months(topic, z.comfort.discomfort.cold)) : null, d(0)),
              figure(z.comfort.discomfort ? sum(months(topic, z.comfort.discomfort.warm)) : null, d(0)),
            ],
          ]
        : [],
    ),
  }));
  return blocks.every((b) => b.rows.length === 0) ? [{ kind: "remark", text: "No zone of this ever has people in it." }] : blocks;
}

function componentsTopic(topic: Topic, { summary }: ReportRun): Block[] {
  const e = energyOf(topic);
  if (summary.components.length === 0) return [{ kind: "remark", text: "All zones have plain services: there are no systems to tell of." }];
  return [
    {
      kind: "table",
      caption: `Systems and plant over the ${isWholeYear(summary) ? "year" : "run"}`,
      head: [
        { text: "Part", unit: "" },
        { text: "of", unit: "" },
        { text: "Heat given", unit: e.unit },
        { text: "Heat taken out", unit: e.unit },
        { text: "Electricity", unit: e.unit },
        { text: "Fuel", unit: e.unit },
        { text: "In use", unit: "h" },
        { text: "Most heat given", unit: "kW" },
        { text: "Most heat taken out", unit: "kW" },
      ],
      rows: summary.components.map((c): Cell[] => [
        c.name,
        c.of,
        figure(e.of(sum(c.heating)), e.digits),
        figure(e.of(sum(c.cooling)), e.digits),
        figure(e.of(sum(c.power)), e.digits),
        figure(e.of(sum(c.fuel)), e.digits),
        figure(c.hours, 0),
        figure(c.mostHeating / 1000, 1),
        figure(c.mostCooling / 1000, 1),
      ]),
    },
  ];
}

/** Name of a series in words that need no drawing of the building. */
function seriesWords(project: Project, ref: SeriesRef): string {
  const label = quantityOf(project, ref)?.label ?? ref.quantity;
  const name =
    ref.of === "zone"
      ? project.zones[ref.id]?.name
      : ref.of === "group"
        ? project.groups?.[ref.id]?.name
        : ref.of === "component"
          ? describeAddress(project, ref.id.split("/"))
          : null;
  return name ? `${name}, ${label[0].toLowerCase()}${label.slice(1)}` : label;
}

function seriesTopic(topic: Topic, { project, summary, table }: ReportRun): Block[] {
  if (!topic.series?.length) return [{ kind: "remark", text: "This topic names no series yet." }];
  if (!table) return [{ kind: "remark", text: "The hourly series of this run are not at hand; run it with those that this topic names." }];
  const { firstDay, leapDays = [] } = summary.period;
  const days = Math.ceil(table.hours / 24);
  const inMonth = (d: number): boolean => topic.month === undefined || dateInRun(firstDay, leapDays, d)[0] === topic.month + 1;
  const first = Array.from({ length: days }, (_, d) => d).filter(inMonth);
  const [from, to] = first.length === 0 ? [0, 0] : [24 * first[0], Math.min(table.hours, 24 * (first[first.length - 1] + 1))];
  const at = (h: number): string => {
    if (h < 0) return "—";
    const [month, day] = dateInRun(firstDay, leapDays, Math.floor(h / 24));
    return `${day} ${MONTHS[month - 1]} ${String((h % 24) + 1).padStart(2, "0")}:00`;
  };
  const refused: string[] = [];
  const rows = topic.series.flatMap((ref): Cell[][] => {
    const read = readSeries(project, table, ref);
    const name = seriesWords(project, ref);
    if (!read.ok) {
      refused.push(`${name}: ${read.message}`);
      return [];
    }
    const s = statistics(read.values, from, to);
    const digits = topic.digits ?? (read.unit === "W" ? 0 : read.unit === "kg/kg" ? 5 : 1);
    return [
      [
        name,
        read.unit,
        figure(s.mean, digits),
        figure(s.deviation, digits),
        figure(s.least, digits),
        at(s.leastAt),
        figure(s.most, digits),
        at(s.mostAt),
        read.unit === "W" ? figure(s.sum / 1000, 0) : null,
      ],
    ];
  });
  return [
    {
      kind: "table",
      caption: `Hourly means, ${topic.month === undefined ? "the whole run" : MONTHS[topic.month]}`,
      head: ["Series", "Unit", "Mean", "Deviation", "Smallest", "at", "Largest", "at ", "Sum"].map((text) => ({ text, unit: text === "Sum" ? "kWh" : "" })),
      rows,
    },
    ...refused.map((text): Block => ({ kind: "remark", text })),
  ];
}

function assumptionsTopic(topic: Topic, { project }: ReportRun): Block[] {
  const rows = registerOf(project).map((r): Cell[] => {
    const evidence = Object.hasOwn(project.evidence, r.address) ? project.evidence[r.address] : null;
    return [
      r.thing,
      r.what,
      typeof r.value === "number" ? figure(r.value, topic.digits ?? digitsFor(r.value)) : r.value === null ? "none" : String(r.value),
      r.unit === "1" ? "" : r.unit,
      r.taken ?? "typed",
      evidence?.source ?? "",
    ];
  });
  const left = defaultsLeft(project).map((d): Cell[] => [
    d.spec.label,
    typeof d.spec.default === "number"
      ? figure(d.spec.default, topic.digits ?? digitsFor(d.spec.default))
      : d.spec.default === null
        ? "none"
        : String(d.spec.default),
    d.spec.unit === "1" ? "" : d.spec.unit,
    `${d.things.length} ${d.kind}${d.things.length === 1 ? "" : "s"}`,
  ]);
  return [
    {
      kind: "table",
      caption: "What was stated",
      head: ["Of", "Input", "Value", "Unit", "From", "Source"].map((text) => ({ text, unit: "" })),
      rows,
    },
    {
      kind: "table",
      caption: "What stands on a default",
      head: ["Input", "Default", "Unit", "In"].map((text) => ({ text, unit: "" })),
      rows: left,
    },
  ];
}
/** Decimals that show about three significant figures. */
function digitsFor(v: number): number {
  const a = Math.abs(v);
  return a === 0 || a >= 100 ? 0 : a >= 10 ? 1 : a >= 1 ? 2 : a >= 0.01 ? 3 : 5;
}

function warningsTopic(_topic: Topic, { summary }: ReportRun): Block[] {
  const plain = (w: string): string => w.replace(/^[A-Za-z]+\/[^:]*: /, "");
  return summary.warnings.length === 0
    ? [{ kind: "paragraph", text: "Nothing is to be noted of this run." }]
    : summary.warnings.map((w) => ({ kind: "paragraph", text: plain(w) }));
}
