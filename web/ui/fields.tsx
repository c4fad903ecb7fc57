"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useId, useState, type KeyboardEvent, type ReactNode } from "react";
import { convert, LEAP_YEAR, limitSentence, MONTH_NAMES, readQuantity, type FlowDensity, type Origin, type Problem } from "@arroyo/core";
import { digitsFor, figure, readNumber } from "./format.ts";
import { useUnits } from "./units.ts";
import { Told } from "./Told.tsx";

/** Mark and words that tell where a value comes from. */
export function originText(origin: Origin): { mark: string; words: string } {
  switch (origin.kind) {
    case "typed":
      return { mark: "●", words: "typed here" };
    case "spaceType":
      return origin.words === undefined ? { mark: "↑", words: `from ${origin.name}` } : { mark: "§", words: `${origin.words}, from ${origin.name}` };
    case "rule":
      return { mark: "ƒ", words: `by rule ${origin.name}` };
    case "code":
      return { mark: "§", words: origin.words };
    case "sized":
      return { mark: "⌁", words: origin.words };
    case "imported":
    case "calibrated":
      return { mark: "●", words: origin.words };
    case "kit":
      return { mark: "↑", words: `from ${origin.name}${origin.scope === "project" ? ", the project’s kit" : ""}` };
    case "project":
      return { mark: "↑", words: "from the project" };
    case "default":
      return { mark: "○", words: "default" };
  }
}

export function OriginMark({ origin }: { origin: Origin }) {
  const { mark, words } = originText(origin);
  return (
    <Text as="span" title={words} aria-label={words} role="img" color="ink2" fontSize="11px" cursor="default">
      {mark}
    </Text>
  );
}

const inputStyle = {
  background: "transparent",
  border: "1px solid transparent",
  borderBottomColor: "line",
  borderRadius: "small",
  textAlign: "right" as const,
  px: "1",
  h: "22px",
  fontWeight: "600",
  color: "ink",
  _hover: { borderColor: "line" },
  _focus: { borderColor: "water", background: "sheet", outline: "none" },
};

interface NumberInputProps {
  readonly value: number | null;
  readonly label: string;
  /** Says what was typed; returns the sentence that refuses it, or null. */
  readonly onCommit: (value: number) => string | null;
  readonly digits?: number;
  readonly width?: string;
  /** Hears every number while it is typed, and null when the entry is left. */
  readonly onDraft?: (value: number | null) => void;
  /** Without thousands separators, as for a year. */
  readonly plain?: boolean;
}

/** A typed entry as it is read: the value, with what was assumed on the way, or the sentence that refuses it. */
type Read = { readonly ok: true; readonly value: number; readonly note?: string } | { readonly ok: false; readonly message: string };

