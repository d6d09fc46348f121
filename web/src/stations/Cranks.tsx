import { Button } from "@chakra-ui/react";
import type { Catalogue, Change, CranksView, FrameLabel } from "../api/types";
import { Choice } from "../ui/Choice";
import { withUnit } from "../ui/format";
import { Keycap } from "../ui/Keycap";
import { NumberField } from "../ui/NumberField";
import { SchoolScale } from "./SchoolScale";

interface CranksPanelProps {
  cranks: CranksView;
  catalogue: Catalogue;
  targets: Record<string, number>;
  readOnly: boolean;
  onTry: (changes: Change[]) => void;
  onLabel: (label: FrameLabel) => void;
  onOpen: () => void;
}

/** What is known to go wrong, and the schools of crank length. */
export function CranksPanel({ cranks, catalogue, targets, readOnly, onTry, onLabel, onOpen }: CranksPanelProps) {
  return (
    <>
      {cranks.alarms.map((words) => (
        <p key={words} className="alarm">
          {words}.
        </p>
      ))}
      {cranks.signs.map((words) => (
        <p key={words} className="apart">
          {words}.
        </p>
      ))}
      <div className="buttons">
        <Button onClick={onOpen}>
          Limits, and another crank by intent <Keycap>C</Keycap>
        </Button>
      </div>
      <SchoolScale
        title="Crank"
        scale={cranks.scale}
        wanted={targets["crank_mm"] ?? targets["crank_mm.right"]}
        readOnly={readOnly}
        onTry={onTry}
      />
      <Choice<FrameLabel>
        label="The frame is labelled"
        options={catalogue.words.frame_label}
        value={cranks.label}
        none="nobody looked"
        readOnly={readOnly}
        onPick={(label) => label && onLabel(label)}
      />
    </>
  );
}

interface CranksPageProps {
  cranks: CranksView;
  catalogue: Catalogue;
  readOnly: boolean;
  onTo: (to: number) => void;
  onTry: (changes: Change[]) => void;
  onClose: () => void;
}

/** Limits against demand with what would open them, and another crank by what it is for. */
export function CranksPage({ cranks, catalogue, readOnly, onTo, onTry, onClose }: CranksPageProps) {
  const spec = catalogue.quantities.find((q) => q.quantity === "crank_mm");
  const tested = cranks.limits.filter((row) => row.limit_deg != null);
  return (
    <div className="sheet-page">
      <div className="head">
        <h2>Limit against demand</h2>
        <Button onClick={onClose}>
          Back to the board <Keycap>C</Keycap>
        </Button>
      </div>
      {tested.length === 0 ? (
        <p>No joint was tested on the table yet: hip and knee at Body are what a crank is chosen by.</p>
      ) : (
        <>
          {cranks.longest && <p>{cranks.longest.words}.</p>}
          <table className="plans">
            <thead>
              <tr>
                <th scope="col">Joint</th>
                <th scope="col">Table limit</th>
                <th scope="col">The stroke asks</th>
                <th scope="col">Margin</th>
                <th scope="col">Ends where</th>
              </tr>
            </thead>
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
              <thead>
                <tr>
                  <th scope="col">Remedy</th>
                  <th scope="col">Gained</th>
                  <th scope="col">Also</th>
                  <th scope="col">Cost</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {row.remedies.map((remedy) => (
                  <tr key={remedy.title}>
                    <th scope="row">{remedy.title}</th>
                    <td className="n">{remedy.gained_deg == null ? "?" : withUnit(remedy.gained_deg, "deg")}</td>
                    <td>{remedy.knock_ons.join("; ")}</td>
                    <td>{remedy.cost}</td>
                    <td>
                      {!readOnly && (
                        <Button size="sm" onClick={() => onTry(remedy.changes)}>
                          Foresee it
                        </Button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        ))}
      <div className="head" style={{ marginTop: 20 }}>
        <h2>Another crank, by what it is for</h2>
        {spec && (
          <NumberField
            label="Crank to plan for"
            spec={spec}
            value={cranks.to}
            fieldKey="plan.crank_mm"
            onCommit={(to) => {
              onTo(to);
              return undefined;
            }}
            onStep={onTo}
          />
        )}
      </div>
      <table className="plans intents">
        <thead>
          <tr>
            <th scope="col">Intent</th>
            <th scope="col">Bolts, as one linked trial</th>
            <th scope="col">Foreseen</th>
            <th />
          </tr>
        </thead>
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
                {plan.changes.length > 0 && !readOnly && (
                  <Button
                    size="sm"
                    aria-label={`Foresee it: ${plan.label.toLowerCase()}`}
                    onClick={() => onTry(plan.changes)}
                  >
                    Foresee it
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
