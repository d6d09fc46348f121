import { useFit } from "../../fit/useFit";
import { Keycap } from "../../ui/Keycap";

/** What was taken out last, while it can be put back. */
export function TakenOutLine({ of }: { of: "complaint" | "injury" }) {
  const { takenOut, putBackIn } = useFit();
  if (takenOut?.back.kind !== of) return null;
  return (
    <p className="settled" role="status">
      {takenOut.what}: taken out.{" "}
      <button type="button" className="more" onClick={putBackIn}>
        Undo <Keycap>Ctrl Z</Keycap>
      </button>
    </p>
  );
}