/** An entry that is typed over: a refused one stays visible with its sentence; Escape brings the value back. */
function Entry({
  shown,
  label,
  width,
  read,
  onCommit,
  onDraft,
  title,
  odd = false,
}: {
  shown: string;
  label: string;
  width: string;
  read: (text: string) => Read;
  onCommit: (value: number) => string | null;
  onDraft?: ((value: number | null) => void) | undefined;
  title?: string | undefined;
  odd?: boolean;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const [note, setNote] = useState<string | null>(null);
  const describedBy = useId();
  const commit = (): void => {
    if (draft === null) return;
    const r = read(draft);
    const sentence = r.ok ? onCommit(r.value) : r.message;
    setRefusal(sentence);
    setNote(r.ok && sentence === null ? (r.note ?? null) : null);
    if (sentence === null) {
      setDraft(null);
      onDraft?.(null);
    }
  };
  const onKey = (e: KeyboardEvent<HTMLInputElement>): void => {
    if (e.key === "Enter") commit();
    else if (e.key === "Escape") {
      setDraft(null);
      setRefusal(null);
      onDraft?.(null);
    }
  };
  return (
    <Box display="inline-block" position="relative" textAlign="right">
      <chakra.input
        {...inputStyle}
        width={width}
        aria-label={label}
        aria-invalid={refusal !== null}
        aria-describedby={refusal ? describedBy : undefined}
        borderColor={refusal ? "clay" : undefined}
        color={odd ? "clay" : "ink"}
        title={title}
        value={draft ?? shown}
        onChange={(e) => {
          setDraft(e.target.value);
          const r = read(e.target.value);
          onDraft?.(r.ok ? r.value : null);
        }}
        onFocus={(e) => e.target.select()}
        onBlur={commit}
        onKeyDown={onKey}
      />
      {refusal && (
        <Text id={describedBy} role="alert" color="clay" fontSize="11px" textAlign="right" maxW="220px" mt="0.5">
          <Told text={refusal} />
        </Text>
      )}
      {note && (
        <Text role="status" color="ink2" fontSize="11px" textAlign="right" maxW="220px" mt="0.5">
          {note}
        </Text>
      )}
    </Box>
  );
}

/** A number without a unit that can be typed over. */
export function NumberInput({ value, label, onCommit, digits, width = "76px", onDraft, plain = false }: NumberInputProps) {
  const shown = value === null ? "—" : plain ? String(value) : figure(value, digits ?? digitsFor(value));
  const read = (text: string): Read => {
    const n = readNumber(text);
    return n === null ? { ok: false, message: `“${text}” is not a number.` } : { ok: true, value: n };
  };
  return <Entry shown={shown} label={label} width={width} read={read} onCommit={onCommit} onDraft={onDraft} />;
}

interface QuantityProps {
  /** In the unit of the document. */
  readonly value: number | null;
  /** Unit of the document. */
  readonly unit: string;
  /** Unit of SI it is customarily shown in; absent: the document's. */
  readonly shown?: string;
  readonly label: string;
  /** Takes a value in the unit of the document; returns the problems or the sentence that refuse it. */
  readonly onCommit: (value: number) => readonly Problem[] | string | null;
  /** Digits that suit the unit of SI. */
  readonly digits?: number;
  readonly width?: string;
  readonly onDraft?: (value: number | null) => void;
  /** W and kWh stay in IP. */
  readonly electric?: boolean;
  /** Turns mass flows into volume flows. */
  readonly density?: FlowDensity;
  /** Without its unit behind it. */
  readonly bare?: boolean;
  readonly help?: string;
  /** In the unit of the document; a value outside is marked, not refused. */
  readonly usual?: readonly [number, number];
}

/** A quantity that can be typed over in any unit of its dimension, shown in the system in view. */
export function Quantity({
  value,
  unit,
  shown = unit,
  label,
  onCommit,
  digits,
  width = "76px",
  onDraft,
  electric = false,
  density,
  bare = false,
  help,
  usual,
}: QuantityProps) {
  const units = useUnits();
  const there = units.unit(shown, electric);
  const inShown = (v: number): number => convert(v, unit, shown);
  const text = value === null ? "—" : units.text(inShown(value), shown, digits, electric);
  const commit = (v: number): string | null => {
    const refused = onCommit(v);
    if (refused === null || typeof refused === "string") return refused;
    const [first] = refused;
    if (!first) return null;
    if (!first.limit) return first.message;
    return `The value must be ${first.limit.words} ${units.words(inShown(first.limit.value), shown, undefined, electric)}.`;
  };
  const range = usual
    ? `usual ${units.text(inShown(usual[0]), shown, undefined, electric)} to ${units.words(inShown(usual[1]), shown, undefined, electric)}`
    : "";
  const odd = usual !== undefined && value !== null && (value < usual[0] || value > usual[1]);
  const title = [help, range && `${range[0].toUpperCase()}${range.slice(1)}.`].filter(Boolean).join(" ");
  return (
    <>
      <Entry
        shown={text}
        label={label}
        width={width}
        read={(t) => readQuantity(t, unit, there, density)}
        onCommit={commit}
        onDraft={onDraft}
        title={title || undefined}
        odd={odd}
      />
      {!bare && there !== "1" && <Unit>{there}</Unit>}
    </>
  );
}

/** A text that can be typed over; an empty one is not taken. */
export function TextInput({
  value,
  label,
  onCommit,
  width = "170px",
  title = false,
  align = "right",
}: {
  value: string;
  label: string;
  onCommit: (value: string) => string | null;
  width?: string;
  /** As the head of a desk. */
  title?: boolean;
  align?: "left" | "right";
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const commit = (): void => {
    if (draft === null) return;
    const t = draft.trim();
    const sentence = t === "" ? "A name is needed." : t === value ? null : onCommit(t);
    setRefusal(sentence);
    if (sentence === null) setDraft(null);
  };
  return (
    <Box display="inline-block">
      <chakra.input
        {...inputStyle}
        {...(title ? { fontSize: "15px", textAlign: "left" as const, borderBottomColor: "transparent", pl: "0" } : {})}
        {...(align === "left" ? { textAlign: "left" as const } : {})}
        width={width}
        aria-label={label}
        aria-invalid={refusal !== null}
        value={draft ?? value}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === "Enter") commit();
          if (e.key === "Escape") {
            setDraft(null);
            setRefusal(null);
          }
        }}
      />
      {refusal && (
        <Text role="alert" color="clay" fontSize="11px" textAlign="right">
          <Told text={refusal} />
        </Text>
      )}
    </Box>
  );
}

