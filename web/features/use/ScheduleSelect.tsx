"use client";
import type { Project } from "@arroyo/core";
import { SelectInput } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";

/** A schedule of shares, or none. */
export function ScheduleSelect({ label, value, none, onChange }: { label: string; value: string | null; none: string; onChange: (v: string | null) => void }) {
  const project = useStore((s) => s.project) as Project;
  return (
    <SelectInput
      label={label}
      width="170px"
      value={value ?? ""}
      options={[
        { value: "", label: none },
        ...Object.entries(project.schedules)
          .filter(([, s]) => s.kind === "fraction")
          .map(([k, s]) => ({ value: k, label: s.name })),
      ]}
      onChange={(v) => onChange(v === "" ? null : v)}
    />
  );
}
