import type { FigureSpec, Stat, TakeRow, TakesView } from "../api/types";

const SIDES = ["left", "right"] as const;
const COLUMNS = ["First", "Before", "Now"];

/** The heads of as many takes as there are. */
const headsOf = (count: number): string[] => (count === 1 ? ["Now"] : count === 2 ? ["Before", "Now"] : COLUMNS);

const told = (value: number, spec: FigureSpec): string => value.toFixed(spec.decimals).replace("-", "−");

function Value({ stat, spec }: { stat: Stat | null | undefined; spec: FigureSpec }) {
  if (!stat) return <>–</>;
  return <span title={`± ${told(stat.sd, spec)} between ${stat.n} strokes`}>{told(stat.mean, spec)}</span>;
}

/** First, before and now, and what of the change is real. */
export function SampleTable({ takes }: { takes: TakesView }) {
  const { compared, figures } = takes;
  if (!compared) return null;
  const spec = (row: TakeRow) => figures.find(({ figure }) => figure === row.figure);
  const sided = figures.flatMap((known) => {
    const of = (side: "left" | "right") =>
      compared.lines.find((row) => row.figure === known.figure && row.side === side);
    const [left, right] = [of("left"), of("right")];
    return left || right ? [{ known, left, right }] : [];
  });
  const alone = compared.lines.filter((row) => row.side == null);
  const heads = headsOf(takes.columns.length);
  const change = heads.length > 1;
  return (
    <section aria-labelledby="sample">
      <h2 id="sample">The stroke, take by take</h2>
      {compared.unlike && <p className="warn">{compared.unlike}</p>}
      <div className="scroll">
        <table className="rows sample">
          <thead>
            <tr>
              <th scope="col">Figure</th>
              <th scope="col">Side</th>
              {heads.map((head) => (
                <th key={head} scope="col">
                  {head}
                </th>
              ))}
              {change && <th scope="col">Change</th>}
              <th scope="col">Left less right</th>
              <th scope="col">Range</th>
            </tr>
          </thead>
          {sided.map(({ known, left, right }) => (
            <tbody key={known.figure} data-figure={known.key}>
              {SIDES.map((side) => {
                const row = side === "left" ? left : right;
                const range = rangeOf(takes, known.figure, side);
                return (
                  <tr key={side}>
                    {side === "left" && (
                      <th scope="rowgroup" rowSpan={2}>
                        {known.label}
                        {known.unit && <span className="unit">, {known.unit}</span>}
                      </th>
                    )}
                    <th scope="row">{side}</th>
                    {heads.map((head, index) => (
                      <td key={head} className={head === "Now" ? "now" : undefined}>
                        <Value stat={row?.takes[index]} spec={known} />
                      </td>
                    ))}
                    {change && <Change row={row} />}
                    {side === "left" && (
                      <td rowSpan={2} className={left?.left_less_right?.real ? "real" : "same"}>
                        {left?.left_less_right?.words}
                      </td>
                    )}
                    <td className={range?.mark ? "out" : undefined}>{range?.mark ?? range?.words}</td>
                  </tr>
                );
              })}
            </tbody>
          ))}
        </table>
        {alone.length > 0 && (
          <table className="rows sample">
            <thead>
              <tr>
                <th scope="col">Pelvis</th>
                {heads.map((head) => (
                  <th key={head} scope="col">
                    {head}
                  </th>
                ))}
                {change && <th scope="col">Change</th>}
              </tr>
            </thead>
            <tbody>
              {alone.map((row) => {
                const known = spec(row);
                if (!known) return null;
                return (
                  <tr key={row.figure} data-figure={known.key}>
                    <th scope="row">
                      {known.label}
                      <span className="unit">, {known.unit}</span>
                    </th>
                    {heads.map((head, index) => (
                      <td key={head} className={head === "Now" ? "now" : undefined}>
                        <Value stat={row.takes[index]} spec={known} />
                      </td>
                    ))}
                    {change && <Change row={row} />}
                  </tr>
                );
              })}
            </tbody>
          </table>
        )}
      </div>
      {compared.roughness.map((words) => (
        <p key={words}>{words}</p>
      ))}
      <p className="soft">
        Beside each change is what it may be off by: inside of that it is no difference. Left and right differ by where
        markers sit as well.
      </p>
    </section>
  );
}

function Change({ row }: { row: TakeRow | undefined }) {
  return <td className={row?.change?.real ? "real" : "same"}>{row?.change?.words ?? "–"}</td>;
}

/** The trade's range of a figure, and how the last take stands to it. */
const rangeOf = (takes: TakesView, figure: string, side: "left" | "right") =>
  takes.ranges.find(
    (range) => range.figure === figure && (range.side === side || (range.side == null && side === "left")),
  );
