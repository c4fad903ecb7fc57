"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import {
  drawOf,
  equivalentHours,
  freeId,
  placeWords,
  setChange,
  spaceFieldNames,
  spaceFields,
  whereUsed,
  type Change,
  type FieldSpec,
  type NamedPart,
  type Project,
} from "@arroyo/core";
import { Trash2 } from "lucide-react";
import { Actions, IconButton, type Action, type ActionName } from "../../ui/Actions.tsx";
import { Act, firstMessage, Head, NumberInput, Row, TextInput } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { TypeInputRow } from "../../ui/InputRow.tsx";
import { Inspector, Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { SheetTable } from "../../ui/SheetTable.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { LibraryDesk } from "../fabric/LibraryDesk.tsx";
import { Keep, Swap } from "../fabric/ThingInspector.tsx";
import { AirExchanges } from "./AirExchanges.tsx";
import { BuildingDesk } from "./BuildingDesk.tsx";
import { DaylightDesk } from "./DaylightDesk.tsx";
import { DeviceDesk } from "./DeviceDesk.tsx";
import { HotWaterDesk } from "./HotWaterDesk.tsx";
import { inputSheet, inputSheets } from "./inputSheet.ts";
import { ResetDesk } from "./ResetDesk.tsx";
import { registerSheet, registerSheets } from "./registerSheet.ts";
import { RuleDesk, ruleField } from "./RuleDesk.tsx";
import { ScheduleDesk } from "./ScheduleDesk.tsx";
import { SiteLightDesk } from "./SiteLightDesk.tsx";
import { StarterDesk } from "./StarterDesk.tsx";
import { TypeDesk } from "./TypeDesk.tsx";
import { copyUse, listed, newUse, partWord, showUse, thingOf, useDesk, useParts, type UsePart } from "./useDesk.ts";
import { USE_NAME_FIELD } from "./UseHead.tsx";

/** Parts whose things others name, so that where they are used can be told. */
const isNamed = (part: UsePart): part is UsePart & NamedPart => part === "spaceTypes" || part === "schedules" || part === "resets" || part === "deviceLists";

/** What happens in each space: types, schedules, devices, rules, hot water, lighting outside, and the sheet of all inputs. */
export function Use() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const selection = useStore((s) => s.selection);
  const leapWeather = useStore((s) => s.live.weather?.days === 366);
  const units = useUnits();
  const stored = useDesk((s) => s.part);
  const panel = useDesk((s) => s.panel);
  const set = useDesk((s) => s.set);
  // a link or the command bar may name a thing of another kind than the one listed last
  const chosen = useParts.flatMap((p) =>
    selection.filter((s) => s.kind === partWord[p].kind && thingOf(project, p, s.id)).map((s) => ({ part: p, id: s.id })),
  )[0];
  const part = panel === null && chosen ? chosen.part : stored;
  const things = listed(project, part);
  const id = part === "airExchanges" ? undefined : ((chosen?.part === part ? chosen.id : undefined) ?? things[0]?.[0]);
  const { one: word } = partWord[part];
  const name = id === undefined ? "" : (thingOf(project, part, id)?.name ?? "");
  const uses = id !== undefined && isNamed(part) ? whereUsed(project, part, id) : [];
  const show = (p: UsePart): void => {
    set({ part: p, panel: null });
    const [first] = listed(project, p);
    if (first) showUse(p, first[0]);
    else useStore.getState().select([]);
  };
  const rename = (): void => document.querySelector<HTMLInputElement>(`#${USE_NAME_FIELD} input`)?.focus();
  const add = (): void => {
    const made = newUse(project, part);
    if (edit(`New ${word}`, [made.change]).length > 0) return;
    showUse(part, made.id);
    requestAnimationFrame(() => requestAnimationFrame(rename));
  };
  const remove = (): void => {
    if (id === undefined) return;
    const keys = things.map(([k]) => k);
    const next = keys[keys.indexOf(id) + 1] ?? keys[keys.indexOf(id) - 1];
    if (edit(`Without ${name}`, [{ op: "remove", path: [part, id], old: thingOf(project, part, id) } as Change]).length > 0) return;
    if (next !== undefined) showUse(part, next);
    else useStore.getState().select([]);
  };
  const actions: Partial<Record<ActionName, Action>> = {
    add: { label: `Add ${/^[aeiou]/.test(word) ? "an" : "a"} ${word}`, run: add },
    ...(isNamed(part) ? { library: { label: `Take a ${word} from a library`, run: () => set({ panel: "library", part }) } } : {}),
    ...(id === undefined
      ? {}
      : {
          copy: {
            label: `Copy ${name}`,
            run: () => {
              const made = copyUse(project, part, id);
              if (edit(`Copy of ${name}`, [made.change]).length === 0) showUse(part, made.id);
            },
          },
          rename: { label: `Rename ${name}`, run: rename },
          ...(isNamed(part)
            ? { where: { label: `Where ${name} is used`, run: () => document.getElementById("where-used")?.scrollIntoView({ block: "start" }) } }
            : {}),
          remove: {
            label: `Remove ${name}`,
            run: remove,
            ...(uses.length > 0
              ? { not: `it is used by ${placeWords(project, uses[0])}${uses.length > 1 ? ` and ${uses.length - 1} more` : ""}; put another in its place first` }
              : {}),
          },
        }),
  };
  const value = (k: string): string => {
    if (part === "spaceTypes") return String(Object.values(project.spaces).filter((s) => s.spaceType === k).length || "unused");
    if (part === "schedules") {
      const s = project.schedules[k];
      return s.kind === "fraction" ? `${figure(equivalentHours(s, project.calendar, leapWeather), 0)} h` : "°C";
    }
    if (part === "rules") {
      const rule = project.rules.find((r) => r.id === k);
      return rule?.on ? "ƒ" : "at rest";
    }
    if (part === "drawPoints") return units.words(drawOf(project, k).volume, "m³", 0);
    if (part === "siteLights") return units.words(project.siteLights[k].power, "W", 0, true);
    if (part === "resets") return `${units.text(project.resets[k].cold.value, "°C", 1)} to ${units.words(project.resets[k].warm.value, "°C", 1)}`;
    if (part === "deviceLists") return String(project.deviceLists[k].devices.length);
    return "";
  };
  return (
    <>
      <Side label="Use" width="226px">
        <Flex px="1.5" mb="1" wrap="wrap">
          {useParts.map((p) => (
            <Toggle key={p} on={panel === null && part === p} tight onClick={() => show(p)}>
              {partWord[p].short}
            </Toggle>
          ))}
        </Flex>
        {part !== "airExchanges" && <Actions label={`What can be done with ${partWord[part].many.toLowerCase()}`} actions={actions} />}
        <SideHead>{partWord[part].many}</SideHead>
        {things.map(([k, x]) => (
          <SideItem key={k} active={panel === null && k === id} value={value(k)} onClick={() => showUse(part, k)}>
            {x.name}
          </SideItem>
        ))}
        {things.length === 0 && (
          <Text px="3" color="ink2">
            {EMPTY[part]}
          </Text>
        )}
        <Flex px="3" pt="3" direction="column" align="flex-start" gap="1">
          <Act onClick={() => set({ panel: panel === "sheet" ? null : "sheet", part })}>All inputs as a sheet</Act>
          <Act onClick={() => set({ panel: panel === "building" ? null : "building", part })}>What is known of the whole building</Act>
          <Act onClick={() => set({ panel: panel === "starter" ? null : "starter", part })}>Starter set by use and level</Act>
          <Act onClick={() => set({ panel: panel === "daylight" ? null : "daylight", part })}>Control by daylight</Act>
          <Act onClick={() => set({ panel: panel === "register" ? null : "register", part })}>Register of values and sources</Act>
        </Flex>
      </Side>
      {panel === "sheet" || panel === "register" ? (
        <Box as="main" aria-label={panel === "sheet" ? "Sheet" : "Register"} flex="1" minW="0" position="relative" background="sheet">
          {panel === "sheet" ? (
            <SheetTable key="sheet" project={project} names={inputSheets} of={inputSheet} />
          ) : (
            <SheetTable key="register" project={project} names={registerSheets} of={registerSheet} />
          )}
        </Box>
      ) : (
        <Middle label="Use">
          {panel === "library" && isNamed(part) ? (
            <LibraryDesk part={part} many={partWord[part].many} onTaken={(k) => showUse(part, k)} />
          ) : panel === "starter" ? (
            <StarterDesk />
          ) : panel === "daylight" ? (
            <DaylightDesk />
          ) : panel === "building" ? (
            <BuildingDesk />
          ) : part === "airExchanges" ? (
            <AirExchanges />
          ) : id === undefined ? (
            <Text color="ink2">{EMPTY[part]}</Text>
          ) : part === "spaceTypes" ? (
            <TypeDesk key={id} id={id} />
          ) : part === "schedules" ? (
            <ScheduleDesk key={id} id={id} />
          ) : part === "resets" ? (
            <ResetDesk key={id} id={id} />
          ) : part === "deviceLists" ? (
            <DeviceDesk key={id} id={id} />
          ) : part === "rules" ? (
            <RuleDesk key={id} id={id} />
          ) : part === "drawPoints" ? (
            <HotWaterDesk key={id} id={id} />
          ) : (
            <SiteLightDesk key={id} id={id} />
          )}
        </Middle>
      )}
      {panel === null && id !== undefined && part === "spaceTypes" && (
        <Inspector title={name} about={`space type · ${value(id)} space${value(id) === "1" ? "" : "s"}`}>
          {[...new Set(spaceFieldNames.map((f) => spaceFields[f].group))].map((group) => (
            <Box key={group}>
              <Head>{group}</Head>
              {spaceFieldNames
                .filter((f) => (spaceFields[f] as FieldSpec).group === group)
                .map((f) => (
                  <TypeInputRow key={f} type={id} field={f} />
                ))}
            </Box>
          ))}
          <Used part="spaceTypes" id={id} />
          <Keep part="spaceTypes" id={id} />
        </Inspector>
      )}
      {panel === null && id !== undefined && (part === "schedules" || part === "resets" || part === "deviceLists") && (
        <Inspector title={name} about={word}>
          {part === "schedules" && project.schedules[id].kind === "fraction" && (
            <Row label="Full hours a year" title="Hours at full value that give the same sum">
              <b>{value(id).replace(" h", "")}</b> h
            </Row>
          )}
          <Used part={part} id={id} />
          <Keep part={part} id={id} />
        </Inspector>
      )}
      {panel === null && part === "rules" && <RuleOrder />}
    </>
  );
}

