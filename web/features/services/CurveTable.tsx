"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { Plus, Trash2 } from "lucide-react";
import { freeId, setChange, type Project } from "@arroyo/core";
import { IconButton } from "../../ui/Actions.tsx";
import { Quantity } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { sum } from "../../ui/format.ts";
import { useUnits } from "../../ui/units.ts";
import { tally, useLiveFigures, useStore } from "../store.ts";

/** The power curve of a turbine, point by point. */
export function CurveTable({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const thing = project.onSite[id];
  const { summary } = tally(useLiveFigures());
  if (thing.kind !== "windTurbine") return null;
  const { curve } = thing;
  const at = (...path: string[]): string[] => ["onSite", id, "curve", ...path];
  const last = curve[curve.length - 1] as { speed: number; power: number } | undefined;
  const add = (): void => {
    const key = freeId(Object.fromEntries(curve.map((c) => [c.id, c])), "p");
    edit(`${thing.name}: another point`, [{ op: "insert", path: at(key), value: { id: key, speed: (last?.speed ?? 2) + 1, power: last?.power ?? 0 } }]);
  };
  const made = summary?.arrays.find((a) => a.id === id);
  return (
    <Box maxW="460px">
      <Flex align="center" gap="2">
        <Text fontWeight="600">Power curve</Text>
        <IconButton label="Add a point" icon={Plus} onClick={add} />
        {made && (
          <Text color="ink2">
            makes <b data-testid="turbine-made">{units.words(sum(made.made), "kWh", 0, true)}</b> in the year
          </Text>
        )}
      </Flex>
      <Grid
        label="Power curve"
        head={[{ text: "Wind at the hub", unit: units.unit("m/s") }, { text: "Power", unit: "W" }, { text: "" }]}
        rows={curve.map((c, i) => ({
          key: c.id,
          cells: [
            <Quantity
              key="s"
              bare
              label={`Wind speed of point ${i + 1}`}
              value={c.speed}
              unit="m/s"
              digits={1}
              onCommit={(v) => edit(`${thing.name}: power curve`, [setChange(project, at(c.id, "speed"), v)])}
            />,
            <Quantity
              key="p"
              bare
              label={`Power of point ${i + 1}`}
              value={c.power}
              unit="W"
              electric
              digits={0}
              onCommit={(v) => edit(`${thing.name}: power curve`, [setChange(project, at(c.id, "power"), v)])}
            />,
            <IconButton
              key="r"
              label={`Remove point ${i + 1}`}
              icon={Trash2}
              onClick={() => edit(`${thing.name}: one point less`, [{ op: "remove", path: at(c.id), old: c }])}
            />,
          ],
        }))}
      />
    </Box>
  );
}
