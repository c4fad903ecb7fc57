"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { Trash2 } from "lucide-react";
import { useMemo, useState } from "react";
import {
  axisLevels,
  axisStage,
  axisValue,
  freeId,
  levelText,
  studyBase,
  valueName,
  valuesBetween,
  type AxisValue,
  type Project,
  type Study,
  type StudyAxis,
  type StudyLevel,
} from "@arroyo/core";
import { IconButton } from "../../ui/Actions.tsx";
import { Act, NumberInput, Quantity, SelectInput, TextInput } from "../../ui/fields.tsx";
import { useUnits } from "../../ui/units.ts";
import { stageName } from "../stages.ts";

interface Props {
  readonly document: Project;
  readonly study: Study;
  readonly axis: StudyAxis;
  /** Sentences about it. */
  readonly faults: readonly string[];
  readonly change: (axis: StudyAxis, words: string) => void;
  readonly remove: () => void;
}

/** One axis: its levels typed, by range or chosen, what each costs, and what it goes with. */
export function AxisRows({ document, study, axis, faults, change, remove }: Props) {
  const units = useUnits();
  const base = useMemo(() => studyBase(document, study), [document, study]);
  const kind = useMemo(() => axisValue(document, base, axis), [document, base, axis]);
  const put = (levels: readonly StudyLevel[], words: string): void => change({ ...axis, levels: [...levels] }, words);
  const revalue = (level: StudyLevel, value: StudyLevel["value"]): null => {
    const name = valueName(base, axis, value);
    const { name: _was, ...rest } = level;
    put(
      axis.levels.map((l) => (l === level ? { ...rest, value, ...(name === undefined ? {} : { name }) } : l)),
      `${axis.name}: a level`,
    );
    return null;
  };
  return (
    <Box as="section" aria-label={axis.name} borderTop="1px solid" borderColor="line" py="1.5">
      <Flex align="baseline" gap="2">
        <TextInput
          value={axis.name}
          label={`Name of ${axis.name}`}
          align="left"
          width="300px"
          onCommit={(name) => {
            change({ ...axis, name }, `Axis ${name}`);
            return null;
          }}
        />
        <Text color="ink2" fontSize="12px">
          {stageName(axisStage(axis))}
          {(axis.addresses?.length ?? 0) > 1 && ` · in ${axis.addresses?.length} places`}
        </Text>
        <Flex ml="auto" align="center" gap="2">
          {kind.kind === "number" && <Range axis={axis} kind={kind} base={base} change={change} sampled={study.method.kind !== "grid"} />}
          <IconButton label={`Take out ${axis.name}`} icon={Trash2} onClick={remove} />
        </Flex>
      </Flex>
      {faults.map((f) => (
        <Text key={f} color="clay" fontSize="12.5px" role="alert">
          {units.turned(f)}
        </Text>
      ))}
      {axis.between && study.method.kind !== "grid" ? (
        <Text color="ink2" fontSize="12.5px">
          Anywhere from {units.turned(valueName(base, axis, axis.between[0]) ?? String(axis.between[0]))} to{" "}
          {units.turned(valueName(base, axis, axis.between[1]) ?? String(axis.between[1]))}
        </Text>
      ) : (
        <Box pl="3">
          {axis.levels.map((level, i) => (
            <Flex key={level.id} align="center" gap="3" minH="26px">
              <Box w="270px">
                <LevelValue level={level} axis={axis} kind={kind} put={(v) => revalue(level, v)} n={i + 1} />
              </Box>
              <Flex align="center" gap="1" color="ink2" fontSize="12px">
                costs
                <NumberInput
                  label={`${axis.name}, level ${i + 1}: investment`}
                  value={level.investment ?? null}
                  width="74px"
                  onCommit={(investment) => {
                    put(
                      axis.levels.map((l) => (l === level ? { ...l, investment } : l)),
                      `${axis.name}: what a level costs`,
                    );
                    return null;
                  }}
                />
                {document.prices.currency}
              </Flex>
              <Condition
                study={study}
                axis={axis}
                level={level}
                n={i + 1}
                put={(l) =>
                  put(
                    axis.levels.map((x) => (x === level ? l : x)),
                    `${axis.name}: what a level goes with`,
                  )
                }
              />
              {axis.levels.length > 1 && (
                <chakra.button
                  type="button"
                  aria-label={`${axis.name}: take out level ${i + 1}`}
                  color="ink2"
                  px="1"
                  cursor="pointer"
                  onClick={() =>
                    put(
                      axis.levels.filter((l) => l !== level),
                      `${axis.name}: without a level`,
                    )
                  }
                >
                  ×
                </chakra.button>
              )}
            </Flex>
          ))}
          <AddLevel axis={axis} kind={kind} base={base} put={put} />
        </Box>
      )}
    </Box>
  );
}

