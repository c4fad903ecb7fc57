"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { glazingPhysics, glazingRating, readAngle, setChange, shippedPanes, type Glazing, type GlazingPhysics, type Project } from "@arroyo/core";
import { ChartFrame } from "../../ui/ChartFrame.tsx";
import { axisStyle, tooltipStyle } from "../../ui/chartStyle.ts";
import { Act, firstMessage, Head, NumberInput, Quantity, Row, SelectInput, Unit } from "../../ui/fields.tsx";
import { Figures } from "../../ui/Figures.tsx";
import { figure } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { VaryThis } from "../../ui/VaryThis.tsx";
import { useUnits } from "../../ui/units.ts";
import { GlassCompared } from "./GlassCompared.tsx";
import { ThingHead } from "./ThingHead.tsx";
import { useStore } from "../store.ts";
import { Told } from "../../ui/Told.tsx";

type Panes = Extract<Glazing, { kind: "panes" }>;
type Pane = Panes["panes"][number];

/** A louvre blind to begin from: typical, unverified. */
const BLIND: NonNullable<Glazing["blind"]> = {
  position: "outside",
  solarTransmittance: 0.1,
  solarReflectance: 0.5,
  visibleTransmittance: 0.08,
  control: { kind: "irradiance", above: 250 },
};

/** One glazing: its rating, what it is made of, its blind, and how it answers the angle of the sun. */
export function GlazingDesk({ id, area }: { id: string; area: number }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const glazing = project.glazings[id];
  const set = (label: string, key: readonly string[], value: unknown, times = 1): string | null =>
    firstMessage(edit(`${glazing.name}: ${label}`, [setChange(project, ["glazings", id, ...key], value)]), times);
  let physics: GlazingPhysics | null = null;
  let refusal: string | null = null;
  try {
    physics = glazingPhysics(glazing);
  } catch (error) {
    refusal = error instanceof Error ? error.message : String(error);
  }
  const rating = glazing.kind === "rated" || physics ? glazingRating(glazing) : null;
  const figures: [string, string, string][] = rating
    ? [
        ["U, glass and frame", units.text(rating.u, "W/m²K", 2), units.unit("W/m²K")],
        ...(glazing.kind === "panes" ? ([["U, glass", units.text(rating.glassU, "W/m²K", 2), units.unit("W/m²K")]] as [string, string, string][]) : []),
        ["g", figure(rating.g, 2), ""],
        ["Visible", figure(rating.visibleTransmittance, 2), ""],
        ["Let through, normal", figure(physics ? readAngle(physics.up.transmittance, 1) : null, 2), ""],
        ["Let through, diffuse", figure(physics?.up.diffuseTransmittance, 2), ""],
        ...(physics?.down ? ([["Diffuse, blind down", figure(physics.down.diffuseTransmittance, 3), ""]] as [string, string, string][]) : []),
        ["In the model", units.text(area, "m²", 0), units.unit("m²")],
      ]
    : [];
  const toPanes = (): void => {
    const { name, frameShare, ratedFilms, blind } = glazing;
    const panes: Panes = {
      kind: "panes",
      name,
      panes: [
        { id: "p1", ...shippedPanes.clear_4 },
        { id: "p2", ...shippedPanes.soft_out_4 },
      ],
      gaps: [{ id: "g1", fill: "argon", width: 0.016 }],
      frameShare,
      frame: { u: 1.6, absorptance: 0.5 },
      edge: 0.05,
      ratedFilms,
      blind,
    };
    edit(`${name}: by panes`, [setChange(project, ["glazings", id], panes)]);
  };
  const toRated = (): void => {
    if (!rating) return;
    const { name, frameShare, ratedFilms, blind } = glazing;
    const rated: Glazing = { kind: "rated", name, u: rating.u, g: rating.g, visibleTransmittance: rating.visibleTransmittance, frameShare, ratedFilms, blind };
    edit(`${name}: by its rating`, [setChange(project, ["glazings", id], rated)]);
  };
  return (
    <>
      <ThingHead part="glazings" id={id}>
        <Text color="ink2">{glazing.kind === "rated" ? "by its rating" : `by panes, ${glazing.panes.length}`}</Text>
        <Flex ml="auto">
          <Act onClick={glazing.kind === "rated" ? toPanes : toRated}>{glazing.kind === "rated" ? "Describe it by panes" : "Describe it by its rating"}</Act>
        </Flex>
      </ThingHead>
      {refusal && (
        <Text role="alert" color="clay">
          <Told text={refusal} />.
        </Text>
      )}
      <Box mb="2">
        <Figures figures={figures} />
      </Box>
      {glazing.kind === "panes" && <PaneTable id={id} glazing={glazing} project={project} set={set} />}
      <Flex gap="8" align="flex-start" mt="3">
        <Box w="250px" flexShrink={0}>
          {glazing.kind === "rated" ? <Rated id={id} glazing={glazing} /> : <FrameRows glazing={glazing} set={set} />}
          <Blind glazing={glazing} project={project} set={set} />
        </Box>
        <Box flex="1" minW="0">
          {physics && <Angles physics={physics} />}
        </Box>
      </Flex>
      <GlassCompared key={id} id={id} />
    </>
  );
}

