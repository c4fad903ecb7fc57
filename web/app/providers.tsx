"use client";
import createCache from "@emotion/cache";
import { CacheProvider } from "@emotion/react";
import { ChakraProvider } from "@chakra-ui/react";
import { useServerInsertedHTML } from "next/navigation";
import { useState, type ReactNode } from "react";
import { system } from "../ui/theme.ts";

/** Chakra with styles collected on the server, so that hydration finds what was sent. */
export function Providers({ children }: { children: ReactNode }) {
  const [{ cache, flush }] = useState(() => {
    const made = createCache({ key: "css" });
    made.compat = true;
    const insert = made.insert;
    let names: string[] = [];
    made.insert = (...args) => {
      const [, serialized] = args;
      if (made.inserted[serialized.name] === undefined) names.push(serialized.name);
      return insert(...args);
    };
    return {
      cache: made,
      flush: () => {
        const done = names;
        names = [];
        return done;
      },
    };
  });
  useServerInsertedHTML(() => {
    const names = flush();
    if (names.length === 0) return null;
    return <style data-emotion={`${cache.key} ${names.join(" ")}`} dangerouslySetInnerHTML={{ __html: names.map((n) => cache.inserted[n]).join("") }} />;
  });
  return (
    <CacheProvider value={cache}>
      <ChakraProvider value={system}>{children}</ChakraProvider>
    </CacheProvider>
  );
}
