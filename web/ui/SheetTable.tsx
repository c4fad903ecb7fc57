"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { getCoreRowModel, getFilteredRowModel, getSortedRowModel, useReactTable, type ColumnDef, type SortingState } from "@tanstack/react-table";
import { ArrowDownToLine, Columns3, Download, Undo2, Upload } from "lucide-react";
import { useLayoutEffect, useMemo, useRef, useState, type ClipboardEvent, type KeyboardEvent } from "react";
import type { Project } from "@arroyo/core";
import { IconButton } from "./Actions.tsx";
import { Act, firstMessage, SelectInput } from "./fields.tsx";
import { Grid } from "./Panes.tsx";
import { saveCsv } from "./saveCsv.ts";
import { useUnits, type Units } from "./units.ts";
import { useStore } from "../features/store.ts";
import { Toggle } from "./Toggle.tsx";
import { cellChanges, heading, plainCell, readSheetCsv, shownCell, type Column, type CsvRead, type Row, type SheetData } from "./sheet.ts";
import { Told } from "./Told.tsx";

interface Cell {
  readonly row: number;
  readonly column: number;
}
/** Height of a row, px, and how many are kept beyond those in sight: a long sheet shows only what can be seen. */
const ROW = 23;
const BEYOND = 12;
/** Sheets beyond this number are chosen from a list. */
const MOST_TABS = 6;

