import { accessSync, constants, existsSync, mkdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from "node:fs";
import path from "node:path";
import type { Problem } from "@arroyo/core";

/** A call that cannot be carried out as it is written; ends with code 2. */
export class UsageError extends Error {}

/** Where a command writes: results and questions to `out`, warnings and refusals to `err`. */
export interface Terminal {
  out(text: string): void;
  err(text: string): void;
}

/** One line of a problem. */
export const line = (p: Pick<Problem, "severity" | "path" | "message">): string => `${p.severity}: ${p.path ? `${p.path}: ` : ""}${p.message}`;

const code = (error: unknown): string => (error instanceof Error && "code" in error ? String(error.code) : "");
const why = (error: unknown): string =>
  ({
    EACCES: "this user may not write there",
    EPERM: "this user may not write there",
    EROFS: "it cannot be written to",
    ENOENT: "it cannot be made there",
    ENOTDIR: "a file stands where a folder is needed",
    EEXIST: "a file stands where a folder is needed",
    ENOSPC: "the disk is full",
  })[code(error)] ?? (error instanceof Error ? error.message : String(error));

/** Bytes of a file named on the command line. @throws UsageError where there is none, it is a folder, too large, or may not be read */
export function readBytes(file: string, most = Infinity): Buffer {
  if (!existsSync(file)) throw new UsageError(`There is no file "${file}".`);
  const { size, ...kind } = ((s) => ({ size: s.size, folder: s.isDirectory() }))(statSync(file));
  if (kind.folder) throw new UsageError(`"${file}" is a folder; name a file.`);
  if (size > most) throw new UsageError(`"${file}" is larger than ${Math.round(most / 1024 / 1024)} MB.`);
  try {
    return readFileSync(file);
  } catch (error) {
    throw new UsageError(`"${file}" cannot be read: ${code(error) === "EACCES" ? "this user may not" : why(error)}.`);
  }
}

/** Text of a file, without a byte-order mark. @see readBytes */
export const readText = (file: string): string =>
  readBytes(file)
    .toString("utf8")
    .replace(/^\uFEFF/, "");

/** Makes a folder for results and sees that it can be written to, before anything is computed. @throws UsageError */
export function folderToWrite(folder: string): string {
  try {
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.W_OK);
    return folder;
  } catch (error) {
    throw new UsageError(`Nothing can be written to "${folder}": ${why(error)}.`);
  }
}

/** Sees that a file can be written, before anything is computed. @throws UsageError */
export function fileToWrite(file: string): string {
  if (existsSync(file) && statSync(file).isDirectory()) throw new UsageError(`"${file}" is a folder; name a file to write.`);
  const folder = path.dirname(file);
  try {
    accessSync(folder, constants.W_OK);
    return file;
  } catch (error) {
    throw new UsageError(`"${file}" cannot be written: ${code(error) === "ENOENT" ? `there is no folder "${folder}"` : why(error)}.`);
  }
}

/** Writes a file whole or not at all. @throws UsageError */
export function write(file: string, text: string | Uint8Array): void {
  const half = `${file}.part`;
  try {
    writeFileSync(half, text);
    renameSync(half, file);
  } catch (error) {
    rmSync(half, { force: true });
    throw new UsageError(`"${file}" cannot be written: ${why(error)}.`);
  }
}
