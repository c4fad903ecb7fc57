"use client";
import { Box, Text } from "@chakra-ui/react";
import { useState } from "react";
import { useRouter, useSearchParams } from "next/navigation";
import {
  componentName,
  componentsOf,
  componentWords,
  drawnFrom,
  effectiveServices,
  onSiteKinds,
  ownerName,
  zonesOfWater,
  zonesOnSystem,
  type Change,
  type Project,
} from "@arroyo/core";
import { Actions, type Action, type ActionName } from "../../ui/Actions.tsx";
import { Inspector, Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { Act } from "../../ui/fields.tsx";
import { SheetTable } from "../../ui/SheetTable.tsx";
import { tally, useLiveFigures, useStore } from "../store.ts";
import { ComponentInspector } from "./ComponentInspector.tsx";
import { loopsOf, selectedComponent, selectionOf } from "./componentPlace.ts";
import { Bench } from "./Bench.tsx";
import { componentSheet, componentSheets } from "./componentSheet.ts";
import { Differences } from "./Differences.tsx";
import { LoopDesk } from "./LoopDesk.tsx";
import { OnSiteDesk } from "./OnSiteDesk.tsx";
import { newOnSite, newWaterSystem } from "./siteActions.ts";
import { WaterDesk } from "./WaterDesk.tsx";
import { MakeSystem } from "./MakeSystem.tsx";
import { PlainInspector } from "./PlainInspector.tsx";
import { ComponentTools, RoomInspector } from "./RoomInspector.tsx";
import { ServiceZones } from "./ServiceZones.tsx";
import { SizingTable } from "./Sizing.tsx";
import { copyChanges, SYSTEM_NAME } from "./systemActions.ts";
import { SystemDesk } from "./SystemDesk.tsx";
import { DrivenNote } from "../measured/DrivenNote.tsx";

const views = ["services", "sheet", "peaks", "bench", "differences", "make"] as const;
type View = (typeof views)[number];

/** Air systems, room equipment, plant and plain services, and how they were sized. */
export function Services() {
  const project = useStore((s) => s.project) as Project;
  const selection = useStore((s) => s.selection);
  const select = useStore((s) => s.select);
  const edit = useStore((s) => s.edit);
  const query = useSearchParams();
  const router = useRouter();
  const asked = views.find((v) => v === query.get("view")) ?? null;
  const setView = (v: View | null, of?: string): void => {
    const next = new URLSearchParams(window.location.search);
    if (of === undefined) next.delete("of");
    else next.set("of", of);
    if (v === null) next.delete("view");
    else next.set("view", v);
    router.replace(`${window.location.pathname}?${next.toString()}`);
  };
  const component = selectedComponent(project, selection);
  const zone = selection.find((s) => s.kind === "zone" && project.zones[s.id])?.id ?? (component?.path[0] === "zones" ? component.path[1] : undefined);
  /** What the bench begins with: what is selected. */
  const benchOf =
    component && component.path[0] !== "waterSystems" && component.path[0] !== "onSite"
      ? `component:${component.path.join("/")}`
      : zone !== undefined
        ? `zone:${zone}`
        : undefined;
  const plain = selection.find((s) => s.kind === "services" && project.services[s.id])?.id;
  const own =
    component?.path[0] === "airSystems"
      ? component.path[1]
      : component?.kind === "terminal" && typeof component.inputs.system === "string"
        ? component.inputs.system
        : undefined;
  const loop = component?.path[0] === "loops" ? component.path[1] : undefined;
  // plant opened from a system's drawing leaves that drawing where it is
  const [kept, setKept] = useState<string | null>(null);
  if (own !== undefined && own !== kept) setKept(own);
  const from = kept !== null && loop !== undefined && loopsOf(project, kept).includes(loop) ? kept : undefined;
  const system = own ?? from;
  const water = component?.path[0] === "waterSystems" ? component.path[1] : undefined;
  const onSite = component?.path[0] === "onSite" ? component.path[1] : undefined;
  const shown = water !== undefined ? "water" : onSite !== undefined ? "onSite" : null;
  const view: View | "system" | "loop" | "water" | "onSite" =
    asked ?? shown ?? (system !== undefined && project.airSystems[system] ? "system" : loop !== undefined ? "loop" : "services");
  const zonesOf = (key: string): number =>
    Object.keys(project.zones).filter((z) => effectiveServices(project, z).id === key && (project.zones[z].equipment ?? []).length === 0).length;
  const show = (path: readonly string[]): void => {
    setKept(path[0] === "airSystems" ? path[1] : null);
    select([selectionOf(path)]);
    if (asked !== null) setView(null);
  };
  const rename = (): void => document.querySelector<HTMLInputElement>(`#${SYSTEM_NAME} input`)?.focus();
  const thing: readonly ["airSystems" | "loops" | "waterSystems" | "onSite", string] | null =
    component === undefined
      ? null
      : view === "system"
        ? ["airSystems", system as string]
        : view === "loop"
          ? ["loops", loop as string]
          : view === "water"
            ? ["waterSystems", water as string]
            : view === "onSite"
              ? ["onSite", onSite as string]
              : null;
  const named: { readonly name: string } | null = thing ? project[thing[0]][thing[1]] : null;
  const users = thing?.[0] === "airSystems" ? zonesOnSystem(project, thing[1]).length : thing?.[0] === "loops" ? drawnFrom(project, thing[1]).length : 0;
  const make = (made: { readonly change: Change; readonly path: readonly string[] }, words: string): void => {
    if (edit(words, [made.change]).length === 0) show(made.path);
  };
  const actions: Partial<Record<ActionName, Action>> = {
    add: { label: "Add a system", run: () => setView("make") },
    ...(thing && named
      ? {
          copy: {
            label: `Copy ${named.name}`,
            run: () => {
              const made = copyChanges(project, thing[0], thing[1]);
              if (edit(`Copy of ${named.name}`, [made.change]).length === 0) show([thing[0], made.id]);
            },
          },
          rename: { label: `Rename ${named.name}`, run: rename },
          remove: {
            label: `Remove ${named.name}`,
            run: () => {
              select([]);
              edit(`Without ${named.name}`, [{ op: "remove", path: [...thing], old: named } as Change]);
            },
            ...(users > 0 ? { not: `${users} ${thing[0] === "loops" ? "things draw on it" : "rooms get its air"}; connect them to another first` } : {}),
          },
        }
      : {}),
  };
  return (
    <>
      <Side label="Services" width="196px">
        <Actions label="Systems" actions={actions} />
        <SideHead>Read</SideHead>
        <SideItem
          active={view === "services"}
          onClick={() => {
            select([]);
            setView("services");
          }}
        >
          Zones and services
        </SideItem>
        <SideItem active={view === "sheet"} onClick={() => setView("sheet")}>
          All as a sheet
        </SideItem>
        <SideItem active={view === "peaks"} onClick={() => setView("peaks")}>
          What was sized
        </SideItem>
        <SideItem active={view === "bench"} onClick={() => setView("bench", benchOf)}>
          On its own
        </SideItem>
        <SideItem active={view === "differences"} onClick={() => setView("differences")}>
          Differences
        </SideItem>
        <SideHead>Air systems</SideHead>
        {Object.entries(project.airSystems).map(([key, x]) => (
          <SideItem key={key} active={view === "system" && key === system} value={zonesOnSystem(project, key).length} onClick={() => show(["airSystems", key])}>
            {x.name}
          </SideItem>
        ))}
        <SideItem active={view === "make"} onClick={() => setView("make")}>
          + system
        </SideItem>
        {Object.keys(project.loops).length > 0 && <SideHead>Loops</SideHead>}
        {Object.entries(project.loops).map(([key, x]) => (
          <SideItem key={key} active={view === "loop" && key === loop} value={drawnFrom(project, key).length} onClick={() => show(["loops", key])}>
            {x.name}
          </SideItem>
        ))}
        <SideHead>Hot water</SideHead>
        {Object.entries(project.waterSystems).map(([key, x]) => (
          <SideItem key={key} active={view === "water" && key === water} value={zonesOfWater(project, key).length} onClick={() => show(["waterSystems", key])}>
            {x.name}
          </SideItem>
        ))}
        <SideItem active={false} onClick={() => make(newWaterSystem(project), "New hot-water system")}>
          + hot-water system
        </SideItem>
        <SideHead>Electricity on site</SideHead>
        {Object.entries(project.onSite).map(([key, x]) => (
          <SideItem key={key} active={view === "onSite" && key === onSite} onClick={() => show(["onSite", key])}>
            {x.name}
          </SideItem>
        ))}
        {onSiteKinds.map((kind) => (
          <SideItem key={kind} active={false} onClick={() => make(newOnSite(project, kind), `New ${componentWords[kind]}`)}>
            + {componentWords[kind]}
          </SideItem>
        ))}
        <SideHead>Plain services</SideHead>
        {Object.entries(project.services).map(([key, x]) => (
          <SideItem
            key={key}
            active={key === plain}
            value={`${zonesOf(key)} zone${zonesOf(key) === 1 ? "" : "s"}`}
            onClick={() => {
              select([{ kind: "services", id: key }]);
              if (asked !== "services") setView("services");
            }}
          >
            {x.name}
          </SideItem>
        ))}
      </Side>
      {view === "sheet" ? (
        <Sheet />
      ) : (
        <Middle label={view === "services" ? "Zones and their services" : "Services"}>
          {view === "peaks" ? (
            <SizingTable />
          ) : view === "bench" ? (
            <Bench of={query.get("of")} choose={(of) => setView("bench", of)} />
          ) : view === "differences" ? (
            <Differences />
          ) : view === "make" ? (
            <MakeSystem done={() => setView(null)} />
          ) : view === "system" && system !== undefined ? (
            <SystemDesk id={system} />
          ) : view === "loop" && loop !== undefined ? (
            <LoopDesk id={loop} />
          ) : view === "water" && water !== undefined ? (
            <WaterDesk id={water} />
          ) : view === "onSite" && onSite !== undefined ? (
            <OnSiteDesk key={onSite} id={onSite} />
          ) : (
            <ServiceZones />
          )}
        </Middle>
      )}
      {component ? (
        <Inspector title={componentName(component)} about={<About path={component.path} />}>
          <ComponentTools component={component} alone={view === "bench" || shown !== null ? null : () => setView("bench", benchOf)} />
          <DrivenNote of={[`${component.path.join("/")}/inputs/`]} />
          <ComponentInspector component={component} />
        </Inspector>
      ) : zone !== undefined ? (
        <RoomInspector zone={zone} />
      ) : view === "services" || plain !== undefined ? (
        <PlainInspector id={plain ?? project.defaults.services} />
      ) : null}
    </>
  );
}

/** Every component by kind, as a sheet. */
function Sheet() {
  const project = useStore((s) => s.project) as Project;
  const sizes = tally(useLiveFigures()).summary?.sized;
  const names = componentSheets(project);
  return (
    <Box as="main" aria-label="Sheet" flex="1" minW="0" position="relative" background="sheet">
      {names.length === 0 ? (
        <Text p="4" color="ink2">
          No system, room equipment or loop yet: every zone has plain services.
        </Text>
      ) : (
        <SheetTable
          project={project}
          names={names}
          first={names.find((n) => n === "Terminal") ?? names[0]}
          of={(p, sheet, units) => componentSheet(p, sheet, units, sizes)}
        />
      )}
    </Box>
  );
}

/** What a component is and where it belongs, with the way there. */
function About({ path }: { path: readonly string[] }) {
  const project = useStore((s) => s.project) as Project;
  const select = useStore((s) => s.select);
  const c = componentsOf(project).find((x) => x.path.join("/") === path.join("/"));
  if (!c) return null;
  if (path.length === 2) return <>{c.kind === "loop" ? `loop of ${project.loops[path[1]].kind}` : componentWords[c.kind]}</>;
  const of = ownerName(project, c);
  return (
    <>
      {componentWords[c.kind]} · <Act onClick={() => select([path[0] === "zones" ? { kind: "zone", id: path[1] } : selectionOf(path.slice(0, 2))])}>{of}</Act>
    </>
  );
}
