/** What a fit is for, as an order: ranks from the first to the last, goals of one rank side by side. */
import type { Goal } from "../api/types";

/**
 * The order with a goal moved one step: one that shares its rank leaves it, one that stands alone joins the next. So it
 * walks through ties, and back the same way.
 */
export function moved(order: Goal[][], goal: Goal, by: -1 | 1): Goal[][] {
  const at = order.findIndex((rank) => rank.includes(goal));
  const rank = order[at];
  if (!rank) return order;
  const others = rank.filter((g) => g !== goal);
  if (others.length > 0) {
    const pair = by < 0 ? [[goal], others] : [others, [goal]];
    return [...order.slice(0, at), ...pair, ...order.slice(at + 1)];
  }
  const next = order[at + by];
  if (!next) return order;
  return order.flatMap((r, i) => (i === at ? [] : i === at + by ? [[...next, goal]] : [r]));
}
