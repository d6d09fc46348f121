import { describe, expect, it } from "vitest";
import { ASKED, beginning, nextOf, settled, shotOf, withRims } from "./points";

const draft = { ...beginning(680), name: "a.jpg" };

describe("the points of a picture", () => {
  it("are asked for in their order, and the tyres' edges stand ready once both axles do", () => {
    expect(nextOf(ASKED, {})?.key).toBe("rear");
    expect(nextOf(ASKED, { rear: [400, 500] })?.key).toBe("front");
    const points = withRims({ rear: [400, 500], front: [905, 500] }, 680);
    expect(nextOf(ASKED, points)?.key).toBe("bb");
    // 505 px for 1010 mm: half a pixel a millimetre, the radius 170.
    expect(points.rear_above).toEqual([400, 330]);
    expect(points.front_ahead).toEqual([1075, 500]);
  });

  it("lead the other way for a rider who faces left, and never move what was dragged", () => {
    const points = withRims({ rear: [905, 500], front: [400, 500], front_ahead: [231, 501] }, 680);
    expect(points.front_ahead).toEqual([231, 501]);
    expect(points.rear_ahead).toEqual([735, 500]);
    expect(settled(draft, { rear: [905, 500], front: [400, 500] }).facesLeft).toBe(true);
  });

  it("make a shot once both axles stand", () => {
    expect(shotOf(draft)).toBeUndefined();
    const points = { ...withRims({ rear: [400, 500], front: [905, 500] }, 680), knee: [600, 300] as [number, number] };
    const shot = shotOf({ ...draft, points, dots: ["knee"], distance: 3.1 });
    expect(shot?.view.rear.rim).toHaveLength(4);
    expect(shot?.marks).toEqual([{ part: "knee", at: [600, 300], dot: true }]);
    expect(shot?.view.distance_m).toBe(3.1);
    expect(ASKED).toHaveLength(19);
  });
});