const EMPTY: Record<UsePart, string> = {
  spaceTypes: "No space type yet. One says what happens in many spaces: people, light, equipment, air and set-points.",
  schedules: "No schedule yet. One says hour by hour how much of something is in use.",
  resets: "No outdoor reset yet. One makes a set-point follow the outdoor temperature, linear between two points.",
  deviceLists: "No device list yet. One adds up the devices of a room, and gives its power and its latent heat.",
  rules: "No rule yet. One fills an input across the building, such as outdoor air from people and floor area, and follows when they change.",
  drawPoints: "No draw of hot water yet. One is worked back from a year’s figure, or built up from fixtures.",
  siteLights: "No exterior lighting yet.",
  airExchanges: "",
};

/** Where a thing is used, and another in its place. */
function Used({ part, id }: { part: NamedPart & UsePart; id: string }) {
  const project = useStore((s) => s.project) as Project;
  const uses = whereUsed(project, part, id);
  return (
    <Box id="where-used">
      <Head>Where it is used</Head>
      {uses.length === 0 && <Text color="ink2">Used nowhere.</Text>}
      {uses.slice(0, 40).map((u) => {
        const field = u.path[u.path.length - 1];
        return (
          <Row key={u.path.join("/")} label={placeWords(project, u)}>
            {field in spaceFields ? spaceFields[field as keyof typeof spaceFields].label.toLowerCase() : ""}
          </Row>
        );
      })}
      {uses.length > 0 && <Swap part={part} one={partWord[part].one} id={id} />}
    </Box>
  );
}

