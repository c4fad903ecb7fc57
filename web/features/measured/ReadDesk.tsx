"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import {
  hourlyMeans,
  pointUnit,
  runWords,
  yearOfReadings,
  COMMON_YEAR,
  type PointFileGuess,
  type PointFileOutcome,
  type PointMapping,
  type Project,
} from "@arroyo/core";
import type { FromPointFile, ToPointFile } from "../../live/pointFile.ts";
import { ask } from "../../live/server.ts";
import { Act, SelectInput, TextInput } from "../../ui/fields.tsx";
import { FileDrop } from "../../ui/FileDrop.tsx";
import { figure } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { FileLayout } from "../place/FileLayout.tsx";
import { useStore } from "../store.ts";
import { Coverage } from "./Coverage.tsx";
import { takePoints } from "./edits.ts";

interface Offered {
  readonly name: string;
  readonly title: string;
}

/** Brings in trend data from a text file of any layout, or from the logger: a first guess, the columns, and what they come to. */
export function ReadDesk({ onTaken }: { onTaken: () => void }) {
  const project = useStore((s) => s.document) as Project;
  const worker = useRef<Worker | null>(null);
  const turn = useRef(0);
  const [file, setFile] = useState<File | null>(null);
  const [guess, setGuess] = useState<PointFileGuess | null>(null);
  const [mapping, setMapping] = useState<PointMapping | null>(null);
  const [outcome, setOutcome] = useState<PointFileOutcome | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const { timeZone } = project.site;
  useEffect(() => {
    const w = new Worker(new URL("../../live/pointFile.ts", import.meta.url), { type: "module" });
    worker.current = w;
    w.onmessage = (e: MessageEvent<FromPointFile>) => {
      const m = e.data;
      if (m.kind === "guessed") {
        setGuess(m.guess);
        setMapping(m.guess.mapping);
        setTold(null);
      } else if (m.kind === "refused") {
        setTold(m.message);
        setShare(null);
      } else if (m.turn === turn.current) {
        if (m.kind === "progress") setShare(m.share);
        else {
          setOutcome(m.outcome);
          setShare(null);
        }
      }
    };
    w.onerror = (e) => setTold(`The reader stopped: ${e.message}`);
    return () => w.terminate();
  }, []);
  useEffect(() => {
    if (!file || !mapping) return;
    turn.current++;
    worker.current?.postMessage({ kind: "read", file, mapping, timeZone, turn: turn.current } satisfies ToPointFile);
  }, [file, mapping, timeZone]);
  const take = (chosen: File): void => {
    turn.current++;
    setFile(chosen);
    setGuess(null);
    setMapping(null);
    setOutcome(null);
    setShare(null);
    setTold(null);
    worker.current?.postMessage({ kind: "guess", file: chosen } satisfies ToPointFile);
  };
  return (
    <Flex direction="column" gap="3">
      <FileDrop label="Trend data" words="Drop trend data here" choose="or choose a file" file={file} share={share} take={take}>
        Readings of sensors, meters and commands as text, in any layout: an export of the building’s controls, of a logger, of meters. Names, units and counters
        are guessed from the header and the values; nothing is taken before you have seen it.
      </FileDrop>
      {!file && <FromLogger take={take} />}
      {told && (
        <Text role="alert" color="clay">
          {told}
        </Text>
      )}
      {guess && mapping && file && (
        <Flex gap="6" align="flex-start">
          <Box w="280px" flexShrink={0}>
            <FileLayout mapping={mapping} set={(part) => setMapping({ ...mapping, ...part })} heads={guess.heads} width={guess.rows[0]?.length ?? 0} />
          </Box>
          <Box flex="1" minW="0">
            <Columns guess={guess} mapping={mapping} setMapping={setMapping} outcome={outcome} file={file} onTaken={onTaken} />
          </Box>
        </Flex>
      )}
    </Flex>
  );
}

/** Files the logger offers. */
function FromLogger({ take }: { take: (f: File) => void }) {
  const [files, setFiles] = useState<readonly Offered[] | null>(null);
  const [told, setTold] = useState<string | null>(null);
  useEffect(() => {
    void ask<readonly Offered[]>("/api/logger").then((a) => (a.ok ? setFiles(a.body) : setTold(a.message)));
  }, []);
  const read = async (f: Offered): Promise<void> => {
    setTold(null);
    const response = await fetch(`/api/logger?file=${encodeURIComponent(f.name)}`).catch(() => null);
    if (!response?.ok) return setTold(`The logger does not send ${f.name}; ask again later, or read a file.`);
    take(new File([await response.blob()], f.name));
  };
  return (
    <Box>
      <Text fontWeight="600">Or read the logger</Text>
      <Text color="ink2" fontSize="12px" mb="1">
        The logger that ships with Arroyo offers invented data of the community library.
      </Text>
      {files?.map((f) => (
        <Flex key={f.name} gap="3" align="baseline">
          <Act onClick={() => void read(f)}>Read {f.name}</Act>
          <Text color="ink2">{f.title}</Text>
        </Flex>
      ))}
      {told && (
        <Text role="alert" color="clay">
          {told}
        </Text>
      )}
    </Box>
  );
}

const kinds = [
  { value: "reading", label: "a reading" },
  { value: "counter", label: "a counter" },
  { value: "sum", label: "a sum of its row" },
] as const;

