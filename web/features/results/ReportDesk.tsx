"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { Copy, Trash2 } from "lucide-react";
import { useMemo } from "react";
import {
  buildReport,
  cellText,
  freeId,
  neededFor,
  reportCsv,
  reportHtml,
  reportMarkdown,
  setChange,
  shippedOutlines,
  topicKinds,
  topicTitles,
  unsetChange,
  type Block,
  type Change,
  type Project,
  type Report,
  type ReportOutline,
  type ReportRun,
  type Summary,
  type Topic,
  type TopicKind,
} from "@arroyo/core";
import { NO_CLASSES, seriesClass, type SeriesClass } from "../../live/seriesClasses.ts";
import { IconButton } from "../../ui/Actions.tsx";
import { Act, firstMessage, Head, NumberInput, SelectInput, TextInput } from "../../ui/fields.tsx";
import { monthNames } from "../../ui/format.ts";
import { Grid, Inspector, Middle } from "../../ui/Panes.tsx";
import { saveBlob } from "../../ui/saveCsv.ts";
import { useStore } from "../store.ts";
import { useQuery } from "../useQuery.ts";
import { useYearSeries } from "../yearSeries.ts";
import { seriesName } from "./seriesThings.ts";

/** Rows a table of the preview shows; the documents have all of them. */
const SHOWN = 40;

/** A change that puts an outline into the project. */
export function outlineChange(project: Project, id: string, outline: ReportOutline): Change {
  return project.outlines ? { op: "insert", path: ["outlines", id], value: outline } : setChange(project, ["outlines"], { [id]: outline });
}

/** Reports: an outline made of the run in view, looked at, changed, and taken away as a document. */
export function ReportDesk({
  summary,
  name,
  stored,
}: {
  summary: Summary;
  name: string;
  /** Of a stored run: the hourly series and the inputs of the model as it is now are not its own. */
  stored: boolean;
}) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const [query, go] = useQuery();
  const own = project.outlines ?? {};
  const id = query.get("outline") ?? Object.keys(own)[0] ?? "client";
  const mine = Object.hasOwn(own, id);
  const outline: ReportOutline | undefined = mine ? own[id] : shippedOutlines[id];
  const classes = useMemo((): readonly SeriesClass[] => {
    const refs = (outline?.topics ?? []).flatMap((t) => t.series ?? []).flatMap((r) => neededFor(project, r));
    return refs.length === 0 ? NO_CLASSES : [...new Set(refs.map((r) => seriesClass(r) ?? "zones"))].sort();
  }, [outline, project]);
  const { year } = useYearSeries(project, classes);
  const report = useMemo((): Report | null => {
    if (!outline) return null;
    const run: ReportRun = { name, project, summary, ...(year && !stored ? { table: year } : {}) };
    return buildReport(outline, [run]);
  }, [outline, project, summary, name, year, stored]);
  const copy = (): void => {
    if (!outline) return;
    const key = freeId(own, "outline");
    const names = new Set(Object.values(own).map((o) => o.name));
    let called = outline.name;
    for (let n = 2; names.has(called); n++) called = `${outline.name} ${n}`;
    if (edit(`New outline ${called}`, [outlineChange(project, key, { ...outline, name: called })]).length === 0) go({ outline: key });
  };
  const remove = (): void => {
    if (edit(`Without outline ${own[id].name}`, [{ op: "remove", path: ["outlines", id], old: own[id] } as Change]).length === 0) go({ outline: null });
  };
  const file = (report?.title ?? "report").toLowerCase().replace(/[^a-z0-9]+/g, "-");
  const save = (kind: string, text: string, type: string): void => saveBlob(`${file}.${kind}`, new Blob([text], { type }));
  const docx = async (): Promise<void> => {
    if (!report) return;
    const { reportDocx } = await import("@arroyo/adapters/docx");
    saveBlob(
      `${file}.docx`,
      new Blob([(await reportDocx(report)) as BlobPart], { type: "application/vnd.openxmlformats-officedocument.wordprocessingml.document" }),
    );
  };
  return (
    <>
      <Middle label="Reports">
        <Flex align="baseline" gap="3" mb="2">
          <Text as="h2" textStyle="title">
            Report
          </Text>
          <SelectInput
            label="Outline"
            align="left"
            width="230px"
            value={id}
            options={[
              ...Object.entries(own).map(([value, o]) => ({ value, label: o.name })),
              ...Object.entries(shippedOutlines).map(([value, o]) => ({ value, label: `${o.name} (ships with Arroyo)` })),
            ]}
            onChange={(v) => go({ outline: v })}
          />
          <Text color="ink2" flex="1" lineClamp={1}>
            of {name}
            {stored && "; assumptions are those of the model as it is now"}
          </Text>
          {report && (
            <>
              <Act onClick={() => void docx()}>DOCX</Act>
              <Act onClick={() => save("html", reportHtml(report), "text/html")}>HTML</Act>
              <Act onClick={() => save("md", reportMarkdown(report), "text/markdown")}>Markdown</Act>
              <Act onClick={() => save("csv", reportCsv(report), "text/csv")}>CSV</Act>
            </>
          )}
        </Flex>
        {report ? (
          <Box data-testid="report">
            <Text fontSize="20px" fontWeight="600" mb="2">
              {report.title}
            </Text>
            {report.blocks.map((b, i) => (
              <Shown key={i} block={b} />
            ))}
          </Box>
        ) : (
          <Text color="clay">This outline is gone. Choose another one.</Text>
        )}
      </Middle>
      <Inspector
        title={outline?.name ?? "No outline"}
        about={
          mine
            ? "Its topics, in their order. What is written here stays whatever run the report is made of."
            : "It ships with Arroyo. Make it the project’s own to change it."
        }
      >
        <Flex gap="1" mb="2">
          <IconButton label={mine ? `Copy ${outline?.name ?? ""}` : "Make it the project’s own"} icon={Copy} onClick={copy} />
          {mine && <IconButton label={`Remove ${outline?.name ?? ""}`} icon={Trash2} onClick={remove} />}
        </Flex>
        {mine && outline && <Topics key={id} project={project} id={id} outline={outline} />}
        {!mine && outline?.topics.map((t) => <Text key={t.id}>{t.title ?? topicTitles[t.kind]}</Text>)}
      </Inspector>
    </>
  );
}

