"use client";
import { create } from "zustand";
import { useMemo } from "react";
import { convert, shownUnit, turnQuantities, unitSystems, type FieldSpec, type UnitSystem } from "@arroyo/core";
import { difference, digitsFor, figure } from "./format.ts";

const KEY = "arroyo-units";
const stored = (): UnitSystem => {
  const kept = typeof localStorage === "undefined" ? null : localStorage.getItem(KEY);
  return unitSystems.find((s) => s === kept) ?? "SI";
};

/** The system figures are shown in: of this browser, not of the document. */
export const useUnitSystem = create<{ readonly system: UnitSystem; set(system: UnitSystem): void }>()((set) => ({
  system: stored(),
  set: (system) => {
    localStorage.setItem(KEY, system);
    set({ system });
  },
}));

/** How figures of the document read in the system in view. Units are named as in SI. */
export interface Units {
  readonly system: UnitSystem;
  /** Name of the unit shown for a unit of SI. @param electric W and kWh stay */
  unit(si: string, electric?: boolean): string;
  /** A figure in the unit shown. */
  value(v: number, si: string, electric?: boolean): number;
  /** A figure as text, without its unit; digits as they suit the unit of SI. */
  text(v: number | null | undefined, si: string, digits?: number, electric?: boolean): string;
  /** A figure with its unit. */
  words(v: number | null | undefined, si: string, digits?: number, electric?: boolean): string;
  /** A sentence of the core with its figures in the units shown. */
  turned(sentence: string): string;
  /** A difference with its sign. */
  difference(v: number, si: string, digits?: number, electric?: boolean): string;
}

/** Digits that show as much in one unit as the given number does in another. */
const digitsIn = (digits: number, factor: number): number => Math.max(0, Math.min(6, digits + Math.round(-Math.log10(Math.abs(factor)))));

/** @see Units */
export function unitsIn(system: UnitSystem): Units {
  const unit = (si: string, electric = false): string => shownUnit(si, system, electric);
  const value = (v: number, si: string, electric = false): number => {
    const to = unit(si, electric);
    return to === si ? v : convert(v, si, to);
  };
  const step = (si: string, electric: boolean): number => (unit(si, electric) === si ? 1 : value(2, si, electric) - value(1, si, electric));
  const text = (v: number | null | undefined, si: string, digits?: number, electric = false): string => {
    if (v === null || v === undefined || !Number.isFinite(v)) return "—";
    const shown = value(v, si, electric);
    return figure(shown, digits === undefined ? digitsFor(shown) : digitsIn(digits, step(si, electric)));
  };
  return {
    system,
    unit,
    value,
    text,
    words: (v, si, digits, electric = false) => {
      const t = text(v, si, digits, electric);
      const u = unit(si, electric);
      return t === "—" || u === "" || u === "1" ? t : `${t}${u === "%" || u === "°" ? "" : " "}${u}`;
    },
    turned: (sentence) => turnQuantities(sentence, system),
    difference: (v, si, digits = 1, electric = false) => difference(v * step(si, electric), digitsIn(digits, step(si, electric))),
  };
}

const both = { SI: unitsIn("SI"), IP: unitsIn("IP") };
/** The units in view, for a component. */
export function useUnits(): Units {
  const system = useUnitSystem((s) => s.system);
  return useMemo(() => both[system], [system]);
}
/** The units in view, outside of components. */
export const unitsNow = (): Units => both[useUnitSystem.getState().system];

/** A value of an inheritable input as it reads, with its unit or (bare) without. */
export function fieldWords(units: Units, spec: FieldSpec, value: number, bare = false): string {
  const shown = spec.display?.unit ?? spec.unit;
  return units[bare ? "text" : "words"](convert(value, spec.unit, shown), shown, undefined, spec.electric);
}
