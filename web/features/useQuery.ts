"use client";
import { usePathname, useRouter, useSearchParams } from "next/navigation";

/** What the address says, and a way to change it in place; null takes a part away. */
export function useQuery(): [query: URLSearchParams, change: (changes: Readonly<Record<string, string | null>>) => void] {
  const query = useSearchParams();
  const router = useRouter();
  const path = usePathname();
  return [
    query,
    (changes) => {
      const next = new URLSearchParams(query.toString());
      for (const [k, v] of Object.entries(changes))
        if (v === null) next.delete(k);
        else next.set(k, v);
      router.replace(`${path}?${next.toString()}`);
    },
  ];
}
