import { useFit } from "../../fit/useFit";

/** The grade that is felt, among the texts being typed: it survives a reload. */
const GRADE = "grade";

/** The grade under the wheels, in hundredths, uphill positive, and what sets it. */
export function useGrade() {
  const { draft, setText } = useFit();
  const percent = Number(draft.texts[GRADE] ?? 0) || 0;
  return { percent, set: (to: number) => setText(GRADE, to === 0 ? undefined : String(to)) };
}
