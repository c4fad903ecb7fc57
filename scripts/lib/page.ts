import path from "node:path";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");

/** The script of the page of a study, in one piece. */
export async function pageScript(): Promise<string> {
  const built = await build({
    entryPoints: [path.join(root, "web/ui/currents/page.ts")],
    bundle: true,
    write: false,
    format: "iife",
    target: "es2022",
    minify: true,
    charset: "utf8",
    legalComments: "none",
  });
  return built.outputFiles[0].text.trim();
}
/** The module that holds it. */
export const pageModule = (script: string): string =>
  `/** The script of the page of a study, made of web/ui/currents by \`npm run page\`. */\nexport const STUDY_PAGE_SCRIPT = ${JSON.stringify(script).replaceAll("</", "<\\/")};\n`;
