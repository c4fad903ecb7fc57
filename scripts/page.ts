import { writeFileSync } from "node:fs";
import { pageModule, pageScript } from "./lib/page.ts";

/** npm run page: writes the script of the page of a study, which is handed over as one file, from the sources of the axes on screen. */
writeFileSync(new URL("../adapters/src/studyPageScript.ts", import.meta.url), pageModule(await pageScript()));
