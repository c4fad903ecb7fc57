"use client";
import { Box, Text } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import type { Project } from "@arroyo/core";
import { ask } from "../../live/server.ts";
import { Act } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { useStore } from "../store.ts";
import { addYear } from "./years.ts";

interface Kept {
  readonly hash: string;
  readonly name: string;
  readonly createdAt: string;
  readonly projects: readonly string[];
  readonly runs: number;
}

/** Weather years kept on the server for all projects: taken into this one, or removed where nothing uses them. */
export function KeptYears({ onTaken }: { onTaken: () => void }) {
  const project = useStore((s) => s.document) as Project;
  const [kept, setKept] = useState<readonly Kept[] | null>(null);
  const [told, setTold] = useState<string | null>(null);
  /** Raised where the list has changed. */
  const [turn, setTurn] = useState(0);
  useEffect(() => {
    let current = true;
    void ask<Kept[]>("/api/weather").then((answer) => {
      if (!current) return;
      if (answer.ok) setKept(answer.body);
      else setTold(answer.message);
    });
    return () => {
      current = false;
    };
  }, [turn]);
  const here = new Set(Object.values(project.weathers).flatMap((y) => (y.kind === "stored" ? [y.hash] : [])));
  const take = (k: Kept): void => {
    const refused = addYear({ kind: "stored", name: k.name, hash: k.hash, source: "From the years kept here." });
    if (refused === null) onTaken();
    else setTold(refused);
  };
  const remove = async (k: Kept): Promise<void> => {
    const answer = await ask(`/api/weather/${k.hash}`, { method: "DELETE" });
    setTold(answer.ok ? null : answer.message);
    setTurn(turn + 1);
  };
  if (!kept || kept.length === 0) return told ? <Text color="clay">{told}</Text> : null;
  return (
    <Box mt="4" maxW="900px">
      <Text as="h2" textStyle="title" mb="1">
        Years kept here
      </Text>
      {told && (
        <Text role="alert" color="clay">
          {told}
        </Text>
      )}
      <Grid
        label="Years kept here"
        head={[{ text: "Year", left: true }, { text: "Used by", left: true }, { text: "Stored runs" }, { text: "Kept since" }, { text: "" }]}
        rows={kept.map((k) => ({
          key: k.hash,
          cells: [
            k.name,
            k.projects.length > 0 ? k.projects.join(", ") : "nothing",
            String(k.runs),
            new Date(k.createdAt).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" }),
            here.has(k.hash) ? (
              "in this project"
            ) : (
              <>
                <Act onClick={() => take(k)}>take</Act>
                {k.projects.length === 0 && k.runs === 0 && (
                  <>
                    {" · "}
                    <Act onClick={() => void remove(k)}>remove</Act>
                  </>
                )}
              </>
            ),
          ],
        }))}
      />
    </Box>
  );
}