interface SelectProps {
  readonly value: string;
  readonly label: string;
  readonly options: readonly { readonly value: string; readonly label: string }[];
  readonly onChange: (value: string) => void;
  readonly width?: string;
  readonly align?: "left" | "right";
}

export function SelectInput({ value, label, options, onChange, width = "150px", align = "right" }: SelectProps) {
  return (
    <chakra.select
      aria-label={label}
      {...inputStyle}
      textAlign={align}
      width={width}
      cursor="pointer"
      css={{ "& option": { background: "var(--chakra-colors-sheet)", color: "var(--chakra-colors-ink)" } }}
      value={value}
      onChange={(e) => onChange(e.target.value)}
    >
      {options.map((o) => (
        <option key={o.value} value={o.value}>
          {o.label}
        </option>
      ))}
    </chakra.select>
  );
}

/** A day and a month; of a shorter month chosen the last day is taken. */
export function DateInput({
  label,
  value,
  onCommit,
}: {
  label: string;
  value: readonly [month: number, day: number];
  onCommit: (date: [month: number, day: number]) => string | null;
}) {
  const [month, day] = value;
  return (
    <Box as="span" display="inline-flex" alignItems="flex-start" gap="1">
      <NumberInput label={`${label}, day`} width="34px" value={day} digits={0} onCommit={(v) => onCommit([month, v])} />
      <SelectInput
        label={`${label}, month`}
        width="100px"
        value={String(month)}
        options={MONTH_NAMES.map((name, i) => ({ value: String(i + 1), label: name }))}
        onChange={(v) => onCommit([Number(v), Math.min(day, LEAP_YEAR.monthDays[Number(v) - 1])])}
      />
    </Box>
  );
}

/** One row of an inspector: label, origin, value, unit and a quiet second line. What is too wide to stand beside its label goes below it. */
/** One line of an inspector. @param actions what can be done with it, shown under its label while it is pointed at or has the focus */
export function Row({
  label,
  children,
  note,
  title,
  actions,
}: {
  label: ReactNode;
  children: ReactNode;
  note?: ReactNode;
  title?: string;
  actions?: ReactNode;
}) {
  return (
    <Box
      py="1"
      borderBottom="1px solid"
      borderColor="line"
      position="relative"
      css={
        actions
          ? { "& > .actions": { opacity: 0, pointerEvents: "none" }, "&:hover > .actions, &:focus-within > .actions": { opacity: 1, pointerEvents: "auto" } }
          : undefined
      }
    >
      <Flex justify="space-between" align="center" columnGap="2" flexWrap="wrap" minH="22px">
        <Text color="ink2" title={title} flex="1 1 60px" minW="0">
          {label}
        </Text>
        <Flex align="center" gap="1.5" flexShrink={0} maxW="100%" flexWrap="wrap" justify="flex-end" ml="auto">
          {children}
        </Flex>
      </Flex>
      {note && (
        <Box fontSize="11.5px" color="ink2" lineHeight="1.35">
          {note}
        </Box>
      )}
      {actions && (
        // below the label alone: what stands to the right of the next row stays in reach
        <Flex
          className="actions"
          position="absolute"
          left="0"
          top="100%"
          maxW="126px"
          flexWrap="wrap"
          zIndex="2"
          columnGap="2"
          px="1"
          background="sheet"
          border="1px solid"
          borderColor="line"
        >
          {actions}
        </Flex>
      )}
    </Box>
  );
}

export function Unit({ children }: { children: ReactNode }) {
  return (
    <Text as="span" color="ink2" minW="44px" fontSize="12px">
      {children}
    </Text>
  );
}

/** A quiet action in text. */
export function Act({ children, onClick, title, disabled = false }: { children: ReactNode; onClick: () => void; title?: string; disabled?: boolean }) {
  return (
    <chakra.button
      type="button"
      color="water"
      fontSize="12px"
      title={title}
      opacity={disabled ? 0.5 : 1}
      cursor={disabled ? "default" : "pointer"}
      _hover={{ textDecoration: disabled ? "none" : "underline" }}
      onClick={onClick}
      disabled={disabled}
    >
      {children}
    </chakra.button>
  );
}

export function Head({ children, mt = "3" }: { children: ReactNode; mt?: string }) {
  return (
    <Text as="h2" textStyle="head" color="ink2" mt={mt} mb="1">
      {children}
    </Text>
  );
}

/** First refusing sentence of an edit, for the field beside it. @param times the unit the field shows over that of the document: 100 for per cent */
export function firstMessage(problems: readonly Problem[], times = 1): string | null {
  const [first] = problems;
  if (!first) return null;
  return first.limit && times !== 1 ? limitSentence(first.limit, times) : first.message;
}
