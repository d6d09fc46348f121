import { Button } from "@chakra-ui/react";
import type { BarsView, Point, RunPlan } from "../../api/types";
import { Findings } from "../../cards/Findings";
import { Foresee } from "../../cards/Foresee";
import { ToPage } from "../../cards/LongPage";
import { Starts } from "../../cards/Starts";
import { useMoves } from "../../cards/useMoves";
import { barOf } from "../../fit/fields";
import { useFit } from "../../fit/useFit";
import { number, sentence, withUnit } from "../../ui/format";
import { HeadRow } from "../../ui/HeadRow";
import { Keycap } from "../../ui/Keycap";
import { CockpitPanel } from "../kinds/OffRoad";
import { EarField } from "../kinds/EarField";
import { HandScales } from "./HandScales";
import { useBars } from "./useBars";

/** Where the hands belong, the parts that put them there, and every place they have. */
export function BarsPanel() {
  const { still, shown, view, station } = useFit();
  const { data: bars, wish, aim } = useBars();
  useMoves([(bars?.fronts?.answers ?? []).map((answer) => answer.changes)]);
  if (!bars) return null;
  const pads = barOf(view.input.setup) === "aero";
  const more = pads ? "Positions, causes, protocols" : "Causes, protocols, levers";
  return (
    <>
      <div className="buttons starts">
        <Button onClick={() => shown.toggle("map")} aria-pressed={shown.is("map")}>
          {shown.is("map") ? "Close the plane" : "Hand plane"} <Keycap>D</Keycap>
        </Button>
        <ToPage words={more} />
      </div>
      {pads && station.station === "bars" && <EarField />}
      <CockpitPanel />
      <Schools bars={bars} aim={aim} onWish={still ? undefined : wish} />
      {!still && !view.run && <Starts starts={begun(bars)} />}
      <Findings title="Found in this fit" findings={bars.findings} />
      <FrontEnds bars={bars} />
      <Places bars={bars} />
      <BarWidth width={bars.width} />
    </>
  );
}

interface Begun {
  label: string;
  plan: RunPlan;
}

/** A bracket is of reach or of height; the one proposed begins where it should. */
const begun = (bars: BarsView): Begun[] =>
  bars.starts.flatMap(({ label, plan }): Begun[] => {
    if (!("bracket" in plan)) return [{ label, plan }];
    const of = (what: "reach" | "height"): RunPlan => ({
      bracket: { ...plan.bracket, of: what, from_mm: plan.bracket.of === what ? (plan.bracket.from_mm ?? 0) : 0 },
    });
    return [
      { label: "Bracket of reach", plan: of("reach") },
      { label: "Bracket of height", plan: of("height") },
    ];
  });

/** "12 farther, 3 higher": how far a school wants the hands from where they are. */
function way(farther: number, higher: number): string {
  const part = (value: number, more: string, less: string) =>
    Math.abs(value) < 0.5 ? [] : [`${number(Math.abs(value), "mm")} ${value > 0 ? more : less}`];
  const parts = [...part(farther, "farther", "nearer"), ...part(higher, "higher", "lower")];
  return parts.length === 0 ? "there" : `${parts.join(", ")}, mm`;
}

interface SchoolsProps {
  bars: BarsView;
  aim: Point | undefined;
  onWish: ((at: Point | undefined) => void) | undefined;
}

/** What the schools wish, square to the arc and along it. */
function Schools({ bars, aim, onWish }: SchoolsProps) {
  return (
    <section className="schools hand-schools" aria-label="Where the hands belong">
      <h3>Where the hands belong</h3>
      <HandScales bars={bars} />
      <ul>
        {bars.schools.map((school) => (
          <li key={school.school} className={school.leads ? "leads" : undefined}>
            <span className="says">
              <span>
                {school.label}
                {school.leads && <b> leads</b>}
              </span>
              <b className="value">{school.target == null ? "?" : way(school.farther_mm, school.higher_mm)}</b>
            </span>
            <p className="why">{sentence(school.words)}</p>
            {onWish &&
              school.target != null &&
              !school.leads &&
              way(school.farther_mm, school.higher_mm) !== "there" && (
                <Button size="sm" onClick={() => onWish(school.target ?? undefined)}>
                  Aim there
                </Button>
              )}
          </li>
        ))}
      </ul>
      {bars.lean.reasons.length > 0 && (
        <p className="number-hint">
          Leans {bars.lean.share > 0 ? "upright" : "low"}: {bars.lean.reasons.join("; ")}.
        </p>
      )}
      {bars.lean_ends.map((words) => (
        <p key={words} className="number-hint">
          {sentence(words)}
        </p>
      ))}
      {bars.arc != null && <p className="number-hint">Along the arc {bars.arc}.</p>}
      {aim && onWish && (
        <p className="number-hint">
          Aimed at {number(aim[0], "mm")} forward, {withUnit(aim[1], "mm")} up.{" "}
          <button type="button" className="more" onClick={() => onWish(undefined)}>
            Back to the leading school
          </button>
        </p>
      )}
    </section>
  );
}

