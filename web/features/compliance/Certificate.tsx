"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useSearchParams } from "next/navigation";
import { useEffect, useState, type ReactNode } from "react";
import {
  glazingRating,
  assemblyU,
  checkProject,
  defaultsLeft,
  effective,
  effectiveServices,
  envelopeUse,
  complianceInput,
  packsOf,
  registerOf,
  spaceFieldNames,
  spaceFields,
  viewOf,
  type FieldSpec,
  type SpaceField,
  type Project,
  yearInView,
} from "@arroyo/core";
import { fetchProject } from "../../live/saves.ts";
import { originText } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Logo } from "../../ui/Frame.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { inputText } from "../../ui/InputRow.tsx";
import { fieldWords, useUnits } from "../../ui/units.ts";
import { Checks } from "./ChecksDesk.tsx";
import { PerformanceDesk } from "./PerformanceDesk.tsx";
import { Reference } from "./ReferenceDesk.tsx";
import { submittedWords } from "./SubmissionDesk.tsx";
import { useCompliance } from "./useCompliance.ts";
import { Verdict } from "./Verdict.tsx";

/** The printable page: result, rows, reference building, and every assumption with its origin. */
export function Certificate({ id }: { id: string }) {
  const query = useSearchParams();
  const [project, setProject] = useState<Project | null>(null);
  const [error, setError] = useState<string | null>(null);
  const option = query.get("option");
  useEffect(() => {
    void fetchProject(id).then((found) => {
      if ("message" in found) setError(found.message);
      else setProject(viewOf(found.document, option !== null && Object.hasOwn(found.document.options, option) ? option : null).project);
    });
  }, [id, option]);
  const { result: answer, message } = useCompliance(project);
  if (error || message) return <Text p="8">{error ?? message}</Text>;
  if (!project || answer?.stage !== "exact")
    return (
      <Text p="8" aria-busy="true">
        {answer?.stage === "estimate"
          ? "By the hour the result is there; the whole years of both buildings are being run …"
          : "Computing the design and its reference building …"}
      </Text>
    );
  const { result } = answer;
  const pack = packsOf(project)[result.pack];
  const { signed = {} } = complianceInput(project);
  return (
    <Box h="100dvh" overflowY="auto" background="sheet" css={{ "@media print": { height: "auto", overflow: "visible", "& button": { display: "none" } } }}>
      <style>{`@media print { html, body { overflow: visible !important; height: auto !important; background: #fff !important } @page { margin: 16mm } tr, h2 { break-inside: avoid } }`}</style>
      <Box as="main" maxW="820px" mx="auto" px="8" py="8">
        <Flex justify="space-between" align="center" mb="4">
          <Logo />
          <chakra.button type="button" background="water" color="sheet" px="3.5" h="30px" borderRadius="small" cursor="pointer" onClick={() => window.print()}>
            Print
          </chakra.button>
        </Flex>
        <Text as="h1" fontSize="22px" fontWeight="600">
          {project.name}
        </Text>
        <Text color="ink2">
          {pack.name}, {pack.edition}, version {pack.version} · {pack.jurisdiction}
        </Text>
        <Text color="ink2" mb="4">
          {project.site.name} · weather “{yearInView(project).name}” · {submittedWords(result)}
        </Text>
        <Box w="400px" mb="6">
          <Verdict result={result} pack={pack} />
        </Box>
        <PerformanceDesk result={result} pack={pack} printed />
        <Box mt="6" />
        <Checks result={result} pack={pack} />
        <Text as="h2" textStyle="title" mb="1">
          Reference building
        </Text>
        <Reference result={result} pack={pack} project={project} />
        <Assumptions project={project} />
        <Section title="Sign-off">
          <Flex gap="10" mt="8">
            {(
              [
                ["Prepared by", signed.prepared],
                ["Checked by", signed.checked],
                ["Licence", signed.licence],
                ["Date", signed.date],
              ] as const
            ).map(([words, value]) => (
              <Box key={words} flex="1">
                <Text minH="20px">{value ?? ""}</Text>
                <Box borderTop="1px solid" borderColor="ink" pt="1">
                  {words}
                </Box>
              </Box>
            ))}
          </Flex>
          <Text color="ink2" fontSize="11px" mt="4" fontFamily="mono">
            project {result.projectHash} · pack {result.packHash}
          </Text>
        </Section>
      </Box>
    </Box>
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box mt="7">
      <Text as="h2" textStyle="title" mb="1">
        {title}
      </Text>
      {children}
    </Box>
  );
}

