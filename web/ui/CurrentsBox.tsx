"use client";
import { Box } from "@chakra-ui/react";
import { useEffect, useRef, useSyncExternalStore } from "react";
import type { AxesData } from "@arroyo/core";
import { Currents, type CurrentsLook, type CurrentsState } from "./currents/currents.ts";

const token = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(`--chakra-colors-${name}`).trim();
let known: { readonly of: string; readonly look: CurrentsLook } | null = null;
/** The colours of the theme in view, as a canvas takes them. */
function lookNow(): CurrentsLook {
  const [ink, ink2, line, sheet, water, wash, clay] = ["ink", "ink2", "line", "sheet", "water", "wash", "clay"].map(token);
  const of = [ink, ink2, line, sheet, water, wash, clay].join();
  if (known?.of !== of) known = { of, look: { ink, ink2, line, sheet, water, wash, clay, sediment: "#A79C86", font: '11px "IBM Plex Sans", sans-serif' } };
  return known.look;
}
const dry: CurrentsLook = { ink: "", ink2: "", line: "", sheet: "", water: "", wash: "", clay: "", sediment: "", font: "" };
function watch(tell: () => void): () => void {
  const observer = new MutationObserver(tell);
  observer.observe(document.documentElement, { attributes: true, attributeFilter: ["class", "data-theme", "style"] });
  return () => observer.disconnect();
}
/** Colours of the theme in view for what is drawn on a canvas. */
export const useCanvasLook = (): CurrentsLook => useSyncExternalStore(watch, lookNow, () => dry);

/** Runs as currents through linked axes. @see Currents */
export function CurrentsBox({
  data,
  state,
  onChange,
  onCanvas,
  height,
}: {
  data: AxesData;
  state: CurrentsState;
  onChange: (state: CurrentsState) => void;
  onCanvas: (canvas: HTMLCanvasElement | null) => void;
  height: string;
}) {
  const host = useRef<HTMLDivElement>(null);
  const drawn = useRef<Currents | null>(null);
  const hear = useRef(onChange);
  const look = useCanvasLook();
  useEffect(() => {
    hear.current = onChange;
  });
  useEffect(() => {
    if (!host.current) return;
    const currents = new Currents(host.current, data, look, state, (s) => hear.current(s));
    drawn.current = currents;
    onCanvas(currents.canvas);
    return () => {
      currents.destroy();
      drawn.current = null;
      onCanvas(null);
    };
    // made once: what changes is told below
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  useEffect(() => drawn.current?.update(data, state, look), [data, state, look]);
  return <Box ref={host} h={height} w="100%" data-testid="axes" />;
}
