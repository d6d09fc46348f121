import "./detail.css";
import type { StackPart } from "../api/types";
import { number } from "../ui/format";

const WIDTH = 372;
const HEIGHT = 196;
const FLOOR = HEIGHT - 24;
/** Each stack stands in the middle of its half. */
const COLUMNS = { before_mm: { middle: 122, word: "before" }, after_mm: { middle: 236, word: "after" } } as const;
const STACK_WIDTH = 46;
/** Two millimetres would not be seen. */
const GAP = 8;

type When = keyof typeof COLUMNS;

/** What stands on the steerer as drawn parts, before and after, with the gap under the cap. */
export function FrontStack({ stack }: { stack: StackPart[] }) {
  const tall = (when: When) => stack.reduce((sum, part) => sum + (part.part === "gap" ? 0 : (part[when] ?? 0)), 0);
  const scale = (FLOOR - 22) / Math.max(tall("before_mm"), tall("after_mm"), 1);
  const told = (part: StackPart) => {
    const [before, after] = [part.before_mm, part.after_mm];
    if (before == null || after == null) return undefined;
    const same = number(before) === number(after);
    return same ? `${part.label} ${number(after)}` : `${part.label} ${number(before)} → ${number(after)}`;
  };
  const words = stack.flatMap((part) => told(part) ?? []);
  return (
    <figure className="detail front-stack">
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={`On the steerer: ${words.join(", ")}`}>
        {(["before_mm", "after_mm"] as const).map((when) => (
          <Stack key={when} stack={stack} when={when} scale={scale} />
        ))}
      </svg>
      <figcaption>
        On the steerer, mm: before, and as it is rebuilt. Thick: the stem. Dashed: the gap under the cap, not to scale.
      </figcaption>
    </figure>
  );
}

function Stack({ stack, when, scale }: { stack: StackPart[]; when: When; scale: number }) {
  const { middle, word } = COLUMNS[when];
  const other = when === "before_mm" ? "after_mm" : "before_mm";
  const side = when === "before_mm" ? -1 : 1;
  return (
    <g>
      <text x={middle} y={HEIGHT - 4} textAnchor="middle">
        {word}
      </text>
      <path className="line" d={`M${middle - 40} ${FLOOR}h80`} />
      {stack.map((part, index) => {
        const mm = part[when];
        if (mm == null || (mm < 0.05 && part.part !== "gap")) return null;
        const gap = part.part === "gap";
        const height = gap ? GAP : mm * scale;
        const below = stack.slice(0, index).reduce((sum, other) => sum + (other[when] ?? 0), 0);
        const floor = FLOOR - below * scale - height;
        const changed = part[other] != null && number(part[other]) !== number(mm);
        const name = { cover: "cover", below: "spacers", stem: "clamp", above: "above", gap: "gap" }[part.part];
        const y = floor + height / 2 + 5;
        return (
          <g key={part.part} className={changed ? "changed" : undefined}>
            <rect
              className={`stacked ${part.part}`}
              x={middle - STACK_WIDTH / 2}
              y={floor}
              width={STACK_WIDTH}
              height={Math.max(1, height - 1)}
            />
            {part.part === "stem" && (
              <path className="line thick" d={`M${middle + STACK_WIDTH / 2} ${floor + height / 2}h26`} />
            )}
            <text
              x={middle + side * (STACK_WIDTH / 2 + 8) + (side > 0 && part.part === "stem" ? 24 : 0)}
              y={y}
              textAnchor={side < 0 ? "end" : "start"}
              className={changed && when === "after_mm" ? "foreseen" : undefined}
            >
              {name} {number(mm)}
            </text>
          </g>
        );
      })}
    </g>
  );
}
