"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { ArrowDown, ArrowUp } from "lucide-react";
import { useMemo, useState } from "react";
import {
  readRule,
  ruleConditions,
  ruleFields,
  ruleHolds,
  ruleQuantities,
  ruleReach,
  ruleThings,
  setChange,
  spaceFields,
  tryRuleOn,
  type Change,
  type InputValue,
  type Project,
  type Rule,
  type RuleTarget,
  type SpaceField,
} from "@arroyo/core";
import { IconButton } from "../../ui/Actions.tsx";
import { Act, Head, OriginMark, originText, Row, SelectInput } from "../../ui/fields.tsx";
import { inputText } from "../../ui/InputRow.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { Conditions } from "./Conditions.tsx";
import { UseHead } from "./UseHead.tsx";

const targets: readonly { readonly value: RuleTarget; readonly label: string }[] = [
  { value: "space", label: "spaces" },
  { value: "zone", label: "zones" },
  { value: "face", label: "faces" },
  { value: "opening", label: "windows and doors" },
  { value: "component", label: "systems and equipment" },
];
const MOST_SHOWN = 60;

/** One rule: what it fills, where, with what; what it would change; its place in the order. */
export function RuleDesk({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const rule = project.rules.find((r) => r.id === id) as Rule;
  const at = (...path: string[]): string[] => ["rules", id, ...path];
  const set = (words: string, field: string, value: unknown): void => void edit(`Rule ${rule.name}: ${words}`, [setChange(project, at(field), value)]);
  const place = project.rules.findIndex((r) => r.id === id);
  const move = (by: -1 | 1): void => {
    const before = by < 0 ? project.rules[place - 1]?.id : project.rules[place + 2]?.id;
    edit(`Rule ${rule.name} ${by < 0 ? "earlier" : "later"}`, [
      { op: "remove", path: at(), old: rule },
      { op: "insert", path: at(), value: rule, ...(before === undefined ? {} : { before }) } as Change,
    ]);
  };
  const aim = (target: RuleTarget): void => {
    const [first] = ruleFields(target);
    const value = target === "face" ? (Object.keys(project.assemblies)[0] ?? "") : target === "opening" ? (Object.keys(project.glazings)[0] ?? "") : rule.value;
    const field = ruleFields(target).find((f) => f.field === rule.field)?.field ?? first.field;
    edit(`Rule ${rule.name}: fills ${target}s`, [
      setChange(project, ["rules", id], { ...rule, target, field, value, conditions: rule.conditions.filter((c) => ruleConditions[target].includes(c.on)) }),
    ]);
  };
  return (
    <Flex direction="column" gap="3">
      <UseHead part="rules" id={id}>
        <chakra.label display="flex" gap="1.5" cursor="pointer">
          <input
            type="checkbox"
            aria-label="The rule acts"
            checked={rule.on}
            onChange={(e) => set(e.target.checked ? "acts" : "is at rest", "on", e.target.checked)}
          />
          acts
        </chakra.label>
        <Text color="ink2">
          {place + 1} of {project.rules.length}; later rules win
        </Text>
        <IconButton label="Earlier" icon={ArrowUp} onClick={() => move(-1)} {...(place === 0 ? { not: "it is the first" } : {})} />
        <IconButton label="Later" icon={ArrowDown} onClick={() => move(1)} {...(place === project.rules.length - 1 ? { not: "it is the last" } : {})} />
      </UseHead>
      <Flex gap="6" align="flex-start">
        <Box flex="0 1 410px">
          <Row label="Fills, of">
            <SelectInput label="Kind of thing" width="190px" value={rule.target} options={targets} onChange={(v) => aim(v as RuleTarget)} />
          </Row>
          <Row label="the input">
            <SelectInput
              label="Input it fills"
              width="220px"
              value={rule.field}
              options={ruleFields(rule.target).map((f) => ({ value: f.field, label: f.label }))}
              onChange={(v) => set("another input", "field", v)}
            />
          </Row>
          <Conditions
            name={`Rule ${rule.name}`}
            path={["rules", rule.id, "conditions"]}
            target={rule.target}
            conditions={rule.conditions}
            none={`it acts on every ${rule.target}`}
          />
          <Head>With</Head>
          <Value rule={rule} />
        </Box>
        {ruleThings(project, rule).length > 0 && <Quantities rule={rule} />}
      </Flex>
      <Preview rule={rule} />
    </Flex>
  );
}

/** The expression, or what is chosen, with what is wrong with it under its place. */
function Value({ rule }: { rule: Rule }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const [draft, setDraft] = useState<string | null>(null);
  const spec = ruleFields(rule.target).find((f) => f.field === rule.field)?.spec ?? null;
  const set = (value: string): void => void edit(`Rule ${rule.name}: ${value}`.slice(0, 190), [setChange(project, ["rules", rule.id, "value"], value)]);
  const named = (records: Record<string, { name: string }>) => Object.entries(records).map(([value, x]) => ({ value, label: x.name }));
  const options = !spec
    ? rule.target === "face"
      ? named(project.assemblies)
      : [...named(project.glazings), ...named(project.assemblies)]
    : spec.kind === "choice"
      ? (spec.choices ?? []).map((c) => ({ value: c, label: c }))
      : spec.kind === "schedule"
        ? [{ value: "none", label: spec.nullMeans ?? "none" }, ...named(project.schedules)]
        : spec.kind === "devices"
          ? [{ value: "none", label: spec.nullMeans ?? "none" }, ...named(project.deviceLists)]
          : null;
  const tried = { ...rule, value: draft ?? rule.value };
  const read = readRule(project, tried);
  const fault = read.ok ? null : read.fault;
  if (options)
    return (
      <>
        <SelectInput
          label="Value of the rule"
          align="left"
          width="260px"
          value={options.some((o) => o.value === rule.value) ? rule.value : ""}
          options={[...(options.some((o) => o.value === rule.value) ? [] : [{ value: "", label: "choose …" }]), ...options]}
          onChange={(v) => v !== "" && set(v)}
        />
        {fault && (
          <Text role="alert" color="clay" fontSize="12px">
            {fault.message}
          </Text>
        )}
      </>
    );
  return (
    <>
      <chakra.textarea
        aria-label="Value of the rule"
        aria-invalid={fault !== null}
        rows={2}
        w="100%"
        p="1.5"
        fontFamily="mono"
        fontSize="12.5px"
        border="1px solid"
        borderColor={fault ? "clay" : "line"}
        borderRadius="small"
        background="sheet"
        value={draft ?? rule.value}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={() => {
          if (draft !== null && draft !== rule.value) set(draft);
          setDraft(null);
        }}
        onKeyDown={(e) => {
          if (e.key === "Enter" && !e.shiftKey) {
            e.preventDefault();
            e.currentTarget.blur();
          }
          if (e.key === "Escape") setDraft(null);
        }}
      />
      {fault ? (
        <Text role="alert" color="clay" fontSize="12px">
          {fault.message} <i>{tried.value.slice(fault.at, fault.at + 12) && `At “${tried.value.slice(fault.at, fault.at + 12)}”.`}</i>
        </Text>
      ) : (
        <Text color="ink2" fontSize="12px">
          {spec?.label}
          {spec?.nullMeans ? `; “none” makes it ${spec.nullMeans}` : ""}. Units are part of the numbers: 3 L/s * people + 0.35 L/s/m² * area.
        </Text>
      )}
    </>
  );
}

/** What an expression may use, with the figures of one space to try it on. */
function Quantities({ rule }: { rule: Rule }) {
  const project = useStore((s) => s.project) as Project;
  const units = useUnits();
  const things = ruleThings(project, rule);
  const holds = ruleHolds(project, rule);
  const [chosen, setChosen] = useState<string | null>(null);
  const on = things.find((t) => t.id === chosen)?.id ?? (things.find((t) => holds(t.id)) ?? things[0])?.id;
  if (on === undefined) return null;
  const tried = tryRuleOn(project, rule, on);
  const spec = ruleFields(rule.target).find((f) => f.field === rule.field)?.spec;
  const most = ruleQuantities(project, rule.target).slice(0, rule.target === "zone" ? 3 : 5);
  const shown = [...most, ...ruleQuantities(project, rule.target).filter((q) => tried.used.has(q.name) && !most.some((m) => m.name === q.name))];
  return (
    <Box flex="1 1 280px" data-testid="rule-try">
      <Head mt="0">Tried on</Head>
      <SelectInput label="Tried on" align="left" width="220px" value={on} options={things.map((t) => ({ value: t.id, label: t.name }))} onChange={setChosen} />
      {shown.map((q) => {
        const v = tried.values.get(q.name);
        return (
          <Row key={q.name} label={<code>{q.name}</code>} title={q.words}>
            <Text color={tried.used.has(q.name) ? "ink" : "ink2"}>
              {v === undefined || Number.isNaN(v) ? "none" : q.unit === "1" ? units.text(v, "1") : units.words(v, q.unit)}
            </Text>
          </Row>
        );
      })}
      <Row label="gives">
        <b data-testid="rule-gives">{tried.result === undefined ? "—" : spec ? inputText(spec, tried.result, project, units) : String(tried.result)}</b>
      </Row>
      <Text color="ink2" fontSize="12px">
        {holds(on) ? "Its conditions hold here." : "Its conditions do not hold here, so it does nothing here."}
      </Text>
    </Box>
  );
}

/** What the rule would change, or changes, thing by thing. */
function Preview({ rule }: { rule: Rule }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const rows = useMemo(() => ruleReach(project, rule), [project, rule]);
  const spec = ruleFields(rule.target).find((f) => f.field === rule.field)?.spec ?? null;
  if (rows === null) return <Constructions rule={rule} />;
  const acts = rows.filter((r) => r.ruled);
  const words = (v: InputValue | undefined): string => (v === undefined || !spec ? "—" : inputText(spec, v, project, units));
  return (
    <Box>
      <Flex align="baseline" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          {rule.on ? "What it gives" : "What it would give"}
        </Text>
        <Text color="ink2" data-testid="rule-reach">
          {acts.length} of {ruleThings(project, rule).length} {rule.target}s
          {rows.length > acts.length ? `; ${rows.length - acts.length} more keep what is typed or what a later rule gives` : ""}
        </Text>
        {!rule.on && <Act onClick={() => edit(`Rule ${rule.name} acts`, [setChange(project, ["rules", rule.id, "on"], true)])}>Apply to all of them</Act>}
      </Flex>
      <Grid
        label="What the rule gives"
        head={[
          { text: rule.target === "space" ? "Space" : rule.target === "zone" ? "Zone" : "Component", left: true },
          { text: "Without it" },
          { text: "With it" },
          { text: "", left: true },
        ]}
        rows={rows.slice(0, MOST_SHOWN).map((r) => ({
          key: r.id,
          cells: [
            r.name,
            <span key="b">
              <OriginMark origin={r.before.origin} /> {words(r.before.value)}
            </span>,
            <b key="a">{words(r.after.value)}</b>,
            r.ruled ? "" : originText(r.after.origin).words,
          ],
        }))}
      />
      {rows.length > MOST_SHOWN && <Text color="ink2">and {rows.length - MOST_SHOWN} more</Text>}
      {rows.length === 0 && <Text color="ink2">Its conditions hold nowhere.</Text>}
    </Box>
  );
}

/** Faces or openings a rule reaches are seen in the 3D view by assembly. */
function Constructions({ rule }: { rule: Rule }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  return (
    <Flex gap="3">
      <Text color="ink2">
        {rule.on ? "It gives" : "It would give"} {project.assemblies[rule.value]?.name ?? project.glazings[rule.value]?.name ?? "nothing"} to the{" "}
        {rule.target === "face" ? "faces" : "windows and doors"} where its conditions hold and nothing is chosen by hand; Form shows them by assembly.
      </Text>
      {!rule.on && <Act onClick={() => edit(`Rule ${rule.name} acts`, [setChange(project, ["rules", rule.id, "on"], true)])}>Apply to all of them</Act>}
    </Flex>
  );
}

export const ruleField = (rule: Rule): string =>
  rule.target === "space" && rule.field in spaceFields
    ? spaceFields[rule.field as SpaceField].label
    : (ruleFields(rule.target).find((f) => f.field === rule.field)?.label ?? rule.field);
