/// <reference lib="webworker" />
import { readGbxml } from "@arroyo/adapters";
import { readIfc } from "@arroyo/adapters/ifc";
import { checkProject, freeId, starterContext, tryImport, type BuildingRecords, type ImportOutcome, type Problem } from "@arroyo/core";

export type ToImporter =
  | { readonly kind: "read"; readonly bytes: ArrayBuffer; readonly matches: Readonly<Record<string, string>>; readonly origin: string }
  | { readonly kind: "match"; readonly matches: Readonly<Record<string, string>> };
export type FromImporter =
  { readonly kind: "made"; readonly outcome: ImportOutcome; readonly problems: readonly Problem[] } | { readonly kind: "refused"; readonly message: string };

const scope = self as unknown as DedicatedWorkerGlobalScope;
let records: BuildingRecords | null = null;

function make(matches: Readonly<Record<string, string>>): void {
  if (!records) return;
  const made = tryImport(records, starterContext, freeId({}, records.name), matches);
  if (!made.ok) return scope.postMessage({ kind: "refused", message: made.message } satisfies FromImporter);
  const { outcome } = made;
  scope.postMessage({ kind: "made", outcome, problems: checkProject(outcome.project).problems } satisfies FromImporter);
}

scope.onmessage = async (event: MessageEvent<ToImporter>) => {
  const message = event.data;
  const refuse = (words: string): void => scope.postMessage({ kind: "refused", message: words } satisfies FromImporter);
  try {
    if (message.kind === "read") {
      const bytes = new Uint8Array(message.bytes);
      const ifc = new TextDecoder("latin1").decode(bytes.subarray(0, 200)).includes("ISO-10303-21");
      const outcome = ifc ? await readIfc(bytes, `${message.origin}/web-ifc.wasm`) : readGbxml(new TextDecoder().decode(bytes));
      if (!outcome.ok) return refuse(outcome.message);
      records = outcome.records;
    }
    make(message.matches);
  } catch {
    refuse("The file cannot be read; nothing was imported.");
  }
};