/** The columns of the file: what each is taken as, its first values, and how much of it is there. */
function Columns({
  guess,
  mapping,
  setMapping,
  outcome,
  file,
  onTaken,
}: {
  guess: PointFileGuess;
  mapping: PointMapping;
  setMapping: (m: PointMapping) => void;
  outcome: PointFileOutcome | null;
  file: File;
  onTaken: () => void;
}) {
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const [tags, setTags] = useState("");
  const [busy, setBusy] = useState(false);
  const [told, setTold] = useState<string | null>(null);
  const change = (column: number, part: Partial<PointMapping["columns"][number]>): void =>
    setMapping({ ...mapping, columns: mapping.columns.map((c) => (c.column === column ? { ...c, ...part } : c)) });
  const points = outcome?.ok ? outcome.points : [];
  const chosen = points.filter((p) => !left.has(p.column));
  const takeThem = async (): Promise<void> => {
    setBusy(true);
    const refused = await takePoints(
      chosen,
      file.name,
      tags
        .split(",")
        .map((t) => t.trim().slice(0, 60))
        .filter((t) => t !== "")
        .slice(0, 20),
    );
    setBusy(false);
    if (refused !== null) return setTold(refused);
    onTaken();
  };
  return (
    <>
      <Flex gap="3" align="center" wrap="wrap" mb="1">
        <PrimaryButton disabled={busy || chosen.length === 0} onClick={() => void takeThem()}>
          {chosen.length === 1 ? "Take this point" : `Take ${chosen.length} points`}
        </PrimaryButton>
        <Text color="ink2">with the tags</Text>
        <TextInput
          label="Tags, with commas between"
          width="150px"
          align="left"
          value={tags}
          onCommit={(t) => {
            setTags(t);
            return null;
          }}
        />
        <Text color="ink2">values are</Text>
        <SelectInput
          label="Values are"
          align="left"
          width="170px"
          value={mapping.at}
          options={[
            { value: "interval", label: "means of their row" },
            { value: "stamp", label: "read at their time" },
          ]}
          onChange={(at) => setMapping({ ...mapping, at: at as PointMapping["at"] })}
        />
      </Flex>
      {outcome && !outcome.ok && (
        <Text role="alert" color="clay">
          {outcome.problems.map((p) => `${p.line > 0 ? `Line ${p.line}: ` : ""}${p.message}`).join(" ")}
        </Text>
      )}
      {told && (
        <Text role="alert" color="clay">
          {told}
        </Text>
      )}
      {outcome?.ok && (
        <Text color="ink2" fontSize="12.5px" data-testid="as-read">
          Every {outcome.interval} min,{" "}
          {runWords({ start: outcome.first, interval: outcome.interval }, { from: 0, to: Math.round((outcome.last - outcome.first) / outcome.interval) })}.{" "}
          {outcome.told.join(" ")}
        </Text>
      )}
      <Box overflowX="auto">
        <Grid
          label="Columns of the file"
          head={[
            { text: "" },
            { text: "Point", left: true },
            { text: "Unit", left: true },
            { text: "Holds", left: true },
            { text: "First values", left: true },
            { text: "There" },
            { text: "Over the year", left: true },
          ]}
          rows={mapping.columns.map((c) => {
            const p = points.find((x) => x.column === c.column);
            const stuck = p?.stuck[0];
            return {
              key: String(c.column),
              cells: [
                <input
                  key="t"
                  type="checkbox"
                  aria-label={`Take ${c.name}`}
                  checked={!left.has(c.column)}
                  onChange={(e) => {
                    const next = new Set(left);
                    if (e.target.checked) next.delete(c.column);
                    else next.add(c.column);
                    setLeft(next);
                  }}
                />,
                <TextInput
                  key="n"
                  label={`Name of column ${c.column + 1}`}
                  width="200px"
                  align="left"
                  value={c.name}
                  onCommit={(t) => {
                    if (t.trim() === "" || t.length > 200) return "A name has 1 to 200 characters.";
                    change(c.column, { name: t.trim() });
                    return null;
                  }}
                />,
                <TextInput
                  key="u"
                  label={`Unit of ${c.name}`}
                  width="56px"
                  align="left"
                  value={c.unit === "1" ? "" : c.unit}
                  onCommit={(t) => {
                    change(c.column, { unit: t.trim() === "" ? "1" : t.trim().slice(0, 20) });
                    return null;
                  }}
                />,
                <SelectInput
                  key="k"
                  label={`${c.name} is`}
                  align="left"
                  width="104px"
                  value={c.kind}
                  options={kinds}
                  onChange={(kind) => change(c.column, { kind: kind as PointMapping["columns"][number]["kind"] })}
                />,
                <Text key="v" as="span" color="ink2" whiteSpace="nowrap">
                  {guess.rows
                    .slice(0, 3)
                    .map((r) => r[c.column] ?? "")
                    .join("  ")}
                </Text>,
                p ? `${figure(100 * p.coverage, 1)} %` : "…",
                p ? (
                  <Box key="c" w="150px">
                    <Coverage values={hourlyMeans({ ...p.readings }, yearOfReadings(p.readings), COMMON_YEAR)} label={`${c.name} over the year`} />
                    {stuck && (
                      <Text color="clay" fontSize="11.5px">
                        stands still {runWords(p.readings, stuck).replace(/ \d\d:\d\d/g, "")}
                      </Text>
                    )}
                    {c.kind === "counter" && (
                      <Text color="ink2" fontSize="11.5px">
                        its rate in {pointUnit(c.kind === "counter" ? { unit: c.unit, kind: "counter" } : { unit: c.unit })}
                      </Text>
                    )}
                  </Box>
                ) : (
                  ""
                ),
              ],
            };
          })}
        />
      </Box>
    </>
  );
}
