"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useRef, useState, type ReactNode } from "react";
import { Act } from "./fields.tsx";
import { figure } from "./format.ts";

/** A place where a file is dropped or chosen. The same file may be chosen again. */
export function FileDrop({
  label,
  words,
  choose,
  file,
  share,
  take,
  children,
}: {
  /** Name of the field. */
  label: string;
  /** What to drop, and the words of the choice. */
  words: string;
  choose: string;
  file: File | null;
  /** Share of it that is read; null: nothing is read now. */
  share: number | null;
  take: (file: File) => void;
  /** What may be dropped here, while nothing is. */
  children: ReactNode;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const chosen = (f: File | undefined): void => {
    if (input.current) input.current.value = "";
    if (f) take(f);
  };
  return (
    <Box
      border="1px dashed"
      borderColor={over ? "water" : "line"}
      background={over ? "wash" : "transparent"}
      px="4"
      py={file ? "1.5" : "6"}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        chosen(e.dataTransfer.files[0]);
      }}
    >
      <Flex gap="3" align="baseline">
        <Text fontWeight="600">{file ? file.name : words}</Text>
        <Act onClick={() => input.current?.click()}>{file ? "another file" : choose}</Act>
        {share !== null && (
          <Text color="ink2" role="status">
            reading {figure(100 * share, 0)} %
          </Text>
        )}
      </Flex>
      {!file && (
        <Text color="ink2" mt="1" maxW="620px">
          {children}
        </Text>
      )}
      <chakra.input ref={input} type="file" display="none" aria-label={label} onChange={(e) => chosen(e.target.files?.[0])} />
    </Box>
  );
}
