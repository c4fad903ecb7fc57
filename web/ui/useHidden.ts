"use client";
import { useState } from "react";

/** What of a chart is switched off in its legend, the switch, and a way to switch a list off at once. */
export function useHidden(): [hidden: ReadonlySet<string>, toggle: (key: string) => void, hide: (keys: readonly string[]) => void] {
  const [hidden, setHidden] = useState<ReadonlySet<string>>(new Set());
  return [
    hidden,
    (key) => {
      const next = new Set(hidden);
      if (!next.delete(key)) next.add(key);
      setHidden(next);
    },
    (keys) => setHidden(new Set(keys)),
  ];
}
