"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useState, type KeyboardEvent, type ReactNode } from "react";

export interface Found {
  readonly key: string;
  readonly name: string;
  /** Group it is listed in. */
  readonly group: string;
  /** Kind it can be filtered by. */
  readonly kind: string;
  readonly figures: ReactNode;
}

/** A list found by words and kind; arrows and Enter choose. */
export function Find({
  label,
  items,
  onChoose,
  onClose,
  height = "230px",
  autoFocus = true,
}: {
  label: string;
  items: readonly Found[];
  onChoose: (key: string) => void;
  onClose?: () => void;
  height?: string;
  autoFocus?: boolean;
}) {
  const [text, setText] = useState("");
  const [kind, setKind] = useState("");
  const [at, setAt] = useState(0);
  const kinds = [...new Set(items.map((i) => i.kind))];
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = items.filter((i) => (kind === "" || i.kind === kind) && words.every((w) => `${i.name} ${i.kind} ${i.group}`.toLowerCase().includes(w)));
  const onKey = (e: KeyboardEvent): void => {
    if (e.key === "ArrowDown") setAt(Math.min(at + 1, found.length - 1));
    else if (e.key === "ArrowUp") setAt(Math.max(at - 1, 0));
    else if (e.key === "Enter") {
      if (found[at]) onChoose(found[at].key);
    } else if (e.key === "Escape") onClose?.();
    else return;
    e.preventDefault();
    document.getElementById(`found-${e.key === "ArrowUp" ? at - 1 : at + 1}`)?.scrollIntoView({ block: "nearest" });
  };
  return (
    <Box border="1px solid" borderColor="line" background="paper" role="group" aria-label={label}>
      <Flex gap="2" p="1.5" align="center" borderBottom="1px solid" borderColor="line">
        <chakra.input
          aria-label={`Search: ${label}`}
          placeholder={label}
          autoFocus={autoFocus}
          flex="1"
          minW="0"
          px="1.5"
          h="24px"
          background="sheet"
          border="1px solid"
          borderColor="line"
          borderRadius="small"
          value={text}
          onChange={(e) => {
            setText(e.target.value);
            setAt(0);
          }}
          onKeyDown={onKey}
        />
        <chakra.select
          aria-label={`Kind: ${label}`}
          value={kind}
          background="transparent"
          fontSize="12px"
          css={{ "& option": { background: "var(--chakra-colors-sheet)", color: "var(--chakra-colors-ink)" } }}
          onChange={(e) => {
            setKind(e.target.value);
            setAt(0);
          }}
        >
          <option value="">every kind</option>
          {kinds.map((k) => (
            <option key={k}>{k}</option>
          ))}
        </chakra.select>
        <Text color="ink2" fontSize="12px" whiteSpace="nowrap">
          {found.length} of {items.length}
        </Text>
        {onClose && (
          <chakra.button type="button" color="water" fontSize="12px" cursor="pointer" onClick={onClose}>
            close
          </chakra.button>
        )}
      </Flex>
      <Box maxH={height} overflowY="auto" role="listbox" aria-label={label} tabIndex={-1}>
        {found.slice(0, 300).map((i, k) => (
          <Box key={i.key}>
            {(k === 0 || found[k - 1].group !== i.group) && (
              <Text textStyle="head" color="ink2" px="2" pt="1.5" fontSize="10.5px">
                {i.group}
              </Text>
            )}
            <Flex
              id={`found-${k}`}
              role="option"
              aria-selected={k === at}
              aria-label={i.name}
              px="2"
              py="0.5"
              gap="3"
              cursor="pointer"
              background={k === at ? "wash" : "transparent"}
              _hover={{ background: "wash" }}
              onClick={() => onChoose(i.key)}
            >
              <Text flex="1" minW="0" whiteSpace="nowrap" overflow="hidden" textOverflow="ellipsis">
                {i.name}
              </Text>
              <Text color="ink2" whiteSpace="nowrap" fontSize="12px">
                {i.figures}
              </Text>
            </Flex>
          </Box>
        ))}
        {found.length === 0 && (
          <Text px="2" py="1.5" color="ink2">
            Nothing by that name.
          </Text>
        )}
      </Box>
    </Box>
  );
}
