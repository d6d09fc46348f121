import "./kinds.css";
import type { AeroView } from "../../api/types";
import { Foresee } from "../../cards/Foresee";
import { ToPage } from "../../cards/LongPage";
import { useFit } from "../../fit/useFit";
import { number, sentence, signed, withUnit } from "../../ui/format";
import { HeadRow } from "../../ui/HeadRow";
import { Keycap } from "../../ui/Keycap";
import { useKeys } from "../../ui/keys";
import { NumberField } from "../../ui/NumberField";
import { TURNS, useAero, useTurned } from "./useAero";

const DEG = { unit: "deg", step: TURNS.step, fine_step: TURNS.fine, min: -TURNS.most, max: TURNS.most } as const;

/** Going lower as one piece: what the parts do for it, which ends first, and what it costs. */
export function TurnPanel() {
  const { still } = useFit();
  const aero = useAero();
  useTurned(aero);
  const { data, by, turn } = aero;
  const turns = !still && data !== undefined;
  useKeys({
    "[": turns ? () => turn(by - TURNS.step) : undefined,
    "]": turns ? () => turn(by + TURNS.step) : undefined,
    "{": turns ? () => turn(by - TURNS.fine) : undefined,
    "}": turns ? () => turn(by + TURNS.fine) : undefined,
  });
  if (!data) return null;
  const { turned } = data;
  return (
    <>
      <div className="buttons starts">
        <ToPage words="Positions side by side" />
      </div>
      <section className="turn" aria-label="Turn the position">
        <h3>
          Turn the position about the BB <Keycap>[</Keycap> <Keycap>]</Keycap>
        </h3>
        {!still && (
          <NumberField
            label="Forward, front down"
            fieldKey="turn_deg"
            spec={DEG}
            value={by}
            onCommit={(to) => {
              turn(to);
              return undefined;
            }}
            onStep={turn}
          />
        )}
        <p className="reach">{turned.words}.</p>
        <p className="number-hint">
          Every joint keeps its angle (to {number(Math.max(0.1, turned.joints_deg))}°). {turned.spacers}.
        </p>
        <Lean turned={turned} />
        <Parts turned={turned} />
      </section>
      <HipRoom data={data} onTurn={still ? undefined : turn} />
      <Instead data={data} />
    </>
  );
}

/** What the turn makes of the position. */
function Lean({ turned }: { turned: AeroView["turned"] }) {
  const rows = [
    ["Drop as a share", turned.drop_share_before, turned.drop_share_after, "percent"],
    ["Torso", turned.torso_before, turned.torso_after, "deg"],
    ["Seat angle", turned.seat_angle_before, turned.seat_angle_after, "deg"],
  ] as const;
  return (
    <table className="rows">
      <caption className="visually-hidden">What the turn makes of the position</caption>
      <HeadRow columns={["", "now", "turned", ""]} />
      <tbody>
        {rows.map(([label, before, after, unit]) => (
          <tr key={label}>
            <th scope="row">{label}</th>
            <td>{withUnit(before, unit)}</td>
            <td>{withUnit(after, unit)}</td>
            <td>{signed(after - before)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Each part: where it goes, and where it ends. */
function Parts({ turned }: { turned: AeroView["turned"] }) {
  const value = (mm: number | null | undefined, unit: string) => (mm == null ? "?" : `${number(mm)}${unit}`);
  return (
    <table className="rows parts-turned">
      <caption>What the parts do</caption>
      <HeadRow columns={["", "now", "to", "ends at"]} />
      <tbody>
        {turned.parts.map((part) => (
          <tr key={part.part} className={part.past ? "breaks" : undefined}>
            <th scope="row">
              {part.label}
              <span className={part.past ? "mark" : "number-hint"}>
                {part.past && "✗ "}
                {part.words}
              </span>
            </th>
            <td>{value(part.now, part.unit)}</td>
            <td>{value(part.to, part.unit)}</td>
            <td>{part.ends_at_deg == null ? "–" : `${number(part.ends_at_deg)}°`}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The seat angle that keeps the hips' room for a lower front. */
function HipRoom({ data, onTurn }: { data: AeroView; onTurn: ((by: number) => void) | undefined }) {
  if (data.hip_room.length === 0) return null;
  return (
    <section aria-label="The seat angle that keeps the hips’ room">
      <h3>The hips’ room kept, lower</h3>
      <table className="rows">
        <caption className="visually-hidden">Seat angle and turn for a share of drop</caption>
        <HeadRow columns={["Drop", "seat angle", "turn", ""]} />
        <tbody>
          {data.hip_room.map((row) => (
            <tr key={row.drop_share}>
              <th scope="row">{withUnit(row.drop_share, "percent")}</th>
              <td>{withUnit(row.seat_angle_deg, "deg")}</td>
              <td>{`${signed(row.by_deg)}°`}</td>
              <td>
                {row.reached ? "" : "✗ past the parts"}
                {onTurn && row.reached && (
                  <button
                    type="button"
                    className="more"
                    aria-label={`Turn to ${number(row.drop_share)} %`}
                    onClick={() => onTurn(row.by_deg)}
                  >
                    turn
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** Room for the hips two ways. */
function Instead({ data }: { data: AeroView }) {
  if (data.instead.length === 0) return null;
  return (
    <section aria-label="Shorter crank or higher pads">
      <h3>Shorter crank, or the pads up</h3>
      {data.instead.map((way) => (
        <div key={way.title} className="instead">
          <p>
            <b>{way.title}</b>
          </p>
          <p>
            Hips fold {withUnit(way.gained_deg, "deg")} less
            {way.drop_share != null && `; drop ${withUnit(way.drop_share, "percent")}`}
            {way.torso_deg != null && `; torso ${withUnit(way.torso_deg, "deg")}`}.
          </p>
          {way.left !== "" && <p className="apart">{sentence(way.left)}</p>}
          <Foresee changes={way.changes} about={way.title} />
        </div>
      ))}
    </section>
  );
}
