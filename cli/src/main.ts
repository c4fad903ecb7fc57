import { installWebAssembly } from "@arroyo/adapters/kernel";
import { arroyo } from "./arroyo.ts";

installWebAssembly();

// whoever reads may have read enough
process.stdout.on("error", (error: NodeJS.ErrnoException) => {
  if (error.code === "EPIPE") process.exit(0);
  throw error;
});
process.exitCode = await arroyo(process.argv.slice(2), { out: (text) => console.log(text), err: (text) => console.error(text) });