function LevelValue({ level, axis, kind, put, n }: { level: StudyLevel; axis: StudyAxis; kind: AxisValue; put: (v: StudyLevel["value"]) => null; n: number }) {
  const units = useUnits();
  const label = `${axis.name}, level ${n}`;
  if (kind.kind === "number" && typeof level.value === "number")
    return (
      <Flex align="center" gap="1">
        <Quantity label={label} value={level.value} unit={kind.unit} shown={kind.shown} electric={kind.electric} onCommit={put} />
      </Flex>
    );
  if (kind.kind === "choice" && typeof level.value === "string")
    return <SelectInput label={label} align="left" width="260px" value={level.value} options={kind.options} onChange={put} />;
  if (kind.kind === "text" && typeof level.value === "string")
    return <TextInput label={label} align="left" width="260px" value={level.value} onCommit={(v) => put(v)} />;
  return <Text>{units.turned(levelText(axis, level))}</Text>;
}

/** From a value to another in so many levels, or anywhere between. */
function Range({
  axis,
  kind,
  base,
  change,
  sampled,
}: {
  axis: StudyAxis;
  kind: Extract<AxisValue, { kind: "number" }>;
  base: Project;
  change: Props["change"];
  sampled: boolean;
}) {
  const values = axis.levels.flatMap((l) => (typeof l.value === "number" ? [l.value] : []));
  const [least, most] = axis.between ?? [Math.min(...values), Math.max(...values)];
  const set = (from: number, to: number, count: number): string | null => {
    if (!(from < to)) return "The first value must lie below the last one.";
    if (count < 2 || count > 200) return "So many levels cannot be made: 2 to 200.";
    // a level that leaves the base as it is stays
    const levels = [...axis.levels.filter((l) => typeof l.value !== "number"), ...axisLevels(base, axis, valuesBetween(from, to, Math.round(count)))];
    change({ ...axis, levels, ...(axis.between ? { between: [from, to] } : {}) }, `${axis.name}: a range`);
    return null;
  };
  const n = Math.max(2, values.length);
  const quantity = (label: string, value: number, put: (v: number) => string | null) => (
    <Quantity
      label={label}
      value={value}
      unit={kind.unit}
      shown={kind.shown}
      electric={kind.electric}
      width="60px"
      bare={label.endsWith("from")}
      onCommit={put}
    />
  );
  return (
    <Flex align="center" gap="1" fontSize="12.5px" color="ink2">
      {quantity(`${axis.name}: from`, least, (v) => set(v, most, n))}
      to
      {quantity(`${axis.name}: to`, most, (v) => set(least, v, n))}
      in
      <NumberInput label={`${axis.name}: levels`} value={values.length} width="34px" digits={0} onCommit={(v) => set(least, most, v)} />
      {sampled && (
        <chakra.label display="flex" gap="1" alignItems="center" color="ink">
          <input
            type="checkbox"
            checked={axis.between !== undefined}
            onChange={(e) => {
              const { between: _was, ...rest } = axis;
              change(e.target.checked ? { ...rest, between: [least, most] } : rest, `${axis.name}: ${e.target.checked ? "anywhere between" : "at its levels"}`);
            }}
          />
          anywhere between
        </chakra.label>
      )}
    </Flex>
  );
}

