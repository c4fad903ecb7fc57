import { XMLParser, XMLValidator } from "fast-xml-parser";

/** An element: its attributes, text and children by name. */
export interface Element {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly text: string;
  readonly children: readonly Element[];
}

export type XmlOutcome = { readonly ok: true; readonly root: Element } | { readonly ok: false; readonly message: string };

/** Largest file that is read, bytes. */
export const MOST_BYTES = 50 * 1024 * 1024;
/** Elements of a building nest a dozen deep. */
const DEEPEST = 64;

const ATTRIBUTES = ":@";
const TEXT = "#text";

/** Reads XML into plain elements. Declared document types, and with them entities of any kind, are refused unread. */
export function readXml(text: string): XmlOutcome {
  if (text.length > MOST_BYTES) return { ok: false, message: `The file is larger than ${MOST_BYTES / 1024 / 1024} MB; export a part of the building.` };
  if (text.trim() === "") return { ok: false, message: "The file is empty." };
  if (/<!DOCTYPE|<!ENTITY/i.test(text))
    return { ok: false, message: "The file declares a document type or entities. Such files can reach other files or grow without end; they are not read." };
  if (nestsDeeper(text, DEEPEST)) return { ok: false, message: "The file's elements are nested too deep to be a building." };
  const valid = XMLValidator.validate(text);
  if (valid !== true)
    return {
      ok: false,
      message: `The file is not well-formed XML: line ${valid.err.line ?? 1}, column ${valid.err.col ?? 1}: ${valid.err.msg.replace(/\.$/, "")}.`,
    };
  try {
    const parsed = new XMLParser({
      preserveOrder: true,
      ignoreAttributes: false,
      attributeNamePrefix: "",
      removeNSPrefix: true,
      parseTagValue: false,
      parseAttributeValue: false,
      trimValues: true,
      ignoreDeclaration: true,
      ignorePiTags: true,
      processEntities: true,
      // ours speaks first
      maxNestedTags: 100000,
    }).parse(text) as Raw[];
    const root = parsed.map((r) => element(r, 0)).find((e): e is Element => e !== null);
    return root ? { ok: true, root } : { ok: false, message: "The file has no element." };
  } catch (error) {
    return { ok: false, message: error instanceof RangeError ? error.message : "The file cannot be read as XML." };
  }
}

/** Whether elements nest deeper than a limit, at one look through the text: the parser takes the square of the depth. */
function nestsDeeper(text: string, limit: number): boolean {
  let depth = 0;
  for (let at = text.indexOf("<"); at >= 0; at = text.indexOf("<", at)) {
    const end = text.startsWith("<!--", at) ? text.indexOf("-->", at) : text.startsWith("<![CDATA[", at) ? text.indexOf("]]>", at) : text.indexOf(">", at);
    // what is cut off here is told by the validator
    if (end < 0) return false;
    const next = text[at + 1];
    if (next === "/") depth--;
    else if (next !== "!" && next !== "?" && text[end - 1] !== "/" && ++depth > limit) return true;
    at = end + 1;
  }
  return false;
}

type Raw = Record<string, unknown>;

function element(raw: Raw, depth: number): Element | null {
  if (depth > DEEPEST) throw new RangeError("The file's elements are nested too deep to be a building.");
  const name = Object.keys(raw).find((k) => k !== ATTRIBUTES);
  if (name === undefined || name === TEXT) return null;
  const inner = Array.isArray(raw[name]) ? (raw[name] as Raw[]) : [];
  return {
    name,
    attributes: (raw[ATTRIBUTES] ?? {}) as Record<string, string>,
    text: inner
      .flatMap((c) => (TEXT in c ? [String(c[TEXT])] : []))
      .join("")
      .trim(),
    children: inner.flatMap((c) => element(c, depth + 1) ?? []),
  };
}

export const childrenOf = (e: Element, name: string): Element[] => e.children.filter((c) => c.name === name);
export const childOf = (e: Element | undefined, name: string): Element | undefined => e?.children.find((c) => c.name === name);
export const textOf = (e: Element | undefined, name: string): string | null => {
  const t = childOf(e, name)?.text;
  return t === undefined || t === "" ? null : t;
};

/** Text with the five characters XML keeps for itself written as references; others that XML cannot hold left out. */
export function escapeXml(text: string): string {
  return text
    .replace(/[^\u0009\u000a\u000d\u0020-\ud7ff\ue000-\ufffd]/g, "")
    .replace(/&/g, "&amp;")
    .replace(/</g, "&lt;")
    .replace(/>/g, "&gt;")
    .replace(/"/g, "&quot;")
    .replace(/'/g, "&apos;");
}
