/** One entry of the intake, as data: laid over whatever the intake is by then, it touches nothing else. */
import type { Complaint, Flag, Injury, Intake } from "../api/types";

export type IntakeEdit =
  | { kind: "answer"; answer: Partial<Intake> }
  | { kind: "goals"; goals: Intake["goals"] }
  | { kind: "flag"; flag: Flag; there: boolean }
  | { kind: "no flag" }
  | { kind: "complaint"; complaint: Complaint }
  | { kind: "of complaint"; id: string; part: Partial<Complaint> }
  | { kind: "complaint out"; id: string }
  | { kind: "injury"; injury: Injury }
  | { kind: "of injury"; id: string; part: Partial<Injury> }
  | { kind: "injury out"; id: string };

/** What tells a complaint from the others; those of before they had ids by their place. */
export const complaintId = (c: Complaint): string => (c.id ? c.id : `${c.place}.${c.side ?? ""}`);

/** What tells an injury from the others; those of before they had ids by where they stand. */
export const injuryId = (injury: Injury, index: number): string => (injury.id ? injury.id : `${index}`);

/** The intake with an entry. */
export function withEdit(now: Intake, edit: IntakeEdit): Intake {
  switch (edit.kind) {
    case "answer":
      return { ...now, ...edit.answer };
    case "goals":
      return { ...now, goals: edit.goals };
    case "flag": {
      const others = now.flags.filter((flag) => flag !== edit.flag);
      const flags = edit.there ? [...others, edit.flag] : others;
      // That there is none is said by pressing so, never by taking the last one away.
      return { ...now, flags, flags_asked: flags.length > 0 };
    }
    case "no flag":
      return { ...now, flags: [], flags_asked: true };
    case "complaint":
      return now.complaints.some((c) => complaintId(c) === complaintId(edit.complaint))
        ? now
        : { ...now, complaints: [...now.complaints, edit.complaint] };
    case "of complaint":
      return {
        ...now,
        complaints: now.complaints.map((c) => (complaintId(c) === edit.id ? { ...c, ...edit.part } : c)),
      };
    case "complaint out":
      return { ...now, complaints: now.complaints.filter((c) => complaintId(c) !== edit.id) };
    case "injury":
      return now.injuries.some((i) => i.id && i.id === edit.injury.id)
        ? now
        : { ...now, injuries: [...now.injuries, edit.injury] };
    case "of injury":
      return {
        ...now,
        injuries: now.injuries.map((i, at) => (injuryId(i, at) === edit.id ? { ...i, ...edit.part } : i)),
      };
    case "injury out":
      return { ...now, injuries: now.injuries.filter((i, at) => injuryId(i, at) !== edit.id) };
  }
}

const picked = (of: object | undefined, keys: string[]): unknown[] =>
  keys.map((key) => (of as Record<string, unknown> | undefined)?.[key] ?? null);

const inOrder = (goals: Intake["goals"]) => goals.map((rank) => rank.join(" = ")).join(" > ");

/** What stands where an entry would write, and what it would write there; nothing when it only adds or ticks. */
function written(now: Intake, edit: IntakeEdit): { there: unknown[]; mine: unknown[] } | undefined {
  switch (edit.kind) {
    case "answer": {
      const keys = Object.keys(edit.answer);
      return { there: picked(now, keys), mine: picked(edit.answer, keys) };
    }
    case "goals":
      return { there: [inOrder(now.goals)], mine: [inOrder(edit.goals)] };
    case "of complaint": {
      const keys = Object.keys(edit.part);
      const complaint = now.complaints.find((c) => complaintId(c) === edit.id);
      return { there: complaint ? picked(complaint, keys) : ["taken out"], mine: picked(edit.part, keys) };
    }
    case "of injury": {
      const keys = Object.keys(edit.part);
      const injury = now.injuries.find((i, at) => injuryId(i, at) === edit.id);
      return { there: injury ? picked(injury, keys) : ["taken out"], mine: picked(edit.part, keys) };
    }
    default:
      return undefined;
  }
}

const said = (values: unknown[]): string =>
  values
    .map((value) =>
      value === null || value === ""
        ? "nothing"
        : typeof value === "boolean"
          ? value
            ? "yes"
            : "no"
          : typeof value === "object"
            ? "something else"
            : String(value as string | number),
    )
    .join(", ");

/** Both values, where another window wrote the same since. */
export function editAgainst(edit: IntakeEdit, mine: Intake, fresh: Intake): string | undefined {
  const [was, is] = [written(mine, edit), written(fresh, edit)];
  if (!was || !is || JSON.stringify(was.there) === JSON.stringify(is.there)) return undefined;
  if (JSON.stringify(is.there) === JSON.stringify(is.mine)) return undefined;
  return `Another window wrote ${said(is.there)}; you entered ${said(is.mine)}. Enter yours again to write it.`;
}