type Set = (label: string, key: readonly string[], value: unknown, times?: number) => string | null;

function Rated({ id, glazing }: { id: string; glazing: Extract<Glazing, { kind: "rated" }> }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const rows = [
    ["u", "U with frame", "W/m²K", "W/m²K", "U of glass and frame with standard films."],
    ["g", "g of the glass", "1", "1", "Share of the sun that comes in, let through and given off inside, at normal incidence."],
    ["visibleTransmittance", "Visible", "1", "1", "Share of daylight let through."],
    ["frameShare", "Frame share", "1", "%", "Share of the opening taken by the frame."],
  ] as const;
  return (
    <>
      <Head>Rating</Head>
      {rows.map(([key, label, unit, shown, help]) => (
        <Row key={key} label={label} title={help} actions={<VaryThis addresses={[`glazings/${id}/${key}`]} label={label} />}>
          <Quantity
            label={`${label} of ${glazing.name}`}
            value={glazing[key]}
            unit={unit}
            shown={shown}
            digits={shown === "%" ? 0 : 2}
            help={help}
            onCommit={(v) => edit(`${glazing.name}: ${label} ${Number(v.toPrecision(4))}`, [setChange(project, ["glazings", id, key], v)])}
          />
        </Row>
      ))}
    </>
  );
}

function FrameRows({ glazing, set }: { glazing: Panes; set: Set }) {
  return (
    <>
      <Head>Frame and edge</Head>
      <Row label="Frame share">
        <NumberInput
          label={`Frame share of ${glazing.name}`}
          value={glazing.frameShare * 100}
          digits={0}
          onCommit={(v) => set(`frame ${v} %`, ["frameShare"], v / 100, 100)}
        />
        <Unit>%</Unit>
      </Row>
      <Row label="U of the frame">
        <Quantity
          label={`Frame U of ${glazing.name}`}
          value={glazing.frame.u}
          unit="W/m²K"
          digits={2}
          onCommit={(v) => set(`frame U ${v}`, ["frame", "u"], v)}
        />
      </Row>
      <Row label="Absorbs sun">
        <NumberInput
          label={`Frame absorptance of ${glazing.name}`}
          value={glazing.frame.absorptance}
          digits={2}
          onCommit={(v) => set(`frame absorptance ${v}`, ["frame", "absorptance"], v)}
        />
        <Unit>share</Unit>
      </Row>
      <Row label="Edge of the glass">
        <Quantity
          label={`Edge of ${glazing.name}`}
          value={glazing.edge}
          unit="W/m·K"
          shown="W/K·m"
          digits={3}
          onCommit={(v) => set(`edge ${v}`, ["edge"], v)}
        />
      </Row>
    </>
  );
}

