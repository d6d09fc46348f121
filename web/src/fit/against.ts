/** What stands against writing again after another window wrote. */
import type { Intake, Quantity, ReadingRecord, SessionView, Side } from "../api/types";
import { number } from "../ui/format";
import type { Against } from "./useSession";

/** A number taped, of the bike or the body. */
export interface Taped {
  quantity: Quantity;
  side: Side | null;
  value: number;
}

/** Both values, when another window wrote this quantity since; nothing when the two do not touch. */
export const bothValues =
  (readings: (view: SessionView) => ReadingRecord[], { quantity, side, value }: Taped): Against =>
  (mine, fresh) => {
    const last = (view: SessionView) =>
      readings(view).findLast((r) => r.quantity === quantity && (side === null || r.side == null || r.side === side));
    const [was, is] = [last(mine), last(fresh)];
    return was?.id === is?.id
      ? undefined
      : `Another window wrote ${number(is?.value ?? 0)}; you typed ${number(value)}. Enter again writes yours.`;
  };

/** What the rider came with. */
export const intakeOf = (view: SessionView): Intake => view.session.intake as Intake;
