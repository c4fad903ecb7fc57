import { describe, expect, it } from "vitest";
import { applyChanges, noMorph, type Project } from "../model/index.ts";
import { boxProject } from "../verification/box.ts";
import { adoptOption, ofAllOptions } from "./index.ts";

describe("an option with a weather year of its own", () => {
  const base = JSON.parse(JSON.stringify(boxProject())) as Project;
  base.weathers.then = { kind: "morphed", name: "Then", of: base.weather, morph: noMorph() };
  base.options.o = {
    name: "o",
    changes: [
      { id: "c1", op: "set", path: ["weather"], value: "then", old: base.weather },
      { id: "c2", op: "set", path: ["site", "elevation"], value: 7, old: base.site.elevation },
    ],
  };
  it("is adopted without its year unless asked", () => {
    const adopted = (withYear?: boolean): Project => {
      const done = applyChanges(base, adoptOption(base, "o", withYear));
      if (!done.ok) throw new Error(done.message);
      return done.project;
    };
    expect(adopted()).toMatchObject({ weather: base.weather, site: { elevation: 7 }, options: {} });
    expect(adopted(true)).toMatchObject({ weather: "then", site: { elevation: 7 } });
    expect(ofAllOptions(base.options.o.changes)).toBe(true);
  });
});
