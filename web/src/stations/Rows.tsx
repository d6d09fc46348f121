import type { Catalogue, Output, Row, TrialView } from "../api/types";
import { number, suffix } from "../ui/format";
import { NumberField } from "../ui/NumberField";
import { WedgeMark } from "../ui/WedgeMark";

/** The most rows shown before the rest is asked for. */
const MOST = 6;
/** Fewer above a close view, while nothing is changed. */
const MOST_ABOVE_DETAIL = 3;
/** Fewer beside a trial, whose card is taller. */
const MOST_IN_TRIAL = 4;

interface RowsProps {
  caption: string;
  rows: Row[];
  /** Nothing is changed: only what is, not from where to where. */
  still: boolean;
  /** A close view stands below. */
  detailed: boolean;
  all: boolean;
  onAll: () => void;
  /** The output whose words the board says already. */
  onBoard: Output;
  /** A trial on the bench takes what was seen beside what was foreseen. */
  trial?: TrialView;
  catalogue: Catalogue;
  onSeen?: (row: Row, value: number | null) => Promise<string | undefined>;
}

/** Foreseen rows: the largest change against its spread first. */
export function Rows({ caption, rows, still, detailed, all, onAll, onBoard, trial, catalogue, onSeen }: RowsProps) {
  const most = trial ? MOST_IN_TRIAL : still && detailed ? MOST_ABOVE_DETAIL : MOST;
  // While nothing is changed, what this station looks at comes first.
  const ordered = still ? [...rows].sort((a, b) => Number(b.output === onBoard) - Number(a.output === onBoard)) : rows;
  const shown = all ? ordered : ordered.slice(0, most);
  return (
    <>
      <table className="rows">
        <caption>{caption}</caption>
        {trial && (
          <thead>
            <tr>
              <th />
              <th scope="col">before</th>
              <th scope="col">foreseen</th>
              <th scope="col">seen</th>
            </tr>
          </thead>
        )}
        <tbody>
          {shown.map((row) => {
            const spec = catalogue.outputs.find((o) => o.output === row.output);
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
                {trial && onSeen && spec && (
                  <td>
                    <NumberField
                      label={`${row.label}, seen`}
                      labelHidden
                      spec={{ unit: row.unit, step: 1, fine_step: 0.5 }}
                      value={seen?.value ?? undefined}
                      onCommit={(value) => onSeen(row, value)}
                    />
                  </td>
                )}
              </tr>
            );
          })}
        </tbody>
      </table>
      {rows.length > MOST && (
        <button type="button" className="more" onClick={onAll}>
          {all ? "Fewer values" : `All ${rows.length} values`} (A)
        </button>
      )}
    </>
  );
}
