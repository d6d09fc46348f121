import type { MapLine, Unit } from "../api/types";
import { type Box, type Edge, labels } from "../ui/mapLabels";

/** Lines of one output on a map: its unit, its name, the pattern it is drawn in and the edge its labels stand on. */
export type Family = readonly [output: MapLine["output"], unit: Unit, label: string, name: string, edge: Edge];

interface FamiliesProps {
  families: readonly Family[];
  lines: MapLine[];
  /** From the map's millimetres to the drawing's pixels. */
  x: (value: number) => number;
  y: (value: number) => number;
}

const of = (lines: MapLine[], output: MapLine["output"]) => lines.filter((line) => line.output === output);

/** The lines of a map, family by family. */
export function FamilyLines({ families, lines, x, y }: FamiliesProps) {
  return families.map(([output, , , name]) => (
    <g key={output} className={name}>
      {of(lines, output).flatMap((line) =>
        line.pieces.map((piece, index) => (
          <polyline
            key={`${line.label}${index}`}
            className={line.strong ? "strong" : undefined}
            points={piece.map(([px, py]) => `${x(px ?? 0)},${y(py ?? 0)}`).join(" ")}
          />
        )),
      )}
    </g>
  ));
}

/** What the lines of a map stand for, each at its family's edge. */
export function FamilyLabels({ families, lines, x, y, box }: FamiliesProps & { box: Box }) {
  return families.map(([output, , , name, edge]) => (
    <g key={output} className={`label ${name}`}>
      {labels(of(lines, output), edge, box, x, y).map(({ text, at }) => (
        <text
          key={text}
          x={at[0]}
          y={at[1]}
          textAnchor={edge === "left" ? "end" : edge === "right" ? "start" : "middle"}
        >
          {text}
        </text>
      ))}
    </g>
  ));
}
