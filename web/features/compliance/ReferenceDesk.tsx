"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { scopeParts, type Compliance, type Pack, type Project } from "@arroyo/core";
import { storeAsProject } from "../../live/saves.ts";
import { Act } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { saveBlob } from "../../ui/saveCsv.ts";
import { useUnits } from "../../ui/units.ts";
import { saveGbxml } from "../form/saveGbxml.ts";
import { useStore } from "../store.ts";

/** Every change that makes the reference building, with its clause; exported and opened by itself. */
export function ReferenceDesk({ result, pack, building }: { result: Compliance; pack: Pack; building: Project }) {
  const project = useStore((s) => s.project) as Project;
  const router = useRouter();
  const [said, setSaid] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const made = (): Project => {
    const { compliance: _c, ...alone } = building;
    return { ...alone, name: `${project.name}, reference`.slice(0, 200) } as Project;
  };
  const doing = async (work: () => Promise<string | null>): Promise<void> => {
    setBusy(true);
    setSaid(null);
    // the sentence that it is being made is drawn first
    await new Promise((r) => setTimeout(r, 30));
    setSaid(await work().catch((e: unknown) => (e instanceof Error ? e.message : String(e))));
    setBusy(false);
  };
  const json = async (): Promise<string | null> => {
    const p = made();
    saveBlob(`${p.id}-reference.json`, new Blob([JSON.stringify(p, null, 2)], { type: "application/json" }));
    return null;
  };
  const open = async (): Promise<string | null> => {
    const answer = await storeAsProject(made());
    if ("message" in answer) return answer.message;
    router.push(`/p/${answer.id}/results`);
    return null;
  };
  return (
    <>
      <Flex align="baseline" gap="3" mb="1" wrap="wrap">
        <Text as="h2" textStyle="title">
          What makes the reference building
        </Text>
        <Text color="ink2">{result.changes.length} changes of the design, each by its clause; kept current with every edit</Text>
      </Flex>
      <Flex gap="4" mb="3" align="baseline">
        <Act disabled={busy} onClick={() => void doing(json)}>
          Export as JSON
        </Act>
        <Act disabled={busy} onClick={() => void doing(async () => saveGbxml(made()))}>
          Export as gbXML
        </Act>
        <Act disabled={busy} onClick={() => void doing(open)}>
          Open as a project of its own
        </Act>
        {busy && <Text color="ink2">The reference building is being made …</Text>}
        {said && (
          <Text role="alert" color="clay">
            {said}
          </Text>
        )}
      </Flex>
      <Reference result={result} pack={pack} project={project} />
    </>
  );
}

/** Systems by the map, changes part by part, values that wait for a size. */
export function Reference({ result, pack, project }: { result: Compliance; pack: Pack; project: Project }) {
  return (
    <>
      {result.systems.length > 0 && (
        <Box mb="4">
          <Grid
            label="Systems of the reference building"
            head={[
              { text: "Clause", left: true },
              { text: "System by the map", left: true },
              { text: "Zones", left: true },
            ]}
            rows={result.systems.map((m) => ({
              key: m.name,
              cells: [
                <span key="c" title={pack.clauses[m.clause]}>
                  § {m.clause}
                </span>,
                `${m.name}: ${m.row}`,
                m.zones.map((z) => project.zones[z]?.name ?? z).join(", "),
              ],
            }))}
          />
        </Box>
      )}
      {scopeParts
        .filter((part) => result.changes.some((c) => c.part === part))
        .map((part) => (
          <Changes key={part} part={part} result={result} pack={pack} />
        ))}
      {result.pending.length > 0 && (
        <>
          <Text textStyle="head" color="ink2" mt="2">
            Follow when sizes are known
          </Text>
          <Grid
            label="Values that follow when sizes are known"
            head={[
              { text: "Clause", left: true },
              { text: "What", left: true },
            ]}
            rows={result.pending.map((p) => ({ key: p.path, cells: [`§ ${p.clause}`, p.words] }))}
          />
        </>
      )}
      {result.changes.length === 0 && <Text color="ink2">None: the design is its own reference.</Text>}
    </>
  );
}

function Changes({ part, result, pack }: { part: string; result: Compliance; pack: Pack }) {
  const units = useUnits();
  const rows = result.changes.filter((c) => c.part === part);
  return (
    <Box mb="4">
      <Text textStyle="head" color="ink2">
        {part} · {rows.length}
      </Text>
      <Grid
        label={`Changes of the reference building, ${part}`}
        head={[{ text: "Clause", left: true }, { text: "What", left: true }, { text: "Design" }, { text: "Reference" }]}
        rows={rows.map((c, i) => ({
          key: `${c.path} ${i}`,
          cells: [
            <span key="c" title={pack.clauses[c.clause]}>
              § {c.clause}
              {c.unverified ? " *" : ""}
            </span>,
            c.thing,
            units.turned(c.from),
            <b key="t">{units.turned(c.to)}</b>,
          ],
        }))}
      />
    </Box>
  );
}