function Blind({ glazing, project, set }: { glazing: Glazing; project: Project; set: Set }) {
  const { blind } = glazing;
  const schedules = Object.entries(project.schedules);
  const control = (kind: string): void => {
    const next =
      kind === "irradiance"
        ? { kind, above: 250 }
        : kind === "temperature"
          ? { kind, above: 24 }
          : kind === "schedule"
            ? { kind, schedule: schedules[0]?.[0] ?? "" }
            : { kind: "always" };
    set(`blind by ${kind}`, ["blind", "control"], next);
  };
  return (
    <>
      <Head mt="4">Blind</Head>
      <Row label="Position">
        <SelectInput
          label={`Blind of ${glazing.name}`}
          value={blind?.position ?? ""}
          options={[
            { value: "", label: "none" },
            { value: "outside", label: "outside" },
            { value: "inside", label: "inside" },
          ]}
          onChange={(v) => set(v === "" ? "no blind" : `blind ${v}`, ["blind"], v === "" ? null : { ...(blind ?? BLIND), position: v })}
        />
      </Row>
      {blind && (
        <>
          {(
            [
              ["solarTransmittance", "Lets through sun"],
              ["solarReflectance", "Reflects sun"],
              ["visibleTransmittance", "Lets through light"],
            ] as const
          ).map(([key, label]) => (
            <Row key={key} label={label}>
              <NumberInput label={`${label}, blind of ${glazing.name}`} value={blind[key]} digits={2} onCommit={(v) => set(`blind ${v}`, ["blind", key], v)} />
              <Unit>share</Unit>
            </Row>
          ))}
          <Row label="Lowered by">
            <SelectInput
              label={`Control of the blind of ${glazing.name}`}
              value={blind.control.kind}
              options={[
                { value: "irradiance", label: "sun on it" },
                { value: "temperature", label: "air temperature" },
                { value: "schedule", label: "schedule" },
                { value: "always", label: "always down" },
              ]}
              onChange={control}
            />
          </Row>
          {"above" in blind.control && (
            <Row label="Above">
              <Quantity
                label={`Limit of the blind of ${glazing.name}`}
                value={blind.control.above}
                unit={blind.control.kind === "irradiance" ? "W/m²" : "°C"}
                digits={0}
                onCommit={(v) => set(`blind above ${v}`, ["blind", "control", "above"], v)}
              />
            </Row>
          )}
          {blind.control.kind === "schedule" && (
            <Row label="Schedule">
              <SelectInput
                label={`Schedule of the blind of ${glazing.name}`}
                value={blind.control.schedule}
                options={schedules.map(([s, x]) => ({ value: s, label: x.name }))}
                onChange={(v) => set("blind schedule", ["blind", "control", "schedule"], v)}
              />
            </Row>
          )}
        </>
      )}
    </>
  );
}

/** Shares let through, absorbed and reflected by the angle of the sun. */
function Angles({ physics }: { physics: GlazingPhysics }) {
  const rows = Array.from({ length: 19 }, (_, i) => {
    const angle = 5 * i;
    const c = Math.cos((angle * Math.PI) / 180);
    const through = readAngle(physics.up.transmittance, Math.max(0, c));
    const absorbed = physics.up.absorptance.reduce((s, a) => s + readAngle(a, Math.max(0, c)), 0);
    return {
      angle,
      through,
      absorbed,
      reflected: Math.max(0, 1 - through - absorbed),
      ...(physics.down ? { down: readAngle(physics.down.transmittance, Math.max(0, c)) } : {}),
    };
  });
  const lines = [
    { key: "through", label: "let through", colour: "var(--chakra-colors-water)" },
    { key: "absorbed", label: "absorbed", colour: "var(--chakra-colors-clay)" },
    { key: "reflected", label: "reflected", colour: "var(--chakra-colors-ink2)" },
    ...(physics.down ? [{ key: "down", label: "let through, blind down", colour: "#8C9A5B" }] : []),
  ];
  const csv = (): string =>
    [["angle (°)", ...lines.map((l) => l.label)].join(","), ...rows.map((r) => [r.angle, ...lines.map((l) => r[l.key as keyof typeof r])].join(","))].join(
      "\n",
    );
  return (
    <ChartFrame title="By the angle of the sun" unit="share of beam" legend={lines} csv={csv}>
      <ResponsiveContainer width="100%" height={230}>
        <LineChart data={rows} margin={{ top: 6, right: 10, left: -18, bottom: 0 }}>
          <CartesianGrid vertical={false} stroke="var(--chakra-colors-line)" />
          <XAxis dataKey="angle" type="number" domain={[0, 90]} ticks={[0, 15, 30, 45, 60, 75, 90]} unit="°" {...axisStyle} />
          <YAxis domain={[0, 1]} {...axisStyle} />
          <Tooltip formatter={(v, name) => [figure(Number(v), 3), String(name)]} labelFormatter={(a) => `${String(a)}°`} contentStyle={tooltipStyle} />
          {lines.map((l) => (
            <Line key={l.key} dataKey={l.key} name={l.label} stroke={l.colour} strokeWidth={2} dot={false} isAnimationActive={false} />
          ))}
        </LineChart>
      </ResponsiveContainer>
    </ChartFrame>
  );
}

