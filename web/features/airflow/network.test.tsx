import { beforeEach, describe, expect, it, vi } from "vitest";
import { airPlan, checkProject, unconnected, type AirNetworkInput, type Project } from "@arroyo/core";
import { rendered } from "../../ui/rendered.ts";
import { demo, show } from "../shown.ts";
import { AirPathInspector } from "../form/AirPathInspector.tsx";
import { SpaceInspector } from "../form/SpaceInspector.tsx";
import { AirMap } from "./AirMap.tsx";
import { flowArrows, networkArrows } from "./arrows.ts";

vi.mock("next/navigation", () => ({ useSearchParams: () => new URLSearchParams(), useRouter: () => ({}), usePathname: () => "/" }));

const hall = demo("hall");
const network = hall.airNetwork as AirNetworkInput;
const plan = airPlan(hall, network, checkProject(hall));
beforeEach(() => show(hall));

describe("a path of the network", () => {
  it("shows its ends, its free area and the rule of its type, and its own rule where it has one", () => {
    const shown = rendered(<AirPathInspector ids={["high_north"]} plan={plan} />);
    expect(shown.text).toContain("Climbing hall to outdoors");
    expect(shown.text).toContain("Free area 12.60 m² fully open");
    expect(shown.value("Opening type")).toBe("Windows");
    expect(shown.text).toContain("Rule of its type");
    const own: Project = {
      ...hall,
      airNetwork: {
        ...network,
        links: {
          ...network.links,
          high_north: { ...network.links.high_north, control: { rule: "temperature", above: 22 } } as AirNetworkInput["links"][string],
        },
      },
    };
    show(own);
    const after = rendered(<AirPathInspector ids={["high_north"]} plan={airPlan(own, own.airNetwork as AirNetworkInput, checkProject(own))} />);
    expect(after.text).toContain("Its own rule");
    expect(after.value("Limit")).toBe("22.0");
  });
  it("of several gives one type to all", () => {
    expect(rendered(<AirPathInspector ids={["high_north", "low_south"]} plan={plan} />).text).toContain("2 paths");
  });
});

describe("the network over plan and building", () => {
  it("has a mark for each path of the storey, and one that stands out for what is not connected", () => {
    const { high_north: _, ...links } = network.links;
    const less = { ...network, links };
    const missing = unconnected(hall, less, checkProject(hall));
    const shown = rendered(
      <AirMap
        project={hall}
        storey="ground"
        plan={airPlan(hall, less, checkProject(hall))}
        missing={missing}
        chosen={new Set()}
        onPick={() => undefined}
        label="Network"
      />,
    );
    expect(shown.text).toContain("High windows north, Climbing hall is not in the network; press to connect it");
    for (const name of ["Café windows", "Way to the hall, Entrance and Climbing hall"]) expect(shown.text).toContain(name);
    expect(networkArrows(plan, missing, new Set(["cafe"])).filter((a) => a.ring)).toHaveLength(1);
  });
  it("has arrows as wide as what passes, each way one", () => {
    const arrows = flowArrows(plan, (id) => (id === "low_south" ? { forward: 0.2, backward: 2 } : { forward: 0, backward: 0 }), 4);
    expect(arrows.map((a) => a.tint)).toEqual(["clay", "water"]);
    expect(arrows[1].width).toBeGreaterThan(arrows[0].width);
    expect(arrows[1].way[1]).toBeCloseTo(-arrows[0].way[1], 12);
  });
});

it("a room taller than 6 m says that its air is taken as well mixed, a low one does not", () => {
  expect(rendered(<SpaceInspector ids={["hall"]} />).text).toContain("well mixed over the whole height");
  expect(rendered(<SpaceInspector ids={["cafe"]} />).text).not.toContain("well mixed");
});
