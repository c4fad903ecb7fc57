import { beforeEach, describe, expect, it } from "vitest";
import { clinic } from "../../../demo/clinic.ts";
import { useStore } from "../store.ts";
import { useForm } from "./formStore.ts";
import { showPlace } from "./showPlace.ts";

beforeEach(() => {
  useStore.setState({ project: clinic, selection: [] });
  useForm.getState().set({ focus: 0, view: "sheets", hidden: new Set(["spaces/office"]), cut: true });
});
const selected = (): string[] => useStore.getState().selection.map((s) => `${s.kind}:${s.id}`);

describe("the place of a problem", () => {
  it("of a space is selected on the plan, with nothing hidden or cut, and brought into view", () => {
    showPlace("spaces/office/form/outline");
    expect(selected()).toEqual(["space:office"]);
    expect(useForm.getState()).toMatchObject({ focus: 1, view: "plan", cut: false });
    expect(useForm.getState().hidden.size).toBe(0);
  });
  it("of a placed opening is shown on the elevation of its wall, of one by rule on the plan", () => {
    showPlace("openings/door");
    expect(selected()).toEqual(["opening:door"]);
    expect(useForm.getState().view).toBe("elevation");
    showPlace("openings/south/ratio");
    expect(selected()).toEqual(["opening:south"]);
    expect(useForm.getState().view).toBe("plan");
  });
  it("of a zone is its spaces", () => {
    const [zone, members] = Object.keys(clinic.zones).map((z): [string, string[]] => [
      z,
      Object.keys(clinic.spaces).filter((s) => clinic.spaces[s].zone === z),
    ])[0];
    showPlace(`zones/${zone}`);
    expect(selected()).toEqual(members.map((m) => `space:${m}`));
  });
  it("of something without a place leaves the selection as it is, and still shows the plan", () => {
    showPlace("spaces/office");
    showPlace("site/ground");
    expect(selected()).toEqual(["space:office"]);
    expect(useForm.getState().focus).toBe(2);
  });
});
