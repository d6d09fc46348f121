import type { FindingView } from "../api/types";
import { useFit } from "../fit/useFit";
import { day } from "../ui/format";
import { labelOf } from "../ui/labelOf";

interface FindingsProps {
  title: string;
  dated?: boolean;
  findings: FindingView[];
}

/** What protocols found, the latest first. */
export function Findings({ title, dated, findings }: FindingsProps) {
  const { catalogue } = useFit();
  if (findings.length === 0) return null;
  return (
    <section className="findings" aria-label={title}>
      <h3>{title}</h3>
      <ul>
        {findings.map(({ run, day: of, finding }) => (
          <li key={run}>
            <b>
              {labelOf(catalogue.words.protocol, finding.protocol)}
              {dated && `, ${day(of)}`}:
            </b>{" "}
            {finding.words.join(" ") || finding.title}
          </li>
        ))}
      </ul>
    </section>
  );
}
