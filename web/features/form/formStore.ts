import { create } from "zustand";

export const views = ["plan", "building", "elevation", "sheets", "sun", "airflow"] as const;
export type View = (typeof views)[number];
export const tools = ["select", "rectangle", "polygon", "split", "scale"] as const;
export type Tool = (typeof tools)[number];
export const shownBy = ["contact", "assembly", "space type", "zone", "orientation", "problem"] as const;
export type ShownBy = (typeof shownBy)[number];

interface FormState {
  readonly view: View;
  readonly tool: Tool;
  readonly storey: string | null;
  /** Width of the drawing grid, m; 0: none. */
  readonly grid: number;
  /** Envelope kit of what is drawn next; null: the project's. */
  readonly kit: string | null;
  readonly shown: ShownBy;
  /** Cut above this storey, or the whole building. */
  readonly cut: boolean;
  readonly hidden: ReadonlySet<string>;
  /** Day of the year and hour at which the sun stands in the building view; null: no sun. */
  readonly sun: { readonly day: number; readonly hour: number } | null;
  /** Counts requests to bring what is selected into view. */
  readonly focus: number;
  set(part: Partial<Omit<FormState, "set">>): void;
}

/** What the Form desk shows and does; not part of the project. */
export const useForm = create<FormState>()((set) => ({
  view: "plan",
  tool: "select",
  storey: null,
  grid: 0.5,
  kit: null,
  shown: "contact",
  cut: false,
  hidden: new Set(),
  sun: null,
  focus: 0,
  set,
}));
