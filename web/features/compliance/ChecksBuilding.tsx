"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import { isOpen, type Compliance, type ComplianceRow, type Face, type Project } from "@arroyo/core";
import { SelectInput } from "../../ui/fields.tsx";
import { useUnits } from "../../ui/units.ts";
import { Building } from "../form/Building.tsx";
import { useStore } from "../store.ts";
import { rowFigures } from "./ChecksDesk.tsx";

/** Fills of the two states: told apart by lightness as well as by hue, and by words on every face. */
const TINT = { pass: "#BFD8D3", fail: "#B4552F" } as const;
const kinds = ["envelope", "spaces"] as const;

/** The building by pass and fail: each face by the rows of what it is made of, or of its space. */
export function ChecksBuilding({ result }: { result: Compliance }) {
  const project = useStore((s) => s.project) as Project;
  const units = useUnits();
  const [kind, setKind] = useState<(typeof kinds)[number]>("envelope");
  const rowsOf = useMemo(() => {
    const byFace = new Map<string, ComplianceRow[]>();
    const bySpace = new Map<string, ComplianceRow[]>();
    const put = (m: Map<string, ComplianceRow[]>, key: string, r: ComplianceRow): void => void m.set(key, [...(m.get(key) ?? []), r]);
    for (const r of result.rows) {
      for (const f of r.faces ?? []) put(byFace, f, r);
      if (r.place?.startsWith("spaces/")) put(bySpace, r.place.split("/")[1], r);
    }
    return (f: Face): readonly ComplianceRow[] => (kind === "envelope" ? byFace.get(f.key) : bySpace.get(f.space)) ?? [];
  }, [result, kind]);
  const paint = useMemo(
    () =>
      (f: Face): string | null => {
        const rows = rowsOf(f);
        return rows.length === 0 ? null : rows.some(isOpen) ? TINT.fail : TINT.pass;
      },
    [rowsOf],
  );
  const failed = result.rows.filter((r) => isOpen(r) && (kind === "envelope" ? r.faces : r.place?.startsWith("spaces/"))).length;
  return (
    <Flex direction="column" h="100%">
      <Flex align="center" gap="3" mb="1">
        <Text as="h2" textStyle="title">
          The building by pass and fail
        </Text>
        <SelectInput
          label="Rows shown"
          width="120px"
          align="left"
          value={kind}
          options={kinds.map((k) => ({ value: k, label: k }))}
          onChange={(v) => setKind(v as (typeof kinds)[number])}
        />
        <Text color="ink2">
          {failed} row{failed === 1 ? "" : "s"} of the {kind} open
        </Text>
      </Flex>
      <Box flex="1" minH="0" position="relative" border="1px solid" borderColor="line" role="region" aria-label="Building by pass and fail">
        <Building
          project={project}
          storey={Object.keys(project.storeys)[0] ?? ""}
          compact
          paint={paint}
          words={(f) =>
            rowsOf(f)
              .map((r) => {
                const [required, proposed, unit] = rowFigures(r, units);
                return `${isOpen(r) ? "✗" : "✓"} § ${r.clause} ${r.quantity} ${proposed} ${unit}, ${required}`;
              })
              .join("; ") || null
          }
        />
        <Flex position="absolute" right="3" bottom="3" gap="4" fontSize="12px" background="sheet" px="2" py="1">
          {(["pass", "fail"] as const).map((k) => (
            <Flex key={k} align="center" gap="1.5">
              <Box w="12px" h="12px" border="1px solid" borderColor="ink2" style={{ background: TINT[k] }} />
              {k === "pass" ? "✓ pass" : "✗ fail"}
            </Flex>
          ))}
        </Flex>
      </Box>
    </Flex>
  );
}
