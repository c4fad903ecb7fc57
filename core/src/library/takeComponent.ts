import { setChange, type Change, type PlacedComponent, type Project } from "../model/index.ts";
import { shippedComponents } from "./components.ts";
import { SHIPPED } from "./shipped.ts";

/** Changes that copy a component's settings from the library; each is told as taken from it until it is typed over. @throws RangeError for another kind */
export function takeComponent(project: Project, c: PlacedComponent, id: string): Change[] {
  const item = Object.hasOwn(shippedComponents, id) ? shippedComponents[id] : null;
  if (!item || item.kind !== c.kind) throw new RangeError(`There is no ${c.kind} "${id}" in the library.`);
  return Object.entries(item.inputs).flatMap(([field, value]): Change[] => {
    const path = [...c.path, "inputs", field];
    return [
      setChange(project, path, value),
      setChange(project, ["provenance", path.join("/")], { kind: "imported", words: `${SHIPPED} library: ${item.name}, typical, unverified`, value }),
    ];
  });
}
