import { detail } from "../api/client";
import { useFit } from "../fit/useFit";
import { number, suffix } from "../ui/format";
import { NumberField } from "../ui/NumberField";
import { WedgeMark } from "../ui/WedgeMark";
import { outputOf } from "../fit/fields";
import { HeadRow } from "../ui/HeadRow";

/** The most rows shown before the rest is asked for. */
const MOST = 6;
/** Fewer above a close view, while nothing is changed. */
const MOST_ABOVE_DETAIL = 3;
/** Fewer beside a trial, whose card is taller. */
const MOST_IN_TRIAL = 4;

/** Foreseen rows, a close view below or not: the largest change against its spread first. */
export function Rows({ detailed }: { detailed: boolean }) {
  const { catalogue, closed, pending, foresight, bench: trial, shown: toggles, station, enter } = useFit();
  const rows = trial ? trial.trial.foreseen.rows : foresight.rows;
  // Nothing is changed: only what is, not from where to where.
  const still = !pending && !trial;
  const all = toggles.is("all");
  const onBoard = station.output;
  const most = trial ? MOST_IN_TRIAL : still && detailed ? MOST_ABOVE_DETAIL : MOST;
  // While nothing is changed, what this station looks at comes first.
  const ordered = still ? [...rows].sort((a, b) => Number(b.output === onBoard) - Number(a.output === onBoard)) : rows;
  const shown = all ? ordered : ordered.slice(0, most);
  return (
    <>
      <table className="rows">
        <caption>{!still ? "Foreseen, before a bolt is turned" : closed ? "Now" : "As drawn so far"}</caption>
        {trial && <HeadRow columns={["", "before", "foreseen", "seen"]} />}
        <tbody>
          {shown.map((row) => {
            const spec = outputOf(catalogue, row.output);
            const seen = trial?.seen.find((s) => s.output === row.output && (s.side ?? null) === (row.side ?? null));
            const unit = suffix(row.unit);
            return (
              <tr
                key={`${row.output}${row.side ?? ""}`}
                title={row.convention}
                className={row.moved || still ? undefined : "still"}
              >
                <th scope="row">
                  <span className="what">
                    {row.label}
                    {row.mark && (
                      <span className="mark">
                        <WedgeMark mark={row.mark} />
                      </span>
                    )}
                  </span>
                  {row.mark && (
                    <span className={row.output === onBoard && row.side !== "left" ? "visually-hidden" : "mark"}>
                      {row.mark.words}
                    </span>
                  )}
                  {all && <span className="how">{row.convention}</span>}
                </th>
                {!still && <td>{number(row.before, row.unit)}</td>}
                {!still && !trial && <td aria-hidden>→</td>}
                <td className="after" colSpan={still ? 3 : 1}>
                  {number(row.after, row.unit)}
                  {unit}
                  {(still || all) && row.band != null && row.band >= 0.05 && (
                    <span className="band" title="One standard deviation of the value itself; a change is surer">
                      ± {number(row.band, row.unit)}
                    </span>
                  )}
                </td>
                {trial && spec && (
                  <td>
                    <NumberField
                      label={`${row.label}, seen`}
                      labelHidden
                      spec={{ unit: row.unit, step: 1, fine_step: 0.5 }}
                      value={seen?.value ?? undefined}
                      onCommit={(value) =>
                        enter({ seen: { output: row.output, side: row.side ?? null, value } }).then(detail)
                      }
                    />
                  </td>
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
      {rows.length > MOST && (
        <button type="button" className="more" onClick={() => toggles.toggle("all")}>
          {all ? "Fewer values" : `All ${rows.length} values`} (A)
        </button>
      )}
    </>
  );
}