function Shown({ block: b }: { block: Block }) {
  switch (b.kind) {
    case "heading":
      return (
        <Text as={b.level === 1 ? "h3" : "h4"} fontWeight="600" fontSize={b.level === 1 ? "15px" : "13px"} mt="4" mb="1">
          {b.text}
        </Text>
      );
    case "paragraph":
      return (
        <Text maxW="720px" mb="2" whiteSpace="pre-line">
          {b.text}
        </Text>
      );
    case "remark":
      return (
        <Text color="clay" mb="2">
          {b.text}
        </Text>
      );
    case "table":
      return (
        <Box mb="2" overflowX="auto" tabIndex={0} role="region" aria-label={b.caption}>
          <Text color="ink2" fontSize="12px">
            {b.caption}
          </Text>
          <Grid
            label={b.caption}
            head={b.head.map((h, i) => ({
              text: h.text.trim(),
              ...(h.unit === "" ? {} : { unit: h.unit }),
              left: !b.rows.some((r) => typeof r[i] === "object" && r[i] !== null),
            }))}
            rows={b.rows.slice(0, SHOWN).map((r, k) => ({ key: String(k), cells: r.map((c) => cellText(c)) }))}
          />
          {b.rows.length > SHOWN && (
            <Text color="ink2" fontSize="12px">
              and {b.rows.length - SHOWN} rows more, in the documents
            </Text>
          )}
        </Box>
      );
  }
}

