"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { certificateReport, freeId, submissionDocument, verdict, type Compliance, type Project } from "@arroyo/core";
import { Act, Head, Row, SelectInput, TextInput } from "../../ui/fields.tsx";
import { Grid } from "../../ui/Panes.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { saveBlob } from "../../ui/saveCsv.ts";
import { useStore } from "../store.ts";
import { useSubmitting } from "./useCompliance.ts";

const manners = { "at once": "at once", slowly: "slowly, after 8 s", "not at all": "not at all, as when it is down" } as const;
type Manner = keyof typeof manners;
/** A registry that has not answered by then is given up, ms. */
const PATIENCE = 20000;

/** The certificate: who signs, print and DOCX, and the registry it is submitted to. */
export function SignDesk({ result, whole }: { result: Compliance; whole: boolean }) {
  const project = useStore((s) => s.project) as Project;
  const option = useStore((s) => s.option);
  const { input, set } = useSubmitting();
  const [manner, setManner] = useState<Manner>("at once");
  const [state, setState] = useState<{ readonly kind: "idle" | "sending" | "refused"; readonly text: string }>({ kind: "idle", text: "" });
  const signed = input.signed ?? {};
  const field = (key: "prepared" | "checked" | "licence" | "date", label: string) => (
    <Row label={label}>
      <TextInput label={label} width="220px" value={signed[key] ?? ""} onCommit={(t) => set(label, { signed: { ...signed, [key]: t } })} />
    </Row>
  );
  const docx = async (): Promise<void> => {
    const { reportDocx } = await import("@arroyo/adapters/docx");
    saveBlob(
      `${project.id}-certificate.docx`,
      new Blob([new Uint8Array(await reportDocx(certificateReport(project, result)))], {
        type: "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
      }),
    );
  };
  const submit = async (): Promise<void> => {
    setState({ kind: "sending", text: "The registry is asked …" });
    try {
      const answer = await fetch(`/api/registry?manner=${encodeURIComponent(manner)}`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify(submissionDocument(result)),
        signal: AbortSignal.timeout(PATIENCE),
      });
      const said = (await answer.json()) as { receipt?: string; at?: string; message?: string };
      if (!answer.ok || said.receipt === undefined) return setState({ kind: "refused", text: said.message ?? `The registry answered ${answer.status}.` });
      const receipts = input.receipts ?? [];
      const id = freeId(Object.fromEntries(receipts.map((r) => [r.id, r])), "receipt");
      set("Submitted to the registry", {
        receipts: [...receipts, { id, receipt: said.receipt, at: said.at ?? "", hash: submissionDocument(result).hash, pack: result.pack }],
      });
      setState({ kind: "idle", text: `Received: ${said.receipt}.` });
    } catch (error) {
      setState({
        kind: "refused",
        text:
          error instanceof DOMException && error.name === "TimeoutError"
            ? `The registry did not answer within ${PATIENCE / 1000} s. Nothing was submitted.`
            : "The registry cannot be reached. Nothing was submitted.",
      });
    }
  };
  return (
    <Box maxW="680px">
      <Text as="h2" textStyle="title">
        Certificate
      </Text>
      <Text color="ink2" mb="2">
        {verdict(result)}
      </Text>
      <Flex gap="4" mb="2">
        <a href={`/print/${project.id}${option ? `?option=${option}` : ""}`} target="_blank" style={{ color: "var(--chakra-colors-water)" }}>
          Print or save as PDF
        </a>
        <Act disabled={!whole} onClick={() => void docx()}>
          DOCX
        </Act>
        {!whole && <Text color="ink2">The certificate waits for the whole year of both buildings.</Text>}
      </Flex>
      <Head>Signed by</Head>
      {field("prepared", "Prepared by")}
      {field("checked", "Checked by")}
      {field("licence", "Licence")}
      {field("date", "Date of signing")}
      <Row label="Hash of the project">
        <Text as="span" fontFamily="mono" fontSize="12px">
          {result.projectHash.slice(0, 24)}
        </Text>
      </Row>
      <Row label="Hash of the pack">
        <Text as="span" fontFamily="mono" fontSize="12px">
          {result.packHash.slice(0, 24)}
        </Text>
      </Row>
      <Head>Registry</Head>
      <Text color="ink2" fontSize="12px">
        A simulated registry that ships with Arroyo: it checks the certificate and its hash and answers with a receipt. It can be made slow, or be down, to see
        what becomes of a submission then.
      </Text>
      <Flex gap="3" align="center" my="2">
        <PrimaryButton disabled={!whole || state.kind === "sending"} onClick={() => void submit()}>
          Submit the certificate
        </PrimaryButton>
        <SelectInput
          label="The registry answers"
          width="220px"
          align="left"
          value={manner}
          options={Object.entries(manners).map(([value, words]) => ({ value, label: `answers ${words}` }))}
          onChange={(v) => setManner(v as Manner)}
        />
        <Text role={state.kind === "refused" ? "alert" : "status"} color={state.kind === "refused" ? "clay" : "ink2"} data-testid="registry-said">
          {state.text}
        </Text>
      </Flex>
      {(input.receipts ?? []).length > 0 && (
        <Grid
          label="Receipts of the registry"
          head={[
            { text: "Receipt", left: true },
            { text: "At", left: true },
            { text: "Pack", left: true },
            { text: "Of this state", left: true },
          ]}
          rows={[...(input.receipts ?? [])].reverse().map((r) => ({
            key: r.id,
            cells: [r.receipt, r.at.replace("T", " ").slice(0, 16), r.pack, r.hash === submissionDocument(result).hash ? "yes" : "an earlier one"],
          }))}
        />
      )}
    </Box>
  );
}
