"use client";
import { chakra } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** One of a few ways to look at a thing, or a state that is on or off. */
export function Toggle({
  on,
  children,
  onClick,
  title,
  tight = false,
}: {
  on: boolean;
  children: ReactNode;
  onClick: () => void;
  title?: string;
  tight?: boolean;
}) {
  return (
    <chakra.button
      type="button"
      aria-pressed={on}
      title={title}
      px={tight ? "1.5" : "2"}
      h="24px"
      borderRadius="small"
      fontSize="12.5px"
      cursor="pointer"
      background={on ? "wash" : "transparent"}
      color={on ? "water" : "ink"}
      fontWeight={on ? "600" : "400"}
      _hover={{ background: "wash" }}
      onClick={onClick}
    >
      {children}
    </chakra.button>
  );
}
