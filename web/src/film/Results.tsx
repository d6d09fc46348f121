import type { AcrossFollowed, ClipFollowed, FilmRead, FilmValue, Side } from "../api/types";
import { number } from "../ui/format";

/** What one picture tells. */
export function StillResults({ read, found, side }: { read: FilmRead; found: FilmRead | undefined; side: Side }) {
  const said = [...new Set([...read.messages, ...(found?.messages ?? [])])];
  return (
    <section className="card" aria-labelledby="read">
      <h2 id="read">Read off the picture, {side} side</h2>
      <p className="soft">
        {read.squared ? `Squared: camera ${turned(read.yaw_deg)}` : "Not squared"}
        {read.crank_deg == null ? "" : `, crank ${number(Math.round(read.crank_deg))}° after the top`}.
      </p>
      <Values values={read.values} />
      <Said said={said} />
    </section>
  );
}

/** What a clip tells. */
export function ClipResults({ clip, side }: { clip: ClipFollowed; side: Side }) {
  const { read } = clip;
  return (
    <section className="card" aria-labelledby="read">
      <h2 id="read">Read off the clip, {side} side</h2>
      <p className="soft">
        {number(read.cadence_rpm)} rpm over {read.frames} frames; least seen:{" "}
        {Math.round((100 * Math.min(...read.seen.map((one) => one.frames))) / read.frames)} % of them.
      </p>
      <Values values={read.values} />
      <Said said={[...read.messages, ...read.sample.messages]} />
    </section>
  );
}

/** What a clip from ahead or behind tells. */
export function AcrossResults({ read, label }: { read: AcrossFollowed["read"]; label: string }) {
  return (
    <section className="card" aria-labelledby="read">
      <h2 id="read">Read off the clip, {label.toLowerCase()}</h2>
      <p className="soft">
        {number(Math.round(read.sample.cadence_rpm))} rpm. Knees in mm off the line from toe to hip, outward +.
      </p>
      <table className="rows values">
        <tbody>
          {read.values.map((value) => (
            <tr key={`${value.figure} ${value.side ?? ""}`} data-figure={`${value.figure}.${value.side ?? "both"}`}>
              <th scope="row">{value.label}</th>
              <td>{value.words}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Said said={[...read.messages, ...read.sample.messages]} />
    </section>
  );
}

const turned = (yaw: number) =>
  Math.abs(yaw) < 0.5
    ? "square to the bike"
    : `${number(Math.abs(Math.round(yaw * 10) / 10))}° ${yaw > 0 ? "ahead of" : "behind"} square`;

function Values({ values }: { values: FilmValue[] }) {
  if (values.length === 0) return <p>Click the joints: angles stand here as soon as three are there.</p>;
  return (
    <table className="rows values">
      <tbody>
        {values.map((value) => (
          <tr key={value.key} data-figure={value.key}>
            <th scope="row">{value.label}</th>
            <td>{value.words}</td>
            <td className="soft">{value.output == null ? "not a look" : ""}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What there is to say of a picture. */
export function Said({ said }: { said: string[] }) {
  return (
    <>
      {said.map((words) => (
        <p key={words} className="said">
          {words}
        </p>
      ))}
    </>
  );
}
