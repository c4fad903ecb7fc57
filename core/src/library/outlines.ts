import type { ReportOutline, Topic } from "../model/index.ts";

const topics = (...list: readonly Omit<Topic, "id">[]): Topic[] => list.map((t, i) => ({ id: `t${i + 1}`, ...t }));

/** Outlines that ship: made of any run as they are, or copied into the project and changed there. */
export const shippedOutlines: Readonly<Record<string, ReportOutline>> = {
  client: {
    name: "Client summary",
    topics: topics(
      { kind: "summary", title: "The building in figures" },
      { kind: "energy", energy: "MWh" },
      { kind: "comfort", title: "Comfort of the people" },
      { kind: "warnings" },
    ),
  },
  loads: {
    name: "Loads",
    topics: topics({ kind: "summary" }, { kind: "loads" }, { kind: "flows", title: "Gains and losses by month" }, { kind: "components" }),
  },
  zones: { name: "Zones", topics: topics({ kind: "loads", title: "Loads by zone" }, { kind: "zones", title: "Temperatures and hours unmet by zone" }) },
  comfort: { name: "Comfort", topics: topics({ kind: "comfort" }, { kind: "zones" }) },
  assumptions: { name: "Assumptions register", topics: topics({ kind: "assumptions" }, { kind: "warnings" }) },
};
