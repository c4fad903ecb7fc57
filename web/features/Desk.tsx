"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useRouter, useSearchParams } from "next/navigation";
import { useEffect } from "react";
import { Act } from "../ui/fields.tsx";
import { Frame } from "../ui/Frame.tsx";
import { Compliance } from "./compliance/Compliance.tsx";
import { Fabric } from "./fabric/Fabric.tsx";
import { Form } from "./form/Form.tsx";
import { Measured } from "./measured/Measured.tsx";
import { Options } from "./options/Options.tsx";
import { Place } from "./place/Place.tsx";
import { Results } from "./results/Results.tsx";
import { Services } from "./services/Services.tsx";
import type { builtStageNames } from "./stages.ts";
import { useStore, type Selection } from "./store.ts";
import { Use } from "./use/Use.tsx";

const desks = {
  place: Place,
  form: Form,
  fabric: Fabric,
  use: Use,
  services: Services,
  results: Results,
  options: Options,
  compliance: Compliance,
  measured: Measured,
};

/** Keeps the address and the selection in step, so that a link or a reload comes back to the same place. */
function useAddress(): void {
  const query = useSearchParams();
  const wanted = query.get("on");
  const wantedOption = query.get("option");
  const ready = useStore((s) => s.project !== null);
  useEffect(() => {
    if (!ready) return;
    const { selection, select } = useStore.getState();
    const now = selection.map((s) => `${s.kind}:${s.id}`).join(",");
    if (wanted !== null && wanted !== now && selection.length === 0)
      select(wanted.split(",").map((part): Selection => ({ kind: part.split(":")[0] as Selection["kind"], id: part.split(":")[1] })));
    if (wantedOption !== null && useStore.getState().option === null) useStore.getState().look(wantedOption);
    return useStore.subscribe((state, before) => {
      if ((state.selection === before.selection && state.option === before.option) || !state.project) return;
      const url = new URL(window.location.href);
      if (state.option !== null) url.searchParams.set("option", state.option);
      else url.searchParams.delete("option");
      const on = state.selection.map((s) => `${s.kind}:${s.id}`).join(",");
      if (on) url.searchParams.set("on", on);
      else url.searchParams.delete("on");
      window.history.replaceState(window.history.state, "", url);
    });
    // the address is read once when the project opens, and written from then on
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ready]);
}

export function Desk({ id, stage }: { id: string; stage: (typeof builtStageNames)[number] }) {
  const open = useStore((s) => s.open);
  const project = useStore((s) => s.project);
  const error = useStore((s) => s.loadError);
  const router = useRouter();
  useEffect(() => {
    void open(id);
  }, [id, open]);
  useEffect(() => {
    const leave = (): void => void useStore.getState().flush();
    window.addEventListener("pagehide", leave);
    return () => window.removeEventListener("pagehide", leave);
  }, []);
  useAddress();
  if (error)
    return (
      <Box p="10">
        <Text textStyle="title" mb="2">
          This project did not open
        </Text>
        <Text mb="3">{error}</Text>
        <Act onClick={() => router.push("/")}>All projects</Act>
      </Box>
    );
  if (!project || project.id !== id) return <Skeleton />;
  const Stage = desks[stage];
  return (
    <Frame stage={stage}>
      <Stage />
    </Frame>
  );
}

function Skeleton() {
  return (
    <Flex direction="column" h="100dvh" aria-busy="true" aria-label="Opening the project">
      <Box h="40px" borderBottom="1px solid" borderColor="line" />
      <Box h="38px" borderBottom="1px solid" borderColor="line" />
      <Flex flex="1">
        <Box w="196px" borderRight="1px solid" borderColor="line" />
        <Box flex="1" background="sheet" />
        <Box w="286px" borderLeft="1px solid" borderColor="line" />
      </Flex>
      <Box h="84px" borderTop="1px solid" borderColor="line" background="sheet" />
    </Flex>
  );
}
