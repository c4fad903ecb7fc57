"use client";
import { Box, Text } from "@chakra-ui/react";
import { useState } from "react";
import { freeId, type Change, type Project, type SeriesRef, type Topic } from "@arroyo/core";
import { Act, SelectInput } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";
import { useQuery } from "../useQuery.ts";
import { outlineChange } from "./ReportDesk.tsx";
import { useSeriesViews } from "./seriesState.ts";

/** The topic that tells what a view shows; null: none does. */
export function topicOfView(view: string, of: string | null, series: readonly SeriesRef[]): Omit<Topic, "id"> | null {
  switch (view) {
    case "summary":
      return { kind: "energy" };
    case "flows":
      return { kind: "flows", ...(of?.startsWith("group:") ? { of: [of.slice("group:".length)] } : {}) };
    case "peaks":
    case "figures":
      return { kind: "loads" };
    case "zones":
      return { kind: "zones" };
    case "comfort":
      return { kind: "comfort" };
    case "cost":
    case "compare":
      return { kind: "summary" };
    case "series":
      return series.length === 0 ? null : { kind: "series", series: [...series] };
    default:
      return null;
  }
}

/** Puts what the view shows into an outline of the project, or into a new one. */
export function AddToOutline({ view }: { view: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const shown = useSeriesViews((s) => s.views[project.id] as (typeof s.views)[string] | undefined);
  const [query, go] = useQuery();
  const [told, setTold] = useState<{ readonly text: string; readonly outline: string } | null>(null);
  const own = project.outlines ?? {};
  const topic = topicOfView(view, query.get("of"), shown?.plots.flatMap((p) => p.lines.map((l) => l.ref)) ?? []);
  if (!topic) return null;
  const add = (to: string): void => {
    const fresh = to === "new";
    const id = fresh ? freeId(own, "outline") : to;
    const topics = fresh ? [] : own[id].topics;
    let n = topics.length + 1;
    while (topics.some((t) => t.id === `t${n}`)) n++;
    const value: Topic = { id: `t${n}`, ...topic };
    const change: Change = fresh
      ? outlineChange(project, id, { name: "My report", topics: [value] })
      : { op: "insert", path: ["outlines", id, "topics", value.id], value };
    const [problem] = edit(`${fresh ? "My report" : own[id].name}: a topic more`, [change]);
    setTold(problem ? { text: problem.message, outline: "" } : { text: `In “${fresh ? "My report" : own[id].name}” now.`, outline: id });
  };
  return (
    <Box px="3.5" mt="3">
      <SelectInput
        label="Add this view to an outline"
        align="left"
        width="160px"
        value=""
        options={[
          { value: "", label: "+ to an outline" },
          ...Object.entries(own).map(([value, o]) => ({ value, label: o.name })),
          { value: "new", label: "a new outline" },
        ]}
        onChange={(v) => v !== "" && add(v)}
      />
      {told && (
        <Text fontSize="12px" color="ink2" role="status">
          {told.text} {told.outline !== "" && <Act onClick={() => go({ view: "report", outline: told.outline })}>Show</Act>}
        </Text>
      )}
    </Box>
  );
}