/** The front ends that come nearest, each as one linked trial, and what stands in the way. */
function FrontEnds({ bars }: { bars: BarsView }) {
  const { fronts } = bars;
  if (!fronts) return null;
  return (
    <section className="front-ends" aria-label="Front ends">
      <h3>
        Parts that put them there <span className="number-hint">{fronts.looked_at} looked at</span>
      </h3>
      <ol>
        {fronts.answers.map((answer, index) => (
          <li key={answer.words}>
            <p>
              <b>{answer.words}</b>, {withUnit(answer.miss_mm, "mm")} off.
            </p>
            {answer.to_order.length > 0 && <p className="number-hint">To order: {answer.to_order.join(", ")}.</p>}
            {answer.cut_mm != null && (
              <p className="warn">Steerer cut by {withUnit(answer.cut_mm, "mm")}: that stays cut.</p>
            )}
            <Foresee changes={answer.changes} keycap={index === 0 ? "S" : undefined} about={answer.words} />
          </li>
        ))}
      </ol>
      {fronts.answers.length === 0 && <p>Nothing is turned: the hands are as near as these parts bring them.</p>}
      {fronts.in_the_way.map((words) => (
        <p key={words} className="apart">
          {sentence(words)}
        </p>
      ))}
      {fronts.answers[0] && (
        <details>
          <summary>Before it is ridden</summary>
          <ul>
            {fronts.answers[0].checks.map((check) => (
              <li key={check}>{check}</li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

/** The bar's width as it is and as its schools have it. */
function BarWidth({ width }: { width: BarsView["width"] }) {
  const wants = (low: number, high: number) =>
    low === high ? withUnit(low, "mm") : `${number(low, "mm")}–${withUnit(high, "mm")}`;
  return (
    <section aria-label="Width of the bar">
      <h3>
        Width <span className="now-words">│ now {withUnit(width.now_mm, "mm")}</span>
      </h3>
      {width.schools.map((school) => (
        <p key={school.label} className="says">
          {school.label}: <b>{`${school.estimated ? "≈ " : ""}${wants(school.low_mm, school.high_mm)}`}</b>
        </p>
      ))}
      <p className="number-hint">Hands {withUnit(width.ahead_mm, "mm")} ahead of the steerer’s axis.</p>
      {width.words.map((words) => (
        <p key={words} className="apart">
          {sentence(words)}
        </p>
      ))}
    </section>
  );
}

/** Every place the hands have, the ones that break something marked. */
function Places({ bars }: { bars: BarsView }) {
  const { view } = useFit();
  return (
    <section aria-label="Every place of the hands">
      <table className="rows hand-places">
        <caption>Every place of the hands</caption>
        <HeadRow columns={["", "torso", "shoulder", "elbow", "hip"]} />
        <tbody>
          {bars.places.map((row) => (
            <tr key={row.place} className={row.breaks == null ? undefined : "breaks"}>
              <th scope="row">
                {row.label}
                {row.place === view.now.after.hands && " (now)"}
                {row.breaks != null && <span className="mark">✗ {sentence(row.breaks)}</span>}
              </th>
              <td>{withUnit(row.torso_deg, "deg")}</td>
              <td>{withUnit(row.shoulder_deg, "deg")}</td>
              <td>{withUnit(row.elbow_deg, "deg")}</td>
              <td>{withUnit(row.hip_deg, "deg")}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
