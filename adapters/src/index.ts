export { readGbxml, type ReadOutcome } from "./gbxmlRead.ts";
export { writeGbxml } from "./gbxmlWrite.ts";
export { MOST_BYTES } from "./xml.ts";