/** Every input of every space, the envelope and the services, with where each value comes from. */
function Assumptions({ project }: { project: Project }) {
  const units = useUnits();
  const { geometry } = checkProject(project);
  const use = envelopeUse(project);
  const value = (spec: FieldSpec, v: string | number | null): string => {
    if (v === null) return spec.nullMeans ?? "—";
    if (typeof v === "string") return (spec.kind === "devices" ? project.deviceLists : project.schedules)[v]?.name ?? v;
    return fieldWords(units, spec, v);
  };
  // spaces that agree in every value and origin are told once
  const groups = new Map<string, { spaces: string[]; first: string }>();
  for (const id of Object.keys(project.spaces)) {
    const key = JSON.stringify(spaceFieldNames.map((f) => effective(project, "space", id, f)));
    const g = groups.get(key) ?? { spaces: [], first: id };
    g.spaces.push(id);
    groups.set(key, g);
  }
  const used = [...new Set(Object.keys(project.zones).map((z) => effectiveServices(project, z).id))];
  return (
    <>
      <Section title="Envelope">
        <Grid
          label="Envelope"
          head={[
            { text: "Assembly or glazing", left: true },
            { text: "U", unit: units.unit("W/m²K") },
            { text: "g" },
            { text: "Area", unit: units.unit("m²") },
          ]}
          rows={[
            ...use.assemblies.map(({ id, part, area }) => ({
              key: `${id} ${part}`,
              cells: [project.assemblies[id].name, units.text(assemblyU(project, project.assemblies[id]), "W/m²K", 3), "", units.text(area, "m²", 0)],
            })),
            ...[...use.glazings].map(([id, u]) => ({
              key: id,
              cells: [
                project.glazings[id].name,
                units.text(glazingRating(project.glazings[id]).u, "W/m²K", 2),
                figure(glazingRating(project.glazings[id]).g, 2),
                units.text(u.area, "m²", 0),
              ],
            })),
          ]}
        />
      </Section>
      <Section title="Services">
        <Grid
          label="Services"
          head={[
            { text: "Services", left: true },
            { text: "Heating", left: true },
            { text: "Cooling", left: true },
            { text: "Hot water", left: true },
            { text: "Fans", unit: units.unit("W per L/s") },
            { text: "Recovery", unit: "%" },
          ]}
          rows={used.map((id) => {
            const s = project.services[id];
            return {
              key: id,
              cells: [
                s.name,
                `${s.heating.fuel}, ${figure(s.heating.efficiency, 2)}`,
                `${s.cooling.fuel}, ${figure(s.cooling.efficiency, 2)}`,
                `${s.hotWater.fuel}, ${figure(s.hotWater.efficiency, 2)}`,
                units.text(s.fanPower / 1000, "W per L/s", 2),
                figure(100 * s.heatRecovery.sensible, 0),
              ],
            };
          })}
        />
      </Section>
      <Section title="Every input of every space, with its origin">
        <Text color="ink2" mb="2">
          ● typed here · ƒ by a rule · § from a code · ↑ inherited · ○ the field’s default
        </Text>
        {[...groups.values()].map((g) => (
          <Box key={g.first} mb="4">
            <Text fontWeight="600">
              {g.spaces.map((s) => project.spaces[s].name).join(", ")} ·{" "}
              {units.words(
                g.spaces.reduce((a, s) => a + (geometry.spaces.get(s)?.floorArea ?? 0), 0),
                "m²",
                0,
              )}
            </Text>
            <Grid
              label={`Inputs of ${project.spaces[g.first].name}`}
              head={[{ text: "Input", left: true }, { text: "Value" }, { text: "Origin", left: true }, { text: "Evidence", left: true }]}
              rows={spaceFieldNames
                .filter((f) => isAsked(project, g.first, f))
                .map((f) => {
                  const e = effective(project, "space", g.first, f);
                  const origin = originText(e.origin);
                  const address = e.origin.kind === "spaceType" ? `spaceTypes/${e.origin.from}/inputs/${f}` : `spaces/${g.first}/inputs/${f}`;
                  return {
                    key: f,
                    cells: [spaceFields[f].label, value(spaceFields[f], e.value), `${origin.mark} ${origin.words}`, project.evidence[address]?.source ?? ""],
                  };
                })}
            />
          </Box>
        ))}
      </Section>
      <Register project={project} />
    </>
  );
}

/** Whether an input acts in a space: those for another way of giving it do not. */
function isAsked(project: Project, space: string, field: SpaceField): boolean {
  const { when }: FieldSpec = spaceFields[field];
  return !when || when.is.includes(String(effective(project, "space", space, when.field as SpaceField).value));
}

/** Typed values with a source, and how many have none. */
function Register({ project }: { project: Project }) {
  const units = useUnits();
  const all = registerOf(project);
  const known = all.filter((r) => project.evidence[r.address] || r.taken);
  return (
    <Section title="Register of values and sources">
      <Text color="ink2" mb="2">
        {all.length} typed values, {known.length} of them with a source; {defaultsLeft(project).length} inputs run on defaults somewhere.
      </Text>
      <Grid
        label="Register of values and sources"
        head={["Of", "What", "Value", "Source", "Confidence", "Note", "By"].map((text) => ({ text, left: text !== "Value" }))}
        rows={known.map((r) => {
          const e = project.evidence[r.address] ?? {};
          return {
            key: r.address,
            cells: [
              r.thing,
              r.what,
              r.spec
                ? inputText(r.spec, r.value, project, units)
                : typeof r.value === "number"
                  ? units.words(r.value, r.unit === "" ? "1" : r.unit)
                  : String(r.value),
              [r.taken && `§ ${r.taken}`, e.source].filter(Boolean).join("; "),
              e.confidence ?? "",
              e.note ?? "",
              [e.author, e.date].filter(Boolean).join(", "),
            ],
          };
        })}
      />
    </Section>
  );
}
