import "./kinds.css";
import { useQuery } from "@tanstack/react-query";
import { offRoadQuery } from "../../api/queries";
import type { OffRoadView, Quantity } from "../../api/types";
import { Foresee } from "../../cards/Foresee";
import { specOf } from "../../fit/fields";
import { useFit } from "../../fit/useFit";
import { number, sentence, withUnit } from "../../ui/format";
import { HeadRow } from "../../ui/HeadRow";
import { NumberField } from "../../ui/NumberField";

/** What is asked of a bike off the road, where this is one whose bike as found is closed. */
function useOffRoadAnswer() {
  const { view, version, closed } = useFit();
  const on = closed && (view.bike.kind === "off_road" || view.bike.kind === "gravity");
  return { on, answer: useQuery({ ...offRoadQuery(view.session.id, version), enabled: on }) };
}

/** What there is to say of a bike off the road; nothing of the others. */
export function useOffRoad() {
  const { on, answer } = useOffRoadAnswer();
  return on ? answer.data : undefined;
}

/** Whether what is asked is answered, where anything is. */
export function useOffRoadAnswered() {
  const { on, answer } = useOffRoadAnswer();
  return !on || !answer.isPending;
}

/** The cockpit as one problem, each answer one linked trial. */
export function CockpitPanel() {
  const data = useOffRoad();
  if (!data) return null;
  const { cockpits } = data;
  return (
    <section className="cockpit" aria-label="Cockpit">
      <h3>
        Cockpit as one <span className="number-hint">{cockpits && `${cockpits.looked_at} looked at`}</span>
      </h3>
      {data.waits_for !== "" && <p className="apart">{sentence(data.waits_for)}</p>}
      {cockpits && (
        <>
          <p>BB to grips wanted: {withUnit(cockpits.knuckle_mm, "mm")}, as from floor to knuckles.</p>
          <ol>
            {cockpits.answers.map((answer) => (
              <li key={answer.words}>
                <p>
                  <b>{answer.words}</b>
                </p>
                <p>
                  BB to grips {withUnit(answer.grips_mm, "mm")} ({answer.grips_off_mm > 0 ? "+" : ""}
                  {number(answer.grips_off_mm)}); hands {withUnit(answer.ahead_mm, "mm")} ahead of the steerer
                  {answer.to_order && "; a bar to order"}.
                </p>
                <Foresee changes={answer.changes} about={answer.words} />
              </li>
            ))}
          </ol>
          {cockpits.words.map((words) => (
            <p key={words} className="apart">
              {sentence(words)}
            </p>
          ))}
        </>
      )}
    </section>
  );
}

/** Springs, geometry under sag, dropper, cranks and rotors. */
export function OffRoadPage() {
  const data = useOffRoad();
  if (!data) return null;
  return (
    <>
      <div className="sag-cards">
        {data.cards.map((card) => (
          <SagCard key={card.spring} card={card} />
        ))}
      </div>
      <UnderSag data={data} />
      <Dropper data={data} />
      <section aria-label="Cranks and rotors">
        <h2>Cranks and rotors</h2>
        <p>
          {data.cranks_mm
            ? `Cranks by the inseam in shoes: ${withUnit(data.cranks_mm[0], "mm")} to ${withUnit(data.cranks_mm[1], "mm")}.`
            : "Cranks go by the inseam in shoes: measure it at Body."}
        </p>
        <p>
          {data.rotors_mm
            ? `Usual rotors for this mass: ${number(data.rotors_mm[0])} front, ${number(data.rotors_mm[1])} rear, mm. The makers of fork and frame come first.`
            : "Rotors go by mass and the studio’s table: weigh the rider at Body."}
        </p>
      </section>
    </>
  );
}

type Card = OffRoadView["cards"][number];

const FIELDS: Record<Card["spring"], Quantity[]> = {
  fork: [
    "fork_travel_mm",
    "fork_target_percent",
    "fork_pressure_bar",
    "fork_ring_mm",
    "fork_rebound_clicks",
    "fork_compression_clicks",
  ],
  shock: [
    "shock_stroke_mm",
    "shock_target_percent",
    "shock_pressure_bar",
    "shock_ring_mm",
    "shock_rebound_clicks",
    "shock_compression_clicks",
    "rear_travel_mm",
    "shock_progression_percent",
  ],
};

