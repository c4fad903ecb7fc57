"use client";
import { Box, Text } from "@chakra-ui/react";
import { freeId, noMorph, setChange, shippedMorphs, type NamedYear, type Project } from "@arroyo/core";
import { Actions, type Action, type ActionName } from "../../ui/Actions.tsx";
import { SideHead, SideItem } from "../../ui/Panes.tsx";
import { SelectInput } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";
import { addYear, freeYearName, presentYear, type PlaceView } from "./years.ts";
import { YEAR_NAME_FIELD } from "./YearInspector.tsx";

/** The weather years of the project; the one chosen is in view everywhere. */
export function YearList({ go }: { go: (view: PlaceView) => void }) {
  const project = useStore((s) => s.document) as Project;
  const edit = useStore((s) => s.edit);
  const years = Object.entries(project.weathers);
  const id = project.weather;
  const { name } = project.weathers[id];
  const made = years.find(([, y]) => y.kind === "morphed" && y.of === id);
  const rename = (): void => document.querySelector<HTMLInputElement>(`#${YEAR_NAME_FIELD} input`)?.focus();
  const view = (k: string): void => void (k !== id && edit(`${project.weathers[k].name} in view`, [setChange(project, ["weather"], k)]));
  const present = project.weathers[presentYear(project)];
  const add = (what: string): void => {
    if (what === "file") return go("file");
    const shipped = Object.hasOwn(shippedMorphs, what) ? shippedMorphs[what] : null;
    if (what === "morph" || shipped)
      addYear({
        kind: "morphed",
        name: shipped ? `${present.name}, ${shipped.name}` : `${present.name}, changed`,
        label: shipped?.label ?? "future",
        of: presentYear(project),
        morph: shipped?.morph ?? noMorph(),
        ...(shipped ? { source: "An invented example that ships with Arroyo; no projection of any place." } : {}),
      });
    else if (what === "normals") {
      const from = Object.values(project.weathers).find((y): y is Extract<NamedYear, { kind: "normals" }> => y.kind === "normals");
      const flat = (v: number): number[] => new Array<number>(12).fill(v);
      addYear({
        kind: "normals",
        name: "Year from normals",
        seed: 1,
        normals: from?.normals ?? {
          dryBulb: flat(10),
          dailyRange: flat(10),
          relativeHumidity: flat(60),
          clearness: flat(0.5),
          windSpeed: flat(3),
          windDirection: flat(240),
        },
      });
    }
    go("weather");
  };
  const copy = (): void => {
    const to = freeId(project.weathers, `${id.slice(0, 55)}_copy`);
    edit(`Copy of ${name}`, [
      { op: "insert", path: ["weathers", to], value: { ...project.weathers[id], name: freeYearName(project, `${name}, copy`) } },
      setChange(project, ["weather"], to),
    ]);
  };
  const remove = (): void => {
    const keys = years.map(([k]) => k);
    const next = keys[keys.indexOf(id) + 1] ?? keys[keys.indexOf(id) - 1];
    edit(`Without ${name}`, [setChange(project, ["weather"], next), { op: "remove", path: ["weathers", id], old: project.weathers[id] }]);
  };
  const actions: Partial<Record<ActionName, Action>> = {
    copy: { label: `Copy ${name}`, run: copy },
    rename: { label: `Rename ${name}`, run: rename },
    remove: {
      label: `Remove ${name}`,
      run: remove,
      ...(years.length < 2 ? { not: "a project has at least one year" } : made ? { not: `${made[1].name} is made of it` } : {}),
    },
  };
  return (
    <>
      <Actions label="What can be done with weather years" actions={actions} />
      <SideHead>Weather years</SideHead>
      {years.map(([k, y]) => (
        <SideItem key={k} active={k === id} value={y.label ?? ""} onClick={() => view(k)}>
          {y.name}
        </SideItem>
      ))}
      <Box px="3" pt="1">
        <SelectInput
          label="Add a weather year"
          align="left"
          width="100%"
          value=""
          options={[
            { value: "", label: "Add a year …" },
            { value: "file", label: "from a weather file" },
            { value: "normals", label: "from twelve normals" },
            { value: "morph", label: `future: ${present.name} with changes` },
            ...Object.entries(shippedMorphs).map(([value, m]) => ({ value, label: `future: ${m.name}` })),
          ]}
          onChange={(v) => v !== "" && add(v)}
        />
        <Text color="ink2" fontSize="11.5px">
          The year chosen is in view everywhere, whatever option is.
        </Text>
      </Box>
    </>
  );
}
