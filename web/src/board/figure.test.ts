import { describe, expect, it } from "vitest";
import type { Leg, LegPose, Point } from "../api/types";
import { left, limb, mix, poseAt, turned, unit, viewOf } from "./figure";

const pose = (x: number): LegPose => {
  const p: Point = [x, 0];
  return { knee: p, ankle: p, axle: p, heel: p, toe: p };
};
/** A leg whose poses stand at the tens of their own angle: 0, 90, 180, 270. */
const leg = { poses: [pose(0), pose(90), pose(180), pose(270)] } as unknown as Leg;

describe("poses", () => {
  it.each([
    [0, 0],
    [45, 45],
    [90, 90],
    [200, 200],
    [360, 0],
    [450, 90],
    [-90, 270],
    // From the last pose the stroke goes back to the first.
    [315, 135],
  ])("at %d° lies at %d", (angle, x) => expect(poseAt(leg, angle).knee[0]).toBeCloseTo(x));
});

describe("points", () => {
  it("turns front up", () => expect(left([1, 0])).toEqual([-0, 1]));
  it("has a direction even without a length", () => expect(unit([0, 0])).toEqual([0, 0]));
  it("lies between", () => expect(mix([0, 0], [10, 20], 0.25)).toEqual([2.5, 5]));
});

describe("shapes", () => {
  it("a limb closes around both joints", () => {
    const path = limb([0, 0], [100, 0], 20, 10);
    expect(path).toBe("M0.0 20.0L100.0 10.0A10 10 0 0 0 100.0 -10.0L0.0 -20.0A20 20 0 0 0 0.0 20.0Z");
  });
  it("a direction turns front up", () => {
    const [x, y] = turned([2, 0], 90);
    expect(x).toBeCloseTo(0);
    expect(y).toBeCloseTo(2);
    expect(turned([0, 1], -90)[0]).toBeCloseTo(1);
  });
});

describe("the view", () => {
  const world = { left: -500, right: 500, bottom: -200, top: 800 };
  it("keeps the world inside the margins, to one scale", () => {
    const view = viewOf(world, 800, 500, { top: 20, bottom: 80, side: 10 });
    expect(view.scale).toBeCloseTo(0.4);
    expect(view.y(-200)).toBeCloseTo(420);
    expect(view.y(800)).toBeCloseTo(20);
    expect(view.x(0)).toBeCloseTo(400);
    expect(view.at([100, 0])).toEqual([view.x(100), view.y(0)]);
  });
});