/** Topics of an outline: their order, titles, notes and what they tell of. */
function Topics({ project, id, outline }: { project: Project; id: string; outline: ReportOutline }) {
  const edit = useStore((s) => s.edit);
  const path = (t: Topic, field: keyof Topic): string[] => ["outlines", id, "topics", t.id, field];
  const put = (t: Topic, field: keyof Topic, value: unknown): string | null =>
    firstMessage(edit(`${outline.name}: ${field}`, [value === null ? unsetChange(project, path(t, field)) : setChange(project, path(t, field), value)]));
  const free = (): string => {
    let n = outline.topics.length + 1;
    while (outline.topics.some((t) => t.id === `t${n}`)) n++;
    return `t${n}`;
  };
  const move = (t: Topic, by: -1 | 1): void => {
    const at = outline.topics.indexOf(t);
    const before = by < 0 ? outline.topics[at - 1]?.id : outline.topics[at + 2]?.id;
    const place = ["outlines", id, "topics", t.id];
    edit(`${outline.name}: order`, [
      { op: "remove", path: place, old: t },
      { op: "insert", path: place, value: t, ...(before ? { before } : {}) },
    ] as Change[]);
  };
  const groups = Object.entries(project.groups ?? {});
  return (
    <>
      <TextInput
        label="Name of the outline"
        align="left"
        width="240px"
        value={outline.name}
        onCommit={(v) => firstMessage(edit(`Outline ${v}`, [setChange(project, ["outlines", id, "name"], v)]))}
      />
      {outline.topics.map((t, i) => (
        <Box key={t.id} py="2" borderBottom="1px solid" borderColor="line" data-testid={`topic-${t.id}`}>
          <Flex align="center" gap="1">
            <TextInput
              label={`Title of topic ${i + 1}`}
              align="left"
              width="150px"
              value={t.title ?? topicTitles[t.kind]}
              onCommit={(v) => put(t, "title", v)}
            />
            <Box ml="auto" />
            {i > 0 && (
              <Act title={`Topic ${i + 1} one place up`} onClick={() => move(t, -1)}>
                ▴
              </Act>
            )}
            {i < outline.topics.length - 1 && (
              <Act title={`Topic ${i + 1} one place down`} onClick={() => move(t, 1)}>
                ▾
              </Act>
            )}
            <IconButton
              label={`Remove topic ${i + 1}`}
              icon={Trash2}
              onClick={() => edit(`${outline.name}: without a topic`, [{ op: "remove", path: ["outlines", id, "topics", t.id], old: t } as Change])}
            />
          </Flex>
          {t.kind === "series" && (
            <Text color="ink2" fontSize="11.5px">
              {(t.series ?? []).map((r) => seriesName(project, r)).join("; ") || "no series yet: add them from the Series desk"}
            </Text>
          )}
          {["energy", "flows", "comfort", "series"].includes(t.kind) && (
            <SelectInput
              label={`Time of topic ${i + 1}`}
              align="left"
              width="120px"
              value={t.month === undefined ? "" : String(t.month)}
              options={[{ value: "", label: "the whole run" }, ...monthNames.map((m, k) => ({ value: String(k), label: m }))]}
              onChange={(v) => put(t, "month", v === "" ? null : Number(v))}
            />
          )}
          {["flows", "loads", "zones", "comfort"].includes(t.kind) && groups.length > 0 && (
            <SelectInput
              label={`Zones of topic ${i + 1}`}
              align="left"
              width="150px"
              value={t.of?.[0] ?? ""}
              options={[{ value: "", label: "all zones" }, ...groups.map(([value, g]) => ({ value, label: g.name }))]}
              onChange={(v) => put(t, "of", v === "" ? null : [v])}
            />
          )}
          {t.kind !== "text" && t.kind !== "warnings" && (
            <Flex gap="2" align="center" fontSize="12px" color="ink2">
              <NumberInput label={`Decimals of topic ${i + 1}`} width="34px" value={t.digits ?? null} digits={0} onCommit={(v) => put(t, "digits", v)} />{" "}
              decimals
              {t.digits !== undefined && <Act onClick={() => put(t, "digits", null)}>as they suit</Act>}
              {["summary", "energy", "flows", "loads", "components"].includes(t.kind) && (
                <SelectInput
                  label={`Energy unit of topic ${i + 1}`}
                  align="left"
                  width="70px"
                  value={t.energy ?? "kWh"}
                  options={["kWh", "MWh"].map((u) => ({ value: u, label: u }))}
                  onChange={(v) => put(t, "energy", v)}
                />
              )}
            </Flex>
          )}
          <Note key={t.note ?? ""} label={`Note of topic ${i + 1}`} value={t.note ?? ""} onCommit={(v) => put(t, "note", v === "" ? null : v)} />
        </Box>
      ))}
      <Head mt="3">Another topic</Head>
      <SelectInput
        label="Add a topic"
        align="left"
        width="230px"
        value=""
        options={[{ value: "", label: "+ topic" }, ...topicKinds.map((k) => ({ value: k, label: topicTitles[k] }))]}
        onChange={(v) =>
          v !== "" &&
          edit(`${outline.name}: ${topicTitles[v as TopicKind]}`, [
            { op: "insert", path: ["outlines", id, "topics", free()], value: { id: free(), kind: v } } as Change,
          ])
        }
      />
    </>
  );
}

/** Text of several lines, taken when the field is left. */
function Note({ label, value, onCommit }: { label: string; value: string; onCommit: (v: string) => unknown }) {
  return (
    <chakra.textarea
      aria-label={label}
      placeholder="a note in your own words"
      defaultValue={value}
      rows={value === "" ? 1 : 3}
      w="100%"
      mt="1"
      px="1"
      fontSize="12.5px"
      border="1px solid"
      borderColor="line"
      background="sheet"
      onBlur={(e) => e.target.value.trim() !== value && onCommit(e.target.value.trim())}
    />
  );
}
