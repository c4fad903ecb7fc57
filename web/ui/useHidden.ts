"use client";
import { useState } from "react";

/** What of a chart is switched off in its legend, and the switch. */
export function useHidden(): [hidden: ReadonlySet<string>, toggle: (key: string) => void] {
  const [hidden, setHidden] = useState<ReadonlySet<string>>(new Set());
  return [
    hidden,
    (key) => {
      const next = new Set(hidden);
      if (!next.delete(key)) next.add(key);
      setHidden(next);
    },
  ];
}
