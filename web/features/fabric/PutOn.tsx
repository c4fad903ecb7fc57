"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import {
  checkProject,
  faceAssembly,
  facesFor,
  orientationOf,
  overrideChanges,
  roleOfUse,
  roleWords,
  setChange,
  type Change,
  type Face,
  type Project,
} from "@arroyo/core";
import { Act, Head, SelectInput } from "../../ui/fields.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { useUnits } from "../../ui/units.ts";
import { hostName } from "../form/names.ts";
import { useStore } from "../store.ts";

const area = (faces: readonly Face[]): number => faces.reduce((s, f) => s + f.area, 0);

/** Puts an assembly on faces: of a storey, an orientation, a space, or chosen one by one; or into an envelope kit. */
export function PutOn({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const [storey, setStorey] = useState("");
  const [side, setSide] = useState("");
  const [space, setSpace] = useState("");
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [listed, setListed] = useState(false);
  const a = project.assemblies[id];
  const role = roleOfUse[a.use];
  const { geometry } = checkProject(project);
  const all = a.use === "door" ? [] : facesFor(project, geometry.faces, a.use);
  const of = (f: Face): string => faceAssembly(project, f, f.partner ? (geometry.byKey.get(f.partner)?.host ?? null) : null).id;
  const fitting = all.filter(
    (f) =>
      (storey === "" || project.spaces[f.space].storey === storey) &&
      (side === "" || (f.kind === "wall" && orientationOf(f.azimuth) === side)) &&
      (space === "" || f.space === space || f.partnerSpace === space),
  );
  const hosts = [...new Set(fitting.map((f) => f.host))];
  const chosen = hosts.filter((h) => !left.has(h));
  const has = all.filter((f) => of(f) === id);
  const put = (): void => void edit(`${a.name} on ${chosen.length} ${chosen.length === 1 ? "face" : "faces"}`, overrideChanges(project, chosen, id));
  const already = chosen.every((h) => fitting.filter((f) => f.host === h).every((f) => of(f) === id));
  const kits = Object.entries(project.kits).filter(([, k]) => k[role] !== id);
  const own = Object.values(project.faceOverrides).filter((o) => o.assembly === id);
  const back = (): void =>
    void edit(
      `${a.name}: faces back to their kits`,
      overrideChanges(
        project,
        own.map((o) => o.host),
        null,
      ),
    );
  return (
    <Box>
      <Head>Put it on</Head>
      <Text data-testid="face-area" color={has.length === 0 && a.use !== "door" ? "clay" : "ink2"} mb="1">
        {a.use === "door"
          ? "Doors get it from a kit, or one by one in Form."
          : has.length === 0
            ? "No face has it."
            : `${units.words(area(has), "m²", 0)} of ${units.words(area(all), "m²", 0)} have it.`}
      </Text>
      <Flex gap="1" align="center" mb="1.5">
        <SelectInput
          label="Put into a kit"
          width="258px"
          align="left"
          value=""
          options={[
            { value: "", label: `${roleWords[role]} of a kit …` },
            ...kits.map(([k, x]) => ({ value: k, label: `${x.name}${k === project.defaults.kit ? ", the project’s" : ""}` })),
          ]}
          onChange={(v) => v !== "" && edit(`${project.kits[v].name}: ${roleWords[role]}`, [setChange(project, ["kits", v, role], id)])}
        />
      </Flex>
      {all.length > 0 && (
        <>
          <Text color="ink2">or on faces of its kind:</Text>
          <Flex direction="column" gap="0.5">
            <SelectInput
              label="Storey of the faces"
              width="258px"
              align="left"
              value={storey}
              options={[{ value: "", label: "every storey" }, ...Object.entries(project.storeys).map(([k, s]) => ({ value: k, label: s.name }))]}
              onChange={setStorey}
            />
            {a.use === "exterior wall" && (
              <SelectInput
                label="Orientation of the faces"
                width="258px"
                align="left"
                value={side}
                options={[{ value: "", label: "every orientation" }, ...["north", "east", "south", "west"].map((o) => ({ value: o, label: o }))]}
                onChange={setSide}
              />
            )}
            <SelectInput
              label="Space of the faces"
              width="258px"
              align="left"
              value={space}
              options={[{ value: "", label: "every space" }, ...Object.entries(project.spaces).map(([k, s]) => ({ value: k, label: s.name }))]}
              onChange={setSpace}
            />
          </Flex>
          <Flex gap="3" mt="1.5" align="center">
            <PrimaryButton onClick={put} disabled={chosen.length === 0 || already}>
              Put on {chosen.length} {chosen.length === 1 ? "face" : "faces"}
            </PrimaryButton>
            <Text color="ink2">{units.words(area(fitting.filter((f) => !left.has(f.host))), "m²", 0)}</Text>
            <Act onClick={() => setListed(!listed)}>{listed ? "hide" : "choose"}</Act>
          </Flex>
          {listed && (
            <Box maxH="190px" overflowY="auto" mt="1" borderTop="1px solid" borderColor="line">
              {hosts.map((h) => (
                <chakra.label key={h} display="flex" gap="1.5" fontSize="12px" alignItems="center" py="0.5">
                  <input
                    type="checkbox"
                    checked={!left.has(h)}
                    onChange={(e) => {
                      const next = new Set(left);
                      if (e.target.checked) next.delete(h);
                      else next.add(h);
                      setLeft(next);
                    }}
                  />
                  <span style={{ flex: 1 }}>{hostName(project, h)}</span>
                  <Text color="ink2">{units.words(area(fitting.filter((f) => f.host === h)), "m²", 0)}</Text>
                </chakra.label>
              ))}
            </Box>
          )}
          {own.length > 0 && (
            <Box mt="1">
              <Act onClick={back}>
                {own.length} {own.length === 1 ? "face" : "faces"} back to {own.length === 1 ? "its kit" : "their kits"}
              </Act>
            </Box>
          )}
        </>
      )}
    </Box>
  );
}

/** Gives a kit to the whole project, to a storey's spaces or to one space. */
export function GiveKit({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const kit = project.kits[id];
  const spaces = Object.entries(project.spaces);
  const has = spaces.filter(([, s]) => (s.kit ?? project.defaults.kit) === id);
  const give = (ids: readonly string[], words: string): void => {
    const changes = ids.filter((s) => project.spaces[s].kit !== id).map((s): Change => setChange(project, ["spaces", s, "kit"], id));
    if (changes.length > 0) edit(`${kit.name} for ${words}`, changes);
  };
  return (
    <Box>
      <Head>Who gets it</Head>
      <Text color={has.length === 0 ? "clay" : "ink2"} data-testid="kit-spaces" mb="1">
        {project.defaults.kit === id
          ? `The whole project: ${has.length} of ${spaces.length} spaces, and what is drawn next.`
          : `${has.length} of ${spaces.length} spaces.`}
      </Text>
      {project.defaults.kit !== id && (
        <Box mb="1.5">
          <PrimaryButton onClick={() => edit(`${kit.name} for the whole project`, [setChange(project, ["defaults", "kit"], id)])}>
            Give to the whole project
          </PrimaryButton>
        </Box>
      )}
      <SelectInput
        label="Give to a storey"
        width="258px"
        align="left"
        value=""
        options={[{ value: "", label: "give to a storey …" }, ...Object.entries(project.storeys).map(([k, s]) => ({ value: k, label: s.name }))]}
        onChange={(v) =>
          v !== "" &&
          give(
            spaces.filter(([, s]) => s.storey === v).map(([k]) => k),
            project.storeys[v].name,
          )
        }
      />
      <SelectInput
        label="Give to a space"
        width="258px"
        align="left"
        value=""
        options={[{ value: "", label: "give to a space …" }, ...spaces.filter(([, s]) => s.kit !== id).map(([k, s]) => ({ value: k, label: s.name }))]}
        onChange={(v) => v !== "" && give([v], project.spaces[v].name)}
      />
      {spaces.some(([, s]) => s.kit === id) && (
        <Box mt="1">
          <Act
            onClick={() =>
              edit(
                `${kit.name}: spaces back to the project’s kit`,
                spaces.filter(([, s]) => s.kit === id).map(([k]): Change => setChange(project, ["spaces", k, "kit"], null)),
              )
            }
          >
            its own spaces back to the project’s kit
          </Act>
        </Box>
      )}
    </Box>
  );
}
