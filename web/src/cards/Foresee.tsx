import { Button } from "@chakra-ui/react";
import type { Change, Step } from "../api/types";
import { useFit } from "../fit/useFit";
import { Keycap } from "../ui/Keycap";

interface ForeseeProps {
  changes: Change[];
  /** Other words than the usual ones. */
  words?: string;
  /** What it is about, for those who hear the button alone. */
  about?: string;
  /** The key that does the same. */
  keycap?: string;
}

/** Words this long may stand on two lines. */
const SHORT = 24;

/** Puts changes on the board; nothing where there are none, or nothing can be stepped. */
export function Foresee({ changes, words = "Foresee it", about, keycap }: ForeseeProps) {
  const { still, foresee } = useFit();
  if (still || changes.length === 0) return null;
  return (
    <Button
      size="sm"
      whiteSpace={words.length > SHORT ? "normal" : "nowrap"}
      textAlign="left"
      aria-label={about === undefined ? undefined : `${words}: ${about.toLowerCase()}`}
      onClick={() => foresee(changes)}
    >
      {words} {keycap !== undefined && <Keycap>{keycap}</Keycap>}
    </Button>
  );
}

/** Puts a step on the board, named. */
export function ForeseeStep({ step, keycap }: { step: Step | null | undefined; keycap?: string }) {
  return step ? <Foresee changes={step.changes} words={`Foresee: ${step.title}`} keycap={keycap} /> : null;
}
