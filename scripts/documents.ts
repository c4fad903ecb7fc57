/** npm run documents: makes every shipped report of the clinic, opens each as an office program does, and tells its pages. */
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { shippedOutlines } from "@arroyo/core";
import { installWebAssembly } from "@arroyo/adapters/kernel";
import { arroyo } from "../cli/src/arroyo.ts";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "..");
const out = path.join(root, ".local", "documents");
const terminal = { out: () => undefined, err: (text: string) => console.error(text) };

installWebAssembly();
mkdirSync(out, { recursive: true });
let failed = await arroyo(["simulate", path.join(root, "demo/clinic.json"), "--out", path.join(out, "clinic")], terminal);
for (const id of Object.keys(shippedOutlines))
  failed ||= await arroyo(["report", path.join(out, "clinic"), "--outline", id, "--out", path.join(out, `${id}.docx`)], terminal);
if (failed) process.exit(failed);
console.log(`${Object.keys(shippedOutlines).length} documents in ${out}`);

const office = ["/usr/bin/soffice", "/usr/bin/libreoffice"].find((f) => existsSync(f));
if (office === undefined) console.log("skipped: they are not opened, as LibreOffice is not installed (apt-get install libreoffice-writer-nogui)");
else
  for (const id of Object.keys(shippedOutlines)) {
    const r = spawnSync(office, ["--headless", "--convert-to", "pdf", "--outdir", out, path.join(out, `${id}.docx`)], { encoding: "utf8", timeout: 120000 });
    const pdf = path.join(out, `${id}.pdf`);
    const pages = existsSync(pdf) ? (readFileSync(pdf, "latin1").match(/\/Type\s*\/Page\b(?!s)/g) ?? []).length : 0;
    if (r.status !== 0 || pages === 0) {
      console.error(`${id}.docx does not open: ${r.stderr.trim() || `status ${r.status}`}`);
      process.exitCode = 1;
    } else console.log(`${id}: ${pages} page${pages === 1 ? "" : "s"}`);
  }
