"use client";
import { Box } from "@chakra-ui/react";
import { usePathname, useRouter, useSearchParams } from "next/navigation";
import { Middle, Side, SideHead, SideItem } from "../../ui/Panes.tsx";
import { useStore } from "../store.ts";
import { AllYears } from "./AllYears.tsx";
import { CalendarSettings } from "./CalendarSettings.tsx";
import { DesignDays } from "./DesignDays.tsx";
import { PriceDesk } from "./PriceDesk.tsx";
import { RunSettings } from "./RunSettings.tsx";
import { SiteRows } from "./SiteRows.tsx";
import { Surroundings } from "./Surroundings.tsx";
import { WeatherFileDesk } from "./WeatherFileDesk.tsx";
import { WeatherLook } from "./WeatherLook.tsx";
import { YearInspector } from "./YearInspector.tsx";
import { YearList } from "./YearList.tsx";
import { placeViews as views, type PlaceView } from "./years.ts";

/** Site, weather years, surroundings, calendar and how the year is calculated. */
export function Place() {
  const weather = useStore((s) => s.live.weather);
  const query = useSearchParams();
  const router = useRouter();
  const path = usePathname();
  const asked = query.get("view");
  const view: PlaceView = asked !== null && Object.hasOwn(views, asked) ? (asked as PlaceView) : "weather";
  const go = (v: PlaceView): void => {
    const next = new URLSearchParams(query.toString());
    next.set("view", v);
    router.replace(`${path}?${next.toString()}`);
  };
  return (
    <>
      <Side label="Site" width="250px">
        <YearList go={go} />
        <SideHead>Look at</SideHead>
        {(Object.keys(views) as PlaceView[]).map((v) => (
          <SideItem key={v} active={v === view} onClick={() => go(v)}>
            {views[v]}
          </SideItem>
        ))}
        <SideHead>Site</SideHead>
        <SiteRows />
      </Side>
      <Middle label={views[view]}>
        {view === "run" ? (
          <RunSettings />
        ) : view === "surroundings" ? (
          <Surroundings />
        ) : view === "calendar" ? (
          <CalendarSettings />
        ) : view === "file" ? (
          <WeatherFileDesk onKept={() => go("weather")} />
        ) : view === "years" ? (
          <AllYears />
        ) : view === "design" ? (
          <DesignDays />
        ) : view === "prices" ? (
          <PriceDesk />
        ) : weather ? (
          <WeatherLook />
        ) : (
          <Box h="520px" aria-busy="true" />
        )}
      </Middle>
      {view !== "file" && view !== "prices" && view !== "design" && <YearInspector />}
    </>
  );
}
