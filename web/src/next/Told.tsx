import type { CarriedView } from "../api/types";
import { number, withUnit } from "../ui/format";
import { Lines } from "../ui/Lines";

/** What remains off, in large figures. */
function Off({ what, off: [x, y] }: { what: string; off: [number, number] }) {
  const length = Math.hypot(x, y);
  const there = length < 0.5;
  return (
    <p>
      <span className="other">{what}</span>
      <b>{there ? "where they were" : `${withUnit(length, "mm")} off`}</b>
      {!there && `${number(x, "mm")} forward, ${withUnit(y, "mm")} up`}
    </p>
  );
}

/** What is told of a position on another bike. */
export function CarriedTold({ view }: { view: CarriedView }) {
  const { carried } = view;
  const compared = carried.compared.map(
    (one) => `${one.label}: ${number(one.before, one.unit)} → ${withUnit(one.after, one.unit)}`,
  );
  const cut = carried.cut_mm == null ? [] : [`Cut ${withUnit(carried.cut_mm, "mm")} off the steerer: stays cut`];
  return (
    <>
      <div className="off" data-testid="off">
        <Off what="Saddle" off={carried.saddle_off} />
        <Off what="Hands" off={carried.hand_off} />
      </div>
      <Lines title="Stands in the way" lines={carried.in_the_way} />
      <Lines title="Built of" lines={carried.built} />
      <Lines title="To order" lines={[...carried.to_order, ...cut]} />
      <Lines title="Other than before" lines={compared} />
      <Lines title="And" lines={carried.also ?? []} />
      <Lines title="Look at before it is ridden" lines={carried.checks} />
      <p className="other">Computed, not ridden.</p>
    </>
  );
}
