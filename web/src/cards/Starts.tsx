import { Button } from "@chakra-ui/react";
import type { RunPlan } from "../api/types";
import { useFit } from "../fit/useFit";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";

/** The protocols of a station: each begins with its key. */
export function Starts({ starts }: { starts: { label: string; plan: RunPlan }[] }) {
  const { pending, beginRun } = useFit();
  // What is asked for on the board is tried or left first.
  const keys = pending ? [] : starts.map(({ plan }, index) => [String(index + 1), () => beginRun(plan)] as const);
  useKeys(Object.fromEntries(keys));
  return (
    <div className="buttons starts" role="group" aria-label="Protocols">
      {starts.map(({ label, plan }, index) => (
        <Button key={label} size="sm" onClick={() => beginRun(plan)}>
          {label} <Keycap>{String(index + 1)}</Keycap>
        </Button>
      ))}
    </div>
  );
}
