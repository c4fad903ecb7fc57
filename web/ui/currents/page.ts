import type { AxesData } from "@arroyo/core";
import { Currents, type CurrentsLook, type CurrentsState } from "./currents.ts";
import { runsLeft, stretchWords, valueWords } from "./filters.ts";

/** What the page is handed: the study, the axes shown first, and all runs as CSV. */
interface Handed {
  readonly data: AxesData;
  readonly first: readonly string[];
  readonly csv: string;
}

const look: CurrentsLook = {
  ink: "#23262B",
  ink2: "#62676E",
  line: "#DCD4C6",
  sheet: "#FDFBF7",
  water: "#0E6B80",
  wash: "#DCEBED",
  clay: "#B24E2B",
  sediment: "#A79C86",
  font: "11px system-ui, sans-serif",
};
const byId = (id: string): HTMLElement => {
  const found = document.getElementById(id);
  if (!found) throw new Error(`the page has no "${id}"`);
  return found;
};
const element = (tag: string, text: string, of: Readonly<Record<string, string>> = {}): HTMLElement => {
  const e = document.createElement(tag);
  e.textContent = text;
  for (const [k, v] of Object.entries(of)) e.setAttribute(k, v);
  return e;
};

/** The page of a study from disk: the axes, what is left, and the chosen run. */
function show({ data, first, csv }: Handed): void {
  let state: CurrentsState = { order: first, brushes: {}, chosen: null };
  const tell = (next: CurrentsState): void => {
    state = next;
    words();
  };
  const currents = new Currents(byId("axes"), data, look, state, tell);
  const put = (next: CurrentsState): void => {
    currents.update(data, next, look);
    tell(next);
  };
  const words = (): void => {
    const { count } = runsLeft(data.columns, state.brushes, data.runs.length);
    byId("left").textContent = String(count);
    byId("of").textContent = ` of ${data.runs.length} left`;
    byId("stretches").replaceChildren(
      ...data.columns
        .filter((c) => Object.hasOwn(state.brushes, c.key))
        .map((c) => {
          const chip = element("button", `${stretchWords(c, state.brushes[c.key])} ×`, { type: "button", title: "Take this limit away" });
          chip.addEventListener("click", () => {
            const { [c.key]: _gone, ...brushes } = state.brushes;
            put({ ...state, brushes });
          });
          return chip;
        }),
    );
    byId("shown").replaceChildren(
      ...data.columns.map((c) => {
        const label = element("label", "");
        const box = document.createElement("input");
        box.type = "checkbox";
        box.checked = state.order.includes(c.key);
        box.addEventListener("change", () => {
          const order = box.checked ? [...state.order, c.key] : state.order.filter((k) => k !== c.key);
          if (order.length >= 2) put({ ...state, order });
          else box.checked = true;
        });
        label.append(box, ` ${c.name}`);
        return label;
      }),
    );
    const row = state.chosen;
    byId("chosen").replaceChildren(
      element("h2", row === null ? "No run chosen" : data.runs[row] === 0 ? "The base" : `Run ${data.runs[row]}`),
      ...(row === null
        ? [element("p", "Click a line to see its inputs and figures.")]
        : data.columns.map((c) => {
            const line = element("div", "");
            line.append(element("span", c.name), element("b", valueWords(c, row)));
            return line;
          })),
    );
  };
  const link = byId("csv") as HTMLAnchorElement;
  link.href = URL.createObjectURL(new Blob([csv], { type: "text/csv" }));
  words();
}

show(JSON.parse(byId("study").textContent) as Handed);