const paneColumns: readonly { readonly key: keyof Pane; readonly label: string; readonly unit?: string; readonly factor: number; readonly digits: number }[] = [
  { key: "thickness", label: "Thick", unit: "mm", factor: 1000, digits: 1 },
  { key: "solarTransmittance", label: "Sun through", factor: 1, digits: 2 },
  { key: "solarReflectanceOut", label: "Reflects out", factor: 1, digits: 2 },
  { key: "solarReflectanceIn", label: "Reflects in", factor: 1, digits: 2 },
  { key: "visibleTransmittance", label: "Light through", factor: 1, digits: 2 },
  { key: "emissivityOut", label: "Emits out", factor: 1, digits: 2 },
  { key: "emissivityIn", label: "Emits in", factor: 1, digits: 2 },
];

/** Panes and gaps from outside to inside. */
function PaneTable({ id, glazing, project, set }: { id: string; glazing: Panes; project: Project; set: Set }) {
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const add = (): void => {
    const n = glazing.panes.length + 1;
    edit(`${glazing.name}: ${n} panes`, [
      setChange(project, ["glazings", id], {
        ...glazing,
        panes: [...glazing.panes, { id: `p${n}_${glazing.panes.length}`, ...shippedPanes.clear_4 }],
        gaps: [...glazing.gaps, { id: `g${n - 1}_${glazing.gaps.length}`, fill: "argon", width: 0.014 }],
      }),
    ]);
  };
  const drop = (): void =>
    void edit(`${glazing.name}: ${glazing.panes.length - 1} panes`, [
      setChange(project, ["glazings", id], { ...glazing, panes: glazing.panes.slice(0, -1), gaps: glazing.gaps.slice(0, -1) }),
    ]);
  return (
    <Box>
      <Flex align="baseline" gap="4">
        <Head>Panes and gaps, outside first</Head>
        {glazing.panes.length < 3 && <Act onClick={add}>Add a pane inside</Act>}
        {glazing.panes.length > 1 && <Act onClick={drop}>Take the innermost out</Act>}
      </Flex>
      <Grid
        label="Panes"
        head={[
          { text: "Pane", left: true },
          ...paneColumns.map((c) => ({ text: c.label, ...(c.unit ? { unit: units.unit(c.unit) } : {}) })),
          { text: "Gap behind it", left: true },
        ]}
        rows={glazing.panes.map((p, i) => {
          const gap = glazing.gaps[i];
          return {
            key: p.id,
            cells: [
              <Flex key="n" align="center" gap="1" whiteSpace="nowrap">
                <span>{p.name}</span>
                <SelectInput
                  label={`Another pane in place of pane ${i + 1}`}
                  width="22px"
                  value=""
                  options={[{ value: "", label: "…" }, ...Object.entries(shippedPanes).map(([k, x]) => ({ value: k, label: x.name }))]}
                  onChange={(v) =>
                    v !== "" &&
                    edit(`${glazing.name}: ${shippedPanes[v].name}`, [setChange(project, ["glazings", id, "panes", p.id], { id: p.id, ...shippedPanes[v] })])
                  }
                />
              </Flex>,
              ...paneColumns.map((c) =>
                c.key === "thickness" ? (
                  <Quantity
                    key={c.key}
                    bare
                    label={`${c.label} of pane ${i + 1}`}
                    width="40px"
                    value={p.thickness}
                    unit="m"
                    shown="mm"
                    digits={1}
                    onCommit={(v) => edit(`${glazing.name}: pane ${i + 1}`, [setChange(project, ["glazings", id, "panes", p.id, "thickness"], v)])}
                  />
                ) : (
                  <NumberInput
                    key={c.key}
                    label={`${c.label} of pane ${i + 1}`}
                    width="40px"
                    value={(p[c.key] as number) * c.factor}
                    digits={c.digits}
                    onCommit={(v) => set(`${c.label} ${v}`, ["panes", p.id, c.key], v / c.factor, c.factor)}
                  />
                ),
              ),
              gap ? (
                <Flex key="gap" gap="1" align="center">
                  <Quantity
                    label={`Width of gap ${i + 1}`}
                    width="34px"
                    value={gap.width}
                    unit="m"
                    shown="mm"
                    digits={0}
                    onCommit={(v) => edit(`${glazing.name}: gap ${i + 1}`, [setChange(project, ["glazings", id, "gaps", gap.id, "width"], v)])}
                  />
                  <SelectInput
                    label={`Fill of gap ${i + 1}`}
                    width="68px"
                    value={gap.fill}
                    options={["air", "argon", "krypton"].map((f) => ({ value: f, label: f }))}
                    onChange={(v) => set(v, ["gaps", gap.id, "fill"], v)}
                  />
                </Flex>
              ) : (
                "room"
              ),
            ],
          };
        })}
      />
    </Box>
  );
}