/** What a level goes with: levels of one other axis, put in and taken out one by one. */
function Condition({ study, axis, level, n, put }: { study: Study; axis: StudyAxis; level: StudyLevel; n: number; put: (level: StudyLevel) => void }) {
  const units = useUnits();
  const others = study.axes.filter((a) => a.id !== axis.id && !(a.between && study.method.kind !== "grid"));
  if (others.length === 0) return null;
  const { only } = level;
  const at = only && study.axes.find((a) => a.id === only.axis);
  const words = at
    ? `only with ${at.name}: ${at.levels
        .filter((l) => only.levels.includes(l.id))
        .map((l) => levelText(at, l))
        .join(", ")}`
    : "with all";
  return (
    <SelectInput
      label={`${axis.name}, level ${n}: goes with`}
      align="left"
      width="230px"
      value="now"
      options={[
        { value: "now", label: units.turned(words) },
        ...(only ? [{ value: "all", label: "with all" }] : []),
        ...others.flatMap((a) =>
          a.levels.map((l) => ({
            value: `${a.id} ${l.id}`,
            label: units.turned(`${only?.axis === a.id && only.levels.includes(l.id) ? "not " : ""}with ${a.name}: ${levelText(a, l)}`),
          })),
        ),
      ]}
      onChange={(v) => {
        const { only: _was, ...rest } = level;
        if (v === "all") return put(rest);
        const [axisId, levelId] = v.split(" ");
        if (levelId === undefined) return;
        const before = only?.axis === axisId ? only.levels : [];
        const levels = before.includes(levelId) ? before.filter((l) => l !== levelId) : [...before, levelId];
        put(levels.length === 0 ? rest : { ...rest, only: { axis: axisId, levels } });
      }}
    />
  );
}

function AddLevel({ axis, kind, base, put }: { axis: StudyAxis; kind: AxisValue; base: Project; put: (levels: readonly StudyLevel[], words: string) => void }) {
  const [typing, setTyping] = useState(false);
  if (kind.kind === "changes") return null;
  const add = (value: StudyLevel["value"]): string | null => {
    if (axis.levels.some((l) => l.value === value)) return "There is such a level already.";
    put([...axis.levels, ...axisLevels(base, axis, [value])], `${axis.name}: another level`);
    setTyping(false);
    return null;
  };
  const [last] = axis.levels.flatMap((l) => (typeof l.value === "number" ? [l.value] : [])).slice(-1);
  // a level without a value changes nothing
  const asBase = axis.levels.every((l) => l.value !== undefined) && (
    <Act
      title="A level that leaves everything as the base has it"
      onClick={() =>
        put([...axis.levels, { id: freeId(Object.fromEntries(axis.levels.map((l) => [l.id, l])), "base"), name: "as the base" }], `${axis.name}: as the base`)
      }
    >
      As the base
    </Act>
  );
  if (kind.kind === "choice")
    return (
      <SelectInput
        label={`Another level of ${axis.name}`}
        align="left"
        width="150px"
        value=""
        options={[{ value: "", label: "Another level …" }, ...kind.options.filter((o) => !axis.levels.some((l) => l.value === o.value))]}
        onChange={(v) => v !== "" && add(v)}
      />
    );
  if (!typing)
    return (
      <Flex gap="3">
        <Act onClick={() => setTyping(true)}>Another level</Act>
        {asBase}
      </Flex>
    );
  return kind.kind === "number" ? (
    <Flex align="center" gap="1">
      <Quantity label={`Another level of ${axis.name}`} value={last ?? null} unit={kind.unit} shown={kind.shown} electric={kind.electric} onCommit={add} />
    </Flex>
  ) : (
    <TextInput label={`Another level of ${axis.name}`} align="left" width="260px" value="" onCommit={(v) => add(v)} />
  );
}
