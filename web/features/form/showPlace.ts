import { useStore, type Selection } from "../store.ts";
import { useForm } from "./formStore.ts";

/** Selects the thing at a problem's path and brings it into view. */
export function showPlace(path: string): void {
  const { select, project } = useStore.getState();
  const { set, focus } = useForm.getState();
  const [part, id] = path.split("/");
  const kinds: Record<string, Selection["kind"]> = { spaces: "space", openings: "opening", storeys: "storey", shades: "shade", roofs: "roof" };
  if (part === "zones" && project) {
    const members = Object.entries(project.spaces).flatMap(([k, s]) => (s.zone === id ? [{ kind: "space" as const, id: k }] : []));
    if (members.length > 0) select(members);
  } else if (kinds[part] && id) select([{ kind: kinds[part], id }]);
  const o = part === "openings" && project ? project.openings[id] : null;
  set({ focus: focus + 1, view: o?.kind === "placed" ? "elevation" : "plan", hidden: new Set(), cut: false });
}