/** A fork's or shock's card: what is typed is a reading, and all of them stay as a log. */
function SagCard({ card }: { card: Card }) {
  const { view, catalogue, finished, bikeReading } = useFit();
  const last = (quantity: Quantity) => view.session.readings.findLast((r) => r.quantity === quantity)?.value;
  return (
    <section className="sag-card" aria-label={card.label}>
      <h2>{card.label}</h2>
      <div className="field-grid">
        {FIELDS[card.spring].map((quantity) => {
          const spec = specOf(catalogue, quantity);
          return (
            spec && (
              <NumberField
                key={quantity}
                label={spec.label}
                how={spec.how}
                fieldKey={quantity}
                spec={spec}
                value={last(quantity)}
                placeholder="not read"
                readOnly={finished}
                onCommit={(value) => bikeReading(quantity, null, value)}
              />
            )
          );
        })}
      </div>
      {card.verdict != null && <p className="verdict">{sentence(card.verdict)}</p>}
      {card.target_mm != null && (
        <p>
          The ring at {withUnit(card.target_mm, "mm")} is {number(card.target_percent)} %
          {card.by_maker ? ", as its maker has it" : ": the maker’s number comes first, where there is one"}.
        </p>
      )}
      {card.try_bar != null && (
        <p className="apart">
          Try <b>{withUnit(card.try_bar, "bar")}</b>. {sentence(card.try_words ?? "")}
        </p>
      )}
      {card.log.length > 0 && (
        <table className="plans">
          <HeadRow columns={["Pressure", "Ring", "Sag", "Readings"]} />
          <tbody>
            {card.log.map((at, index) => (
              <tr key={index}>
                <td className="n">{at.pressure_bar == null ? "?" : withUnit(at.pressure_bar, "bar")}</td>
                <td className="n">
                  {withUnit(at.ring_mm, "mm")}
                  {at.spread_mm != null && ` ± ${number(at.spread_mm)}`}
                </td>
                <td className="n">{withUnit(at.percent, "percent")}</td>
                <td>{at.readings}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="number-hint">{sentence(card.dials)}</p>
    </section>
  );
}

/** The bike as it stands under its rider, beside the static one. */
function UnderSag({ data }: { data: OffRoadView }) {
  const { sprung, nose_down } = data;
  if (!sprung && !nose_down) return null;
  const rows = sprung
    ? ([
        ["Head angle", sprung.head_deg, sprung.head_sag_deg, "deg"],
        ["BB above the ground", sprung.bb_mm, sprung.bb_sag_mm, "mm"],
        ["Setback", sprung.setback_mm, sprung.setback_sag_mm, "mm"],
      ] as const)
    : [];
  return (
    <section aria-label="Under sag">
      <h2>Under the rider</h2>
      {sprung && (
        <>
          <table className="plans">
            <HeadRow columns={["", "static", "at sag"]} />
            <tbody>
              {rows.map(([label, before, after, unit]) => (
                <tr key={label}>
                  <th scope="row">{label}</th>
                  <td className="n">{withUnit(before, unit)}</td>
                  <td className="n">{withUnit(after, unit)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p>
            The bike pitches {withUnit(Math.abs(sprung.pitch_deg), "deg")} {sprung.pitch_deg < 0 ? "forward" : "back"};
            the saddle then stands {withUnit(sprung.tilt_sag_deg, "deg")} to the level. The wheel goes by the shock’s
            progression; in proportion, until that is typed.
          </p>
        </>
      )}
      {nose_down && (
        <>
          <p className="apart">{sentence(nose_down.words)}</p>
          <Foresee changes={nose_down.changes} about={nose_down.words} />
        </>
      )}
    </section>
  );
}

/** The longest dropper that goes. */
function Dropper({ data }: { data: OffRoadView }) {
  const longest = data.droppers.filter((d) => d.goes).at(-1);
  return (
    <section aria-label="Dropper">
      <h2>Dropper</h2>
      <p>
        {longest
          ? `The longest that goes: ${withUnit(longest.drop_mm, "mm")}, with ${withUnit(longest.clear_mm, "mm")} over the tyre.`
          : "None that is sold goes on this bike as it stands."}{" "}
        How much post the tube takes is an estimate: look into it.
      </p>
      <details>
        <summary>Every length</summary>
        <table className="plans">
          <HeadRow columns={["Drop", "Over the tyre", ""]} />
          <tbody>
            {data.droppers.map((d) => (
              <tr key={d.drop_mm}>
                <th scope="row">{withUnit(d.drop_mm, "mm")}</th>
                <td className="n">{withUnit(d.clear_mm, "mm")}</td>
                <td>{d.goes ? "goes" : `✗ ${d.words}`}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </section>
  );
}