/** All rules in the order they act, and the named values their expressions may use. */
function RuleOrder() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const add = (): void => {
    const key = freeId(project.values, "value");
    const names = new Set(Object.values(project.values).map((v) => v.name));
    let name = "designFlow";
    for (let n = 2; names.has(name); n++) name = `designFlow${n}`;
    edit(`Named value ${name}`, [{ op: "insert", path: ["values", key], value: { name, value: 10, unit: "L/s" } }]);
  };
  return (
    <Inspector title="Rules in order" about="Typed values stand above rules, later rules above earlier ones, rules above the space type.">
      {project.rules.map((r, i) => (
        <Row key={r.id} label={`${i + 1}. ${r.name}`} note={`${r.target}s: ${ruleField(r).toLowerCase()}${r.on ? "" : " · at rest"}`}>
          <Act onClick={() => showUse("rules", r.id)}>show</Act>
        </Row>
      ))}
      <Head>Named values</Head>
      {Object.entries(project.values).map(([id, v]) => {
        const set = (field: "name" | "value" | "unit", to: string | number) =>
          firstMessage(edit(`Named value ${v.name}`, [setChange(project, ["values", id, field], to)]));
        return (
          <Flex key={id} align="center" gap="1" borderBottom="1px solid" borderColor="line" py="0.5">
            <TextInput label={`Name of the value ${v.name}`} align="left" width="100px" value={v.name} onCommit={(t) => set("name", t)} />
            <NumberInput label={`Value of ${v.name}`} width="62px" value={v.value} onCommit={(n) => set("value", n)} />
            <TextInput label={`Unit of ${v.name}`} align="left" width="58px" value={v.unit} onCommit={(t) => set("unit", t)} />
            <IconButton label={`Remove ${v.name}`} icon={Trash2} onClick={() => edit(`Without ${v.name}`, [{ op: "remove", path: ["values", id], old: v }])} />
          </Flex>
        );
      })}
      <Act onClick={add}>Add a named value</Act>
    </Inspector>
  );
}
