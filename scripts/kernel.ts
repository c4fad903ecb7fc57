// npm run kernel: compiles adapters/kernel to WebAssembly and writes it where the adapters read it.
import { writeFileSync } from "node:fs";
import { compileKernel, kernelFile } from "./lib/kernel.ts";

writeFileSync(kernelFile, await compileKernel());
