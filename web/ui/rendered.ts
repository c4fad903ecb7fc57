import { ChakraProvider } from "@chakra-ui/react";
import { createElement, type ReactElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { system } from "./theme.ts";

/** What a component shows at first, for tests: its words, and its tables row by row. */
export interface Rendered {
  readonly text: string;
  /** Rows of the table of a label, heads first. @throws RangeError when there is none */
  table(label: string): string[][];
  /** Values of inputs and selects by their labels. */
  value(label: string): string;
  /** Words of all marks, such as those of origins. */
  readonly marks: readonly string[];
}

const words = (html: string): string =>
  html
    .replace(/<style[^>]*>[\s\S]*?<\/style>/g, "")
    .replace(/<option[^>]*>[\s\S]*?<\/option>/g, "")
    .replace(/<[^>]+>/g, " ")
    .replace(/&amp;/g, "&")
    .replace(/&lt;/g, "<")
    .replace(/&gt;/g, ">")
    .replace(/&quot;/g, '"')
    .replace(/&#x27;/g, "'")
    .replace(/[ \t\n]+/g, " ")
    .trim();

/** Renders a component on its own, without a page. */
export function rendered(element: ReactElement): Rendered {
  const html = renderToStaticMarkup(createElement(ChakraProvider, { value: system, children: element }));
  const attribute = (tag: string, name: string): string | undefined => new RegExp(`\\b${name}="([^"]*)"`).exec(tag)?.[1];
  return {
    text: words(html),
    marks: [...html.matchAll(/<[a-z]+[^>]*role="img"[^>]*>/g)].map(([tag]) => attribute(tag, "aria-label") ?? ""),
    table(label) {
      for (const [, tag, body] of html.matchAll(/<table([^>]*)>([\s\S]*?)<\/table>/g))
        if (attribute(tag, "aria-label") === label)
          return [...body.matchAll(/<tr[^>]*>([\s\S]*?)<\/tr>/g)].map(([, row]) =>
            [...row.matchAll(/<t[hd][^>]*>([\s\S]*?)<\/t[hd]>/g)].map(([, cell]) => words(cell)),
          );
      throw new RangeError(`no table "${label}"`);
    },
    value(label) {
      for (const [tag] of html.matchAll(/<input[^>]*>/g)) if (attribute(tag, "aria-label") === label) return attribute(tag, "value") ?? "";
      for (const [, tag, body] of html.matchAll(/<select([^>]*)>([\s\S]*?)<\/select>/g))
        if (attribute(tag, "aria-label") === label) return /<option[^>]*selected[^>]*>([\s\S]*?)<\/option>/.exec(body)?.[1] ?? "";
      throw new RangeError(`no field "${label}"`);
    },
  };
}
