"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import type { ImportOutcome, Problem, Project } from "@arroyo/core";
import type { FromImporter, ToImporter } from "../../live/importer.ts";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";

const MOST_BYTES = 50 * 1024 * 1024;
const REMEMBERED = "arroyo-matches";

function remembered(): Record<string, string> {
  try {
    return JSON.parse(localStorage.getItem(REMEMBERED) ?? "{}") as Record<string, string>;
  } catch {
    return {};
  }
}

/** A gbXML or IFC file on its way to a project: its report, what is left to match, what the checks find, then the project. */
export function ImportSheet({ file, onMake, onCancel }: { file: File; onMake: (project: Project) => Promise<string | null>; onCancel: () => void }) {
  const worker = useRef<Worker | null>(null);
  const [found, setFound] = useState<{ outcome: ImportOutcome; problems: readonly Problem[] } | null>(null);
  const [message, setMessage] = useState<string | null>(null);
  const [matches, setMatches] = useState<Record<string, string>>({});
  const [all, setAll] = useState(false);
  const [busy, setBusy] = useState(false);
  useEffect(() => {
    const w = new Worker(new URL("../../live/importer.ts", import.meta.url), { type: "module" });
    worker.current = w;
    w.onmessage = (e: MessageEvent<FromImporter>) => {
      if (e.data.kind === "refused") setMessage(e.data.message);
      else setFound({ outcome: e.data.outcome, problems: e.data.problems });
    };
    w.onerror = () => setMessage("The file cannot be read; nothing was imported.");
    const known = remembered();
    const start = async (): Promise<void> => {
      setMatches(known);
      if (file.size > MOST_BYTES) return setMessage(`${file.name} is larger than 50 MB; export a part of the building.`);
      const bytes = await file.arrayBuffer();
      w.postMessage({ kind: "read", bytes, matches: known, origin: window.location.origin } satisfies ToImporter, [bytes]);
    };
    void start();
    return () => w.terminate();
  }, [file]);
  const match = (key: string, id: string): void => {
    const next = { ...matches };
    if (id === "") delete next[key];
    else next[key] = id;
    take(next);
  };
  const take = (next: Record<string, string>): void => {
    setMatches(next);
    localStorage.setItem(REMEMBERED, JSON.stringify({ ...remembered(), ...next }));
    worker.current?.postMessage({ kind: "match", matches: next } satisfies ToImporter);
  };
  if (message !== null)
    return (
      <Box role="alert" background="claywash" px="4" py="3" mb="5">
        <Text fontWeight="600">{file.name} was not imported</Text>
        <Text mb="1">{message}</Text>
        <Act onClick={onCancel}>Close</Act>
      </Box>
    );
  if (!found)
    return (
      <Box mb="5" aria-busy="true">
        <Text color="ink2">
          Reading {file.name} … <Act onClick={onCancel}>cancel</Act>
        </Text>
      </Box>
    );
  const { outcome, problems } = found;
  const { report, matching, project } = outcome;
  const shown = all ? report : report.slice(0, 12);
  const open = matching.filter((m) => m.chosen === null).length;
  const suggested = matching.filter((m) => m.chosen === null && m.suggested !== null);
  return (
    <Box mb="6" aria-label="Import" role="region">
      <Text textStyle="title">Import of {file.name}</Text>
      <Text color="ink2" mb="2">
        {Object.keys(project.storeys).length} storeys, {Object.keys(project.spaces).length} spaces, {Object.keys(project.openings).length} openings. The checks
        find {problems.filter((p) => p.severity === "error").length} errors and {problems.filter((p) => p.severity === "warning").length} warnings; they are
        listed with fixes once the project is made.
      </Text>
      <Text textStyle="head" color="ink2" mt="2" mb="1">
        Report
      </Text>
      <Grid
        label="Import report"
        head={[
          { text: "", left: true },
          { text: "What", left: true },
          { text: "Changes the result", left: true },
        ]}
        rows={shown.map((m, i) => ({ key: String(i), cells: [m.kind, m.text, m.affects ? "yes" : "no"] }))}
      />
      {report.length > 12 && <Act onClick={() => setAll(!all)}>{all ? "fewer" : `all ${report.length}`}</Act>}
      {matching.length > 0 && (
        <>
          <Text textStyle="head" color="ink2" mt="3" mb="1">
            To match{open > 0 ? `: ${open} open, where the default stands in` : ""}
          </Text>
          {suggested.length > 0 && (
            <Act onClick={() => take({ ...matches, ...Object.fromEntries(suggested.map((m) => [m.key, m.suggested as string])) })}>
              {`Take ${suggested.length} suggestion${suggested.length === 1 ? "" : "s"}`}
            </Act>
          )}
          <Grid
            label="Matching sheet"
            head={[
              { text: "In the file", left: true },
              { text: "Kind", left: true },
              { text: "Times" },
              { text: "Stands for", left: true },
              { text: "Suggested", left: true },
            ]}
            rows={matching.map((m) => ({
              key: m.key,
              cells: [
                m.name,
                m.kind,
                m.count,
                <SelectInput
                  key="s"
                  label={`Match ${m.name}`}
                  align="left"
                  width="260px"
                  value={m.chosen ?? ""}
                  options={[
                    { value: "", label: m.kind === "use" ? "the default use" : m.kind === "schedule" ? "the space type’s" : "the kit’s" },
                    ...m.options.map((o) => ({ value: o.id, label: o.name })),
                  ]}
                  onChange={(v) => match(m.key, v)}
                />,
                m.chosen === null ? (m.options.find((o) => o.id === m.suggested)?.name ?? "—") : "",
              ],
            }))}
          />
          <Text color="ink2" fontSize="12px" mt="1">
            Choices are remembered for the next file.
          </Text>
        </>
      )}
      <Flex gap="4" mt="3" align="center">
        <PrimaryButton
          disabled={busy}
          onClick={() => {
            setBusy(true);
            void onMake(project).then((refusal) => {
              setBusy(false);
              if (refusal !== null) setMessage(refusal);
            });
          }}
        >
          Make the project
        </PrimaryButton>
        <Act onClick={onCancel}>Cancel</Act>
      </Flex>
    </Box>
  );
}
