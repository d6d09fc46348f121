import type { CranksView } from "../../api/types";
import { AskedLimits } from "../../cards/AskedLimits";
import { Foresee } from "../../cards/Foresee";
import { LongPage } from "../../cards/LongPage";
import { ProtocolPlans } from "../../cards/ProtocolPlans";
import { useFit } from "../../fit/useFit";
import { withUnit, sentence } from "../../ui/format";
import { NumberField } from "../../ui/NumberField";
import { useCranks } from "./useCranks";
import { specOf } from "../../fit/fields";
import { HeadRow } from "../../ui/HeadRow";

/** Limits against demand with what would open them, and another crank by what it is for. */
export function CranksPage() {
  const { view, still } = useFit();
  const { answer, aim } = useCranks();
  const cranks = answer.data;
  return (
    <LongPage title="Limit against demand" answer={answer}>
      {cranks && (
        <>
          <Limits cranks={cranks} />
          <Plans cranks={cranks} aim={aim} />
          {!still && view.run == null && <ProtocolPlans starts={cranks.starts} />}
        </>
      )}
    </LongPage>
  );
}

/** What hip, knee and the others allow, what the stroke asks, and what would open a short one. */
function Limits({ cranks }: { cranks: CranksView }) {
  const tested = cranks.limits.filter((row) => row.limit_deg != null);
  return (
    <>
      <AskedLimits asked={cranks.asked} />
      {tested.length === 0 ? (
        <p>No joint was tested on the table yet: hip and knee at Body are what a crank is chosen by.</p>
      ) : (
        <>
          {cranks.longest && <p>{sentence(cranks.longest.words)}</p>}
          <table className="plans">
            <HeadRow columns={["Joint", "Table limit", "The stroke asks", "Margin", "Ends where"]} />
            <tbody>
              {tested.map((row) => (
                <tr key={row.label}>
                  <th scope="row">{row.label}</th>
                  <td className="n">{withUnit(row.limit_deg ?? 0, "deg")}</td>
                  <td className="n">{withUnit(row.demand_deg, "deg")}</td>
                  <td>{row.short ? <b className="short">▸ {row.words}</b> : row.words}</td>
                  <td>{row.end_point}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      {tested
        .filter((row) => row.remedies.length > 0)
        .map((row) => (
          <section key={row.label} aria-label={`What would open it: ${row.label}`}>
            <h2>What would open it: {row.label.toLowerCase()}</h2>
            <table className="plans">
              <HeadRow columns={["Remedy", "Gained", "Also", "Cost", ""]} />
              <tbody>
                {row.remedies.map((remedy) => (
                  <tr key={remedy.title}>
                    <th scope="row">{remedy.title}</th>
                    <td className="n">{remedy.gained_deg == null ? "?" : withUnit(remedy.gained_deg, "deg")}</td>
                    <td>{remedy.knock_ons.join("; ")}</td>
                    <td>{remedy.cost}</td>
                    <td>
                      <Foresee changes={remedy.changes} about={remedy.title} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        ))}
    </>
  );
}

/** Another crank, by what it is for. */
function Plans({ cranks, aim }: { cranks: CranksView; aim: (to: number) => void }) {
  const { catalogue } = useFit();
  const spec = specOf(catalogue, "crank_mm");
  return (
    <>
      <div className="head" style={{ marginTop: 20 }}>
        <h2>Another crank, by what it is for</h2>
        {spec && (
          <NumberField
            label="Crank to plan for"
            spec={spec}
            value={cranks.to}
            fieldKey="plan.crank_mm"
            onCommit={(to) => {
              aim(to);
              return undefined;
            }}
            onStep={aim}
          />
        )}
      </div>
      <table className="plans intents">
        <HeadRow columns={["Intent", "Bolts, as one linked trial", "Foreseen", ""]} />
        <tbody>
          {cranks.plans.map((plan) => (
            <tr key={plan.intent}>
              <th scope="row">{plan.label}</th>
              <td>
                <ul>
                  {plan.turns.map((turn) => (
                    <li key={turn}>{turn}</li>
                  ))}
                </ul>
                {plan.left !== "" && <b className="short">▸ {plan.left}</b>}
              </td>
              <td>
                <ul>
                  {plan.knock_ons.map((words) => (
                    <li key={words}>{words}</li>
                  ))}
                </ul>
              </td>
              <td>
                <Foresee changes={plan.changes} about={plan.label} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
