"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { overInterval, quantityChoices, unitsOfQuantity, type FileGuess, type FileQuantity, type WeatherMapping } from "@arroyo/core";
import { SelectInput } from "../../ui/fields.tsx";

/** First rows of the file, with what each column holds to be chosen above it. */
export function FirstRows({ guess, mapping, set }: { guess: FileGuess; mapping: WeatherMapping; set: (part: Partial<WeatherMapping>) => void }) {
  const width = Math.max(guess.heads.length, ...guess.rows.map((r) => r.length));
  const timed = new Set(
    mapping.time.kind === "one column"
      ? [mapping.time.column]
      : mapping.time.kind === "date and time"
        ? [mapping.time.date, mapping.time.time]
        : mapping.time.kind === "parts"
          ? [mapping.time.year, mapping.time.month, mapping.time.day, mapping.time.hour, mapping.time.minute]
          : [],
  );
  const choose = (c: number, q: string): void => {
    const rest = mapping.columns.filter((x) => x.column !== c && x.quantity !== q);
    const quantity = q as FileQuantity;
    set({
      columns:
        q === ""
          ? rest
          : [
              ...rest,
              { column: c, quantity, unit: unitsOfQuantity[quantity][0], at: overInterval.has(quantity) ? ("interval" as const) : ("stamp" as const) },
            ].sort((a, b) => a.column - b.column),
    });
  };
  const change = (c: number, part: Partial<WeatherMapping["columns"][number]>): void =>
    set({ columns: mapping.columns.map((x) => (x.column === c ? { ...x, ...part } : x)) });
  return (
    <Box>
      <Text fontWeight="600">
        First rows{" "}
        <Text as="span" color="ink2" fontWeight="400">
          what each column holds is chosen above it
        </Text>
      </Text>
      <Box overflowX="auto">
        <chakra.table fontSize="12px" borderCollapse="collapse" aria-label="First rows of the file">
          <thead>
            <tr>
              {Array.from({ length: width }, (_, c) => {
                const chosen = mapping.columns.find((x) => x.column === c);
                return (
                  <chakra.th key={c} textAlign="left" verticalAlign="bottom" px="1.5" fontWeight="400" minW="96px">
                    {timed.has(c) ? (
                      <Text color="water">time</Text>
                    ) : (
                      <>
                        <SelectInput
                          label={`Column ${c + 1} holds`}
                          align="left"
                          width="168px"
                          value={chosen?.quantity ?? ""}
                          options={[{ value: "", label: "not used" }, ...quantityChoices]}
                          onChange={(v) => choose(c, v)}
                        />
                        {chosen && (
                          <Flex gap="1">
                            <SelectInput
                              label={`Unit of column ${c + 1}`}
                              align="left"
                              width="74px"
                              value={chosen.unit}
                              options={[...new Set([chosen.unit, ...unitsOfQuantity[chosen.quantity]])].map((u) => ({
                                value: u,
                                label: u === "1" ? "share" : u,
                              }))}
                              onChange={(unit) => change(c, { unit })}
                            />
                            <SelectInput
                              label={`Values of column ${c + 1} are`}
                              align="left"
                              width="92px"
                              value={chosen.at}
                              options={[
                                { value: "stamp", label: "at its time" },
                                { value: "interval", label: "of its row" },
                              ]}
                              onChange={(at) => change(c, { at: at as "stamp" | "interval" })}
                            />
                          </Flex>
                        )}
                      </>
                    )}
                    <Text color="ink2" whiteSpace="nowrap" maxW="150px" overflow="hidden" textOverflow="ellipsis" title={guess.heads[c]}>
                      {guess.heads[c] || `column ${c + 1}`}
                    </Text>
                  </chakra.th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {guess.rows.slice(0, 4).map((row, i) => (
              <tr key={i}>
                {Array.from({ length: width }, (_, c) => (
                  <chakra.td
                    key={c}
                    px="1.5"
                    borderTop="1px solid"
                    borderColor="line"
                    whiteSpace="nowrap"
                    color={mapping.columns.some((x) => x.column === c) || timed.has(c) ? "ink" : "ink2"}
                  >
                    {row[c] ?? ""}
                  </chakra.td>
                ))}
              </tr>
            ))}
          </tbody>
        </chakra.table>
      </Box>
    </Box>
  );
}
