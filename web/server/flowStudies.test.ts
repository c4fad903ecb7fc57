import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, expect, it } from "vitest";
import { checkProject, flowStudySpec, type FlowDirection } from "@arroyo/core";
import { model, rectangle } from "../../core/src/verification/formModel.ts";
import {
  beatFlowStudy,
  bindModels,
  claimFlowStudy,
  database,
  endFlowStudy,
  flowStudy,
  keepFlowDirection,
  migrate,
  startFlowStudy,
  turnFlowStudy,
  type Refusal,
} from "./index.ts";

beforeAll(async () => {
  bindModels(database());
  await migrate(database());
});
afterAll(() => database().close());

const refusal = (work: Promise<unknown>): Promise<Refusal> =>
  work.then(
    () => Promise.reject(new Error("it was accepted")),
    (e: unknown) => e as Refusal,
  );
const p = model({ a: rectangle(0, 0, 4, 4) });
const spec = flowStudySpec(p, checkProject(p).geometry, "tiny", 4);
const found = (direction: number): FlowDirection => ({
  direction,
  coefficients: spec.points.map(() => 0.1),
  cells: 1,
  steps: 1,
  map: { nx: 1, ny: 1, cell: 1, x0: 0, y0: 0, level: 1, speed: [1] },
});

it("a flow study is taken up, keeps each direction as it is done, waits while it is paused, and is kept by its content", async () => {
  const started = await startFlowStudy(spec);
  expect(started).toMatchObject({ status: "queued", directions: 4, found: [] });
  const [one, two] = [randomUUID(), randomUUID()];
  expect(await claimFlowStudy(one)).toMatchObject({ hash: started.hash });
  expect(await claimFlowStudy(two)).toBeNull();
  expect(await beatFlowStudy(started.hash, one, 0.2)).toBe("running");
  // another runner has no say in it
  expect(await beatFlowStudy(started.hash, two, 0.9)).toBeNull();
  await keepFlowDirection(started.hash, one, [found(0)], null);
  expect(await turnFlowStudy(started.hash, "pause")).toMatchObject({ status: "paused", progress: expect.closeTo(0.2, 5) as number });
  expect(await beatFlowStudy(started.hash, one, 0.3)).toBe("paused");
  expect((await turnFlowStudy(started.hash, "resume")).status).toBe("queued");
  // taken up again it knows what was done
  expect((await claimFlowStudy(two))?.found).toHaveLength(1);
  await keepFlowDirection(started.hash, two, [0, 90, 180, 270].map(found), 0.07);
  await endFlowStudy(started.hash, two, null);
  expect(await startFlowStudy(spec)).toMatchObject({ hash: started.hash, status: "done", progress: 1, gridCheck: expect.closeTo(0.07, 5) as number });
  expect((await flowStudy(started.hash)).found).toHaveLength(4);
});

it("one that cannot be made is refused with the reason, and a cancelled one goes on with what it has", async () => {
  expect((await refusal(startFlowStudy({ ...spec, cell: -1 }))).message).toMatch(/cell/);
  expect((await refusal(startFlowStudy({ ...spec, cell: 0.06 }))).message).toMatch(/million cells/);
  expect((await refusal(flowStudy("0".repeat(16)))).status).toBe(404);
  const other = { ...spec, cell: 0.9 };
  const { hash } = await startFlowStudy(other);
  expect((await turnFlowStudy(hash, "cancel")).status).toBe("cancelled");
  expect((await refusal(turnFlowStudy(hash, "forget"))).message).toMatch(/paused, resumed or cancelled/);
  expect((await startFlowStudy(other)).status).toBe("queued");
});