/** Lists of things as sheets: sorted, filtered, edited many at once, pasted to and from a spreadsheet, read from CSV after a look at what would change. */
export function SheetTable<N extends string>({
  project,
  names,
  first,
  of,
}: {
  project: Project;
  names: readonly N[];
  /** Sheet shown first. */
  first?: N;
  of: (project: Project, name: N, units: Units) => SheetData;
}) {
  const units = useUnits();
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const selection = useStore((s) => s.selection);
  const [sheet, setSheet] = useState<N>(first ?? names[0]);
  const [sorting, setSorting] = useState<SortingState>([]);
  const [filter, setFilter] = useState("");
  const [at, setAt] = useState<Cell>({ row: 0, column: 0 });
  const [to, setTo] = useState<Cell>({ row: 0, column: 0 });
  const [draft, setDraft] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [csv, setCsv] = useState<{ readonly name: string; readonly read: CsvRead } | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  /** Columns that do not fit to the right. */
  const [more, setMore] = useState(false);
  const [firstRow, setFirstRow] = useState(0);
  const [rowsSeen, setRowsSeen] = useState(40);
  const measure = (): void => {
    const f = frame.current;
    if (!f) return;
    setMore(f.scrollLeft + f.clientWidth < f.scrollWidth - 2);
    const from = Math.max(0, Math.floor(f.scrollTop / ROW) - BEYOND);
    // in steps, so that not every line scrolled draws the sheet anew
    setFirstRow(from - (from % BEYOND));
    setRowsSeen(Math.ceil(f.clientHeight / ROW));
  };
  useLayoutEffect(() => {
    measure();
    const seen = new ResizeObserver(measure);
    if (frame.current) seen.observe(frame.current);
    return () => seen.disconnect();
    // the width changes with the sheet and its units
  }, [sheet, units]);
  const body = useRef<HTMLTableElement>(null);
  const data = useMemo(() => of(project, sheet, units), [of, project, sheet, units]);
  const columns = useMemo(
    (): ColumnDef<Row>[] =>
      data.columns.map((c) => ({
        id: c.key,
        accessorFn: (r) => c.value(r),
        sortingFn: (a, b) => {
          const [x, y] = [c.value(a.original), c.value(b.original)];
          if (x === null || y === null) return x === y ? 0 : x === null ? 1 : -1;
          return typeof x === "number" && typeof y === "number" ? x - y : String(x).localeCompare(String(y), "en", { numeric: true });
        },
      })),
    [data],
  );
  // eslint-disable-next-line react-hooks/incompatible-library -- the table is made anew each time and not memoised
  const table = useReactTable({
    data: data.rows as Row[],
    columns,
    state: { sorting, globalFilter: filter },
    onSortingChange: setSorting,
    onGlobalFilterChange: setFilter,
    globalFilterFn: (r, _, text: string) =>
      text
        .toLowerCase()
        .split(/\s+/)
        .every((w) => data.columns.some((c) => shownCell(c, r.original).toLowerCase().includes(w))),
    getRowId: (r) => r.id,
    getCoreRowModel: getCoreRowModel(),
    getFilteredRowModel: getFilteredRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const rows = table.getRowModel().rows.map((r) => r.original);
  const inSight = { from: Math.min(firstRow, Math.max(0, rows.length - 1)), to: Math.min(rows.length, firstRow + rowsSeen + 3 * BEYOND) };
  const range = {
    row: [Math.min(at.row, to.row), Math.max(at.row, to.row)],
    column: [Math.min(at.column, to.column), Math.max(at.column, to.column)],
  } as const;
  const inRange = (r: number, c: number): boolean => r >= range.row[0] && r <= range.row[1] && c >= range.column[0] && c <= range.column[1];

  /** Writes texts into cells as one step; all are taken or none. */
  const write = (cells: readonly { row: Row; column: Column; text: string }[], name: string): void => {
    const changes = cellChanges(cells);
    if (typeof changes === "string") return setSaid(changes);
    if (changes.length === 0) return setSaid(null);
    const refusal = firstMessage(edit(name, changes));
    setSaid(refusal === null ? null : `${refusal} Nothing was changed.`);
  };
  const chosenCells = (): { row: Row; column: Column }[] => {
    const out: { row: Row; column: Column }[] = [];
    for (let r = range.row[0]; r <= Math.min(range.row[1], rows.length - 1); r++)
      for (let c = range.column[0]; c <= range.column[1]; c++) out.push({ row: rows[r], column: data.columns[c] });
    return out;
  };
  const commit = (): void => {
    if (draft === null) return;
    const text = draft;
    setDraft(null);
    write(
      chosenCells().map((c) => ({ ...c, text })),
      range.row[0] === range.row[1]
        ? `${data.columns[at.column].name} ${text}`
        : `${data.columns[at.column].name} ${text} in ${range.row[1] - range.row[0] + 1} rows`,
    );
    body.current?.focus();
  };
  const clear = (): void => {
    const changes = chosenCells().flatMap((c) => [...(c.column.clear?.(c.row) ?? [])]);
    const unique = [...new Map(changes.map((c) => [c.path.join("/"), c])).values()];
    setSaid(unique.length === 0 ? "Nothing typed here to take back." : firstMessage(edit("Back to inherited", unique)));
  };
  /** The first row of the selection into all rows below it that are selected. */
  const fillDown = (): void => {
    const cells: { row: Row; column: Column; text: string }[] = [];
    const source = rows[range.row[0]];
    if (!source || range.row[1] === range.row[0]) return setSaid("Select the cell to fill from and the rows below it.");
    for (let r = range.row[0] + 1; r <= Math.min(range.row[1], rows.length - 1); r++)
      for (let c = range.column[0]; c <= range.column[1]; c++) {
        const column = data.columns[c];
        cells.push({ row: rows[r], column, text: plainCell(column, source) });
      }
    write(cells, `Fill ${data.columns[range.column[0]].name} down ${range.row[1] - range.row[0]} rows`);
  };
  const wholeColumn = (): void => {
    setAt({ row: 0, column: range.column[0] });
    setTo({ row: rows.length - 1, column: range.column[1] });
  };
  const go = (r: number, c: number, extend: boolean): void => {
    const next = { row: Math.max(0, Math.min(rows.length - 1, r)), column: Math.max(0, Math.min(data.columns.length - 1, c)) };
    setTo(next);
    if (!extend) setAt(next);
    if (!extend && rows[next.row]) select([rows[next.row].select]);
    // what moves by keys stays in sight, below the heads
    const f = frame.current;
    if (f && next.row * ROW < f.scrollTop) f.scrollTop = next.row * ROW;
    else if (f && (next.row + 3) * ROW > f.scrollTop + f.clientHeight) f.scrollTop = (next.row + 3) * ROW - f.clientHeight;
  };
  const onKey = (e: KeyboardEvent): void => {
    if (draft !== null) return;
    const from = e.shiftKey ? to : at;
    if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === "d") fillDown();
    else if (e.ctrlKey && e.key === " ") wholeColumn();
    else if (e.key === "ArrowDown") go(from.row + 1, from.column, e.shiftKey);
    else if (e.key === "ArrowUp") go(from.row - 1, from.column, e.shiftKey);
    else if (e.key === "ArrowRight") go(from.row, from.column + 1, e.shiftKey);
    else if (e.key === "ArrowLeft") go(from.row, from.column - 1, e.shiftKey);
    else if (e.key === "Enter" || e.key === "F2") setDraft(rows[at.row] ? plainCell(data.columns[at.column], rows[at.row]) : null);
    else if (e.key === "Delete" || e.key === "Backspace") clear();
    else if (e.key.length === 1 && !e.ctrlKey && !e.metaKey && !e.altKey) setDraft(e.key);
    else return;
    e.preventDefault();
  };
  const onCopy = (e: ClipboardEvent): void => {
    if (draft !== null) return;
    const lines: string[] = [];
    for (let r = range.row[0]; r <= range.row[1] && rows[r]; r++)
      lines.push(
        data.columns
          .slice(range.column[0], range.column[1] + 1)
          .map((c) => plainCell(c, rows[r]))
          .join("\t"),
      );
    e.clipboardData.setData("text/plain", lines.join("\n"));
    e.preventDefault();
  };
  const block = (lines: readonly (readonly string[])[], name: string): void => {
    const cells: { row: Row; column: Column; text: string }[] = [];
    const one = lines.length === 1 && lines[0].length === 1;
    if (one) cells.push(...chosenCells().map((c) => ({ ...c, text: lines[0][0] })));
    else
      lines.forEach((line, i) =>
        line.forEach((text, j) => {
          const row = rows[range.row[0] + i];
          const column = data.columns[range.column[0] + j];
          if (row && column) cells.push({ row, column, text });
        }),
      );
    const beyond = range.row[0] + lines.length > rows.length ? lines.length - (rows.length - range.row[0]) : 0;
    if (beyond > 0 && !one) return setSaid(`The block has ${beyond} row${beyond > 1 ? "s" : ""} more than the sheet from here on; nothing was changed.`);
    write(cells, name);
  };
  const onPaste = (e: ClipboardEvent): void => {
    if (draft !== null) return;
    e.preventDefault();
    const text = e.clipboardData.getData("text/plain").replace(/\r?\n$/, "");
    block(
      text.split(/\r?\n/).map((l) => l.split("\t")),
      "Paste",
    );
  };
  /** Looks at a CSV first: what it would change, row by row. */
  const lookAt = async (chosen: File | undefined): Promise<void> => {
    if (!chosen) return;
    if (file.current) file.current.value = "";
    if (chosen.size > 5e6) return setSaid(`${chosen.name} is larger than 5 MB.`);
    setSaid(null);
    setCsv({ name: chosen.name, read: readSheetCsv(data, await chosen.text()) });
  };
  const takeCsv = (): void => {
    if (!csv) return;
    const refusal = firstMessage(edit(`CSV ${csv.name}`, csv.read.changes));
    setSaid(refusal === null ? null : `${refusal} Nothing was changed.`);
    setCsv(null);
  };
  const turnTo = (n: N): void => {
    setSheet(n);
    setSorting([]);
    setAt({ row: 0, column: 0 });
    setTo({ row: 0, column: 0 });
    setDraft(null);
  };
  const isOn = (r: Row): boolean => selection.some((s) => s.kind === r.select.kind && s.id === r.select.id);
  return (
    <Box position="absolute" inset="0" display="flex" flexDirection="column">
      <Flex align="center" gap="1" px="2" h="32px" flexShrink={0} borderBottom="1px solid" borderColor="line">
        {names.length > MOST_TABS ? (
          <SelectInput
            label="Sheet"
            align="left"
            width="150px"
            value={sheet}
            options={names.map((n) => ({ value: n, label: n }))}
            onChange={(n) => turnTo(n as N)}
          />
        ) : (
          names.map((n) => (
            <Toggle key={n} on={sheet === n} onClick={() => turnTo(n)}>
              {n}
            </Toggle>
          ))
        )}
        <chakra.input
          aria-label="Filter the sheet"
          placeholder="filter"
          value={filter}
          w="110px"
          h="22px"
          px="1.5"
          fontSize="12px"
          border="1px solid"
          borderColor="line"
          borderRadius="small"
          background="sheet"
          onChange={(e) => setFilter(e.target.value)}
        />
        <Text color="ink2" fontSize="12px">
          {rows.length} of {data.rows.length}
        </Text>
        <Flex flex="1" />
        <Flex role="toolbar" aria-label="What can be done with the sheet" gap="0.5">
          <IconButton label="Select the whole column (Ctrl-Space)" icon={Columns3} onClick={wholeColumn} />
          <IconButton label="Fill down (Ctrl-D)" icon={ArrowDownToLine} onClick={fillDown} />
          <IconButton label="Back to inherited" icon={Undo2} onClick={clear} />
          <IconButton
            label="Save as CSV"
            icon={Download}
            onClick={() => saveCsv(`${project.name} ${sheet}`, [data.columns.map(heading), ...rows.map((r) => data.columns.map((c) => plainCell(c, r)))])}
          />
          <IconButton label="Read a CSV" icon={Upload} onClick={() => file.current?.click()} />
        </Flex>
        <chakra.input ref={file} type="file" accept=".csv,text/csv" display="none" aria-label="CSV file" onChange={(e) => void lookAt(e.target.files?.[0])} />
      </Flex>
      {said && (
        <Text role="alert" color="clay" px="3" py="1" fontSize="12px">
          <Told text={said} />
        </Text>
      )}
      {csv && <CsvLook csv={csv} onTake={takeCsv} onLeave={() => setCsv(null)} />}
      <Box
        flex="1"
        minH="0"
        overflow="auto"
        ref={frame}
        onScroll={measure}
        boxShadow={more ? "inset -12px 0 10px -10px var(--chakra-colors-line)" : undefined}
        data-more={more}
        onCopy={onCopy}
        onPaste={onPaste}
      >
        <chakra.table
          ref={body}
          tabIndex={0}
          role="grid"
          aria-label={`Sheet of ${sheet}; arrows move, Enter edits, Delete takes a typed value back`}
          w="100%"
          borderCollapse="separate"
          borderSpacing="0"
          fontSize="12.5px"
          outline="none"
          onKeyDown={onKey}
        >
          <thead>
            <tr>
              {data.columns.map((c, j) => {
                const sorted = sorting.find((s) => s.id === c.key);
                return (
                  <chakra.th
                    key={c.key}
                    scope="col"
                    position="sticky"
                    top="0"
                    {...(j === 0
                      ? { left: "0", zIndex: 2, borderRightWidth: "1px", borderRightStyle: "solid" as const, borderRightColor: "line" }
                      : { zIndex: 1 })}
                    background="sheet"
                    textAlign={c.numeric ? "right" : "left"}
                    fontWeight="500"
                    color="ink2"
                    px="2"
                    py="1"
                    borderBottom="1px solid"
                    borderColor="line"
                    whiteSpace="nowrap"
                    cursor="pointer"
                    aria-sort={sorted ? (sorted.desc ? "descending" : "ascending") : "none"}
                    onClick={() => setSorting(sorted ? (sorted.desc ? [] : [{ id: c.key, desc: true }]) : [{ id: c.key, desc: false }])}
                  >
                    {c.name}
                    {sorted ? (sorted.desc ? " ↓" : " ↑") : ""}
                    {c.unit && (
                      <Text as="span" display="block" fontSize="11px">
                        {c.unit}
                      </Text>
                    )}
                  </chakra.th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {inSight.from > 0 && <tr style={{ height: inSight.from * ROW }} aria-hidden="true" />}
            {rows.slice(inSight.from, inSight.to).map((r, place) => {
              const i = inSight.from + place;
              return (
                <tr key={r.id} aria-selected={isOn(r)} style={{ height: ROW }}>
                  {data.columns.map((c, j) => {
                    const here = at.row === i && at.column === j;
                    const mark = c.origin?.(r) ?? null;
                    return (
                      <chakra.td
                        key={c.key}
                        role="gridcell"
                        textAlign={c.numeric ? "right" : "left"}
                        px="2"
                        py="0.5"
                        whiteSpace="nowrap"
                        borderBottom="1px solid"
                        borderColor="line"
                        color={c.write ? "ink" : "ink2"}
                        {...(j === 0
                          ? { position: "sticky" as const, left: "0", borderRightWidth: "1px", borderRightStyle: "solid" as const, borderRightColor: "line" }
                          : {})}
                        background={inRange(i, j) ? "wash" : isOn(r) ? "paper" : j === 0 ? "sheet" : "transparent"}
                        outline={here ? "2px solid" : undefined}
                        outlineColor="water"
                        outlineOffset="-2px"
                        onMouseDown={(e) => {
                          if (here && draft !== null) return;
                          setDraft(null);
                          go(i, j, e.shiftKey);
                          body.current?.focus();
                          e.preventDefault();
                        }}
                        onDoubleClick={() => c.write && setDraft(plainCell(c, r))}
                      >
                        {here && draft !== null ? (
                          <chakra.input
                            aria-label={`${c.name} of ${plainCell(data.columns[0], r)}`}
                            autoFocus
                            value={draft}
                            w="100%"
                            minW="60px"
                            textAlign={c.numeric ? "right" : "left"}
                            background="sheet"
                            onChange={(e) => setDraft(e.target.value)}
                            onBlur={() => setDraft(null)}
                            onKeyDown={(e) => {
                              e.stopPropagation();
                              if (e.key === "Enter" || e.key === "Tab") {
                                commit();
                                e.preventDefault();
                              }
                              if (e.key === "Escape") {
                                setDraft(null);
                                body.current?.focus();
                              }
                            }}
                          />
                        ) : (
                          <>
                            {mark && (
                              <Text as="span" title={mark.words} color="ink2" fontSize="10px" mr="1">
                                {mark.mark}
                              </Text>
                            )}
                            {shownCell(c, r)}
                          </>
                        )}
                      </chakra.td>
                    );
                  })}
                </tr>
              );
            })}
            {inSight.to < rows.length && <tr style={{ height: (rows.length - inSight.to) * ROW }} aria-hidden="true" />}
          </tbody>
        </chakra.table>
        {rows.length === 0 && (
          <Text p="4" color="ink2">
            {data.rows.length === 0 ? `There are no ${sheet} yet.` : "Nothing matches the filter."}
          </Text>
        )}
      </Box>
    </Box>
  );
}

/** What a CSV would change or what is wrong with it, row by row, before anything is changed. */
function CsvLook({ csv, onTake, onLeave }: { csv: { readonly name: string; readonly read: CsvRead }; onTake: () => void; onLeave: () => void }) {
  const { lines } = csv.read;
  const faults = lines.filter((l) => l.fault !== null).length;
  const changes = lines.length - faults;
  return (
    <Box
      px="3"
      py="1.5"
      borderBottom="1px solid"
      borderColor="line"
      background="paper"
      role="group"
      aria-label="What the CSV would change"
      maxH="45%"
      overflowY="auto"
    >
      <Flex gap="4" align="baseline" mb="1">
        <Text fontWeight="600">{csv.name}</Text>
        <Text color={faults > 0 ? "clay" : "ink2"}>
          {changes} {changes === 1 ? "cell" : "cells"} would change{faults > 0 ? `, ${faults} ${faults === 1 ? "is" : "are"} wrong: nothing can be taken` : ""}
        </Text>
        {faults === 0 && changes > 0 && <Act onClick={onTake}>Take all of it</Act>}
        <Act onClick={onLeave}>Leave it</Act>
      </Flex>
      <Grid
        label="What the CSV would change"
        head={[{ text: "Line" }, { text: "Row", left: true }, { text: "Column", left: true }, { text: "From" }, { text: "To" }, { text: "", left: true }]}
        rows={lines.slice(0, 200).map((l, i) => ({
          key: String(i),
          cells: [
            l.line,
            l.row,
            l.column,
            l.from,
            l.to,
            <Text key="f" as="span" color="clay">
              {l.fault ?? ""}
            </Text>,
          ],
        }))}
      />
    </Box>
  );
}
