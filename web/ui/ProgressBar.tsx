"use client";
import { Box } from "@chakra-ui/react";

/** How much of something is done. @param share 0…1 */
export function ProgressBar({ label, share, width }: { label: string; share: number; width?: string }) {
  return (
    <Box
      flex="1"
      h="4px"
      background="line"
      role="progressbar"
      aria-label={label}
      aria-valuenow={Math.round(100 * share)}
      aria-valuemin={0}
      aria-valuemax={100}
      {...(width ? { maxW: width } : {})}
    >
      <Box h="100%" background="water" style={{ width: `${100 * share}%` }} />
    </Box>
  );
}
