// The WebAssembly kernel of adapters/kernel as a module of text, so that every host can load it without a file or a fetch.
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";

/** What is used of the compiler; its own types bring a console and numbers of another language along. */
interface Compiler {
  main(args: string[]): Promise<{ error: Error | null; stderr: { toString(): string } }>;
}
const COMPILER: string = "assemblyscript/asc";

const root = fileURLToPath(new URL("../../", import.meta.url));

export const kernelFile = path.join(root, "adapters/src/stepKernelBytes.ts");

/** Compiles the kernel; answers the text of `kernelFile`. Throws with what the compiler says. */
export async function compileKernel(): Promise<string> {
  const { default: asc } = (await import(COMPILER)) as { default: Compiler };
  const folder = mkdtempSync(path.join(os.tmpdir(), "arroyo-kernel-"));
  try {
    const file = path.join(folder, "kernel.wasm");
    const here = (f: string): string => path.relative(process.cwd(), f);
    const { error, stderr } = await asc.main([
      here(path.join(root, "adapters/kernel/index.ts")),
      "--outFile",
      here(file),
      "-O3",
      "--runtime",
      "stub",
      "--importMemory",
      "--noAssert",
      "--enable",
      "simd",
      "--disableWarning",
      "235",
    ]);
    if (error) throw new Error(`The kernel does not compile: ${error.message}\n${stderr.toString()}`);
    const text = readFileSync(file).toString("base64");
    return `/** Made by \`npm run kernel\` from adapters/kernel: not to be edited. */\nexport const kernelBytes =\n  "${text}";\n`;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
