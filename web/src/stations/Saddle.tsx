import "./saddle.css";
import { Button } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, ApiError } from "../api/client";
import { causesQuery, partsQuery } from "../api/queries";
import type {
  Catalogue,
  CauseLink,
  Change,
  RunPlan,
  Protocol,
  Quantity,
  SaddleNotes,
  SaddleView,
  SessionView,
  Station,
  Step,
} from "../api/types";
import { Choice } from "../ui/Choice";
import { number, withUnit } from "../ui/format";
import { Keycap } from "../ui/Keycap";
import { NumberField } from "../ui/NumberField";
import { SchoolScale } from "./SchoolScale";

/** The protocols of a station, in the order of their keys. */
export const PROTOCOLS: Record<"saddle_height" | "setback", Protocol[]> = {
  saddle_height: ["creep_up", "blind"],
  setback: ["balance", "rail_sweep", "plumb", "tilt", "blind"],
};

export const protocolOf = (plan: RunPlan): Protocol => Object.keys(plan)[0] as Protocol;

const label = (catalogue: Catalogue, protocol: Protocol) =>
  catalogue.words.protocol.find((p) => p.key === protocol)?.label ?? protocol;

/** The plan of a protocol as it is proposed at a station: blind, the station's own dimension is compared. */
export function planFor(
  saddle: SaddleView,
  protocol: Protocol,
  station: "saddle_height" | "setback",
): RunPlan | undefined {
  const plan = saddle.plans.find((p) => protocolOf(p) === protocol);
  if (plan && "blind" in plan && station === "setback") {
    const next = saddle.feels.find((f) => f.quantity === "setback_mm")?.next ?? Math.abs(plan.blind.by);
    return { blind: { ...plan.blind, quantity: "setback_mm", by: next } };
  }
  return plan;
}

interface SaddlePanelProps {
  saddle: SaddleView;
  station: "saddle_height" | "setback";
  catalogue: Catalogue;
  wanted: number | undefined;
  readOnly: boolean;
  mapOpen: boolean;
  onTry: (changes: Change[]) => void;
  onBegin: (plan: RunPlan) => void;
  onMap: () => void;
  onOpen: () => void;
}

/** The protocols of the station, its schools on one scale, what was found, and the gate before setback. */
export function SaddlePanel(props: SaddlePanelProps) {
  const { saddle, station, catalogue, wanted, readOnly, onTry, onBegin } = props;
  const scale = station === "setback" ? saddle.setback : saddle.height;
  const feels = saddle.feels.find((f) => f.quantity === (station === "setback" ? "setback_mm" : "saddle_height_mm"));
  const findings = saddle.findings.filter((f) => PROTOCOLS[station].includes(f.finding.protocol));
  return (
    <>
      {!readOnly && (
        <div className="buttons starts" role="group" aria-label="Protocols">
          {PROTOCOLS[station].map((protocol, index) => (
            <Button
              key={protocol}
              size="sm"
              onClick={() => {
                const plan = planFor(saddle, protocol, station);
                if (plan) onBegin(plan);
              }}
            >
              {label(catalogue, protocol)} <Keycap>{String(index + 1)}</Keycap>
            </Button>
          ))}
        </div>
      )}
      <div className="buttons starts">
        <Button onClick={props.onMap} aria-pressed={props.mapOpen}>
          {props.mapOpen ? "Close the map" : "Map"} <Keycap>D</Keycap>
        </Button>
        <Button onClick={props.onOpen}>
          Causes, post, saddle <Keycap>C</Keycap>
        </Button>
      </div>
      {station === "setback" && <Gate saddle={saddle} />}
      {scale && (
        <SchoolScale
          title={station === "setback" ? "Setback" : "Saddle height"}
          scale={scale}
          wanted={wanted}
          readOnly={readOnly}
          onTry={onTry}
        />
      )}
      {station === "setback" &&
        saddle.setback_advice.map((words) => (
          <p key={words} className="number-hint">
            {words}.
          </p>
        ))}
      {feels && <p className="number-hint">{feels.words}.</p>}
      {findings.length > 0 && (
        <section className="findings" aria-label="Found in this fit">
          <h3>Found in this fit</h3>
          <ul>
            {findings.map(({ run, finding }) => (
              <li key={run}>
                <b>{label(catalogue, finding.protocol)}:</b> {finding.words[0] ?? finding.title}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

const RIGHT = { yes: "✓", no: "▸ first", unknown: "? not known" };

/** What must be right before setback is judged: what is not is told, the rest is named. */
function Gate({ saddle }: { saddle: SaddleView }) {
  const open = saddle.gate.filter((item) => item.right !== "yes");
  const right = saddle.gate.filter((item) => item.right === "yes").map((item) => item.label.toLowerCase());
  return (
    <section className="gate" aria-label="Before setback">
      <h3>
        {open.length === 0
          ? "Before setback: all settled"
          : `Before setback: ${open.length} of ${saddle.gate.length} not settled`}
      </h3>
      <ul>
        {open.map((item) => (
          <li key={item.label} className={item.right}>
            <b>{RIGHT[item.right]}</b> {item.label}: {item.words}
          </li>
        ))}
        {right.length > 0 && <li>✓ right: {right.join(", ")}</li>}
      </ul>
    </section>
  );
}

interface CausesProps {
  session: string;
  version: string;
  catalogue: Catalogue;
  /** Begins the protocol that would settle a link. */
  onBegin?: (protocol: Protocol) => void;
  /** Goes to where it is turned, where no protocol settles it. */
  onStation?: (station: Station) => void;
}

/** From what hurts to what may cause it, with the test that would settle it. */
export function Causes({ session, version, catalogue, onBegin, onStation }: CausesProps) {
  const causes = useQuery(causesQuery(session, version)).data;
  if (!causes) return null;
  const often = (key: string) => catalogue.words.how_often.find((w) => w.key === key)?.label ?? key;
  if (causes.complaints.length === 0) {
    return (
      <p>Nothing hurts so far: places marked on the body picture at Intake stand here with what may cause them.</p>
    );
  }
  return causes.complaints.map((complaint) => (
    <section key={complaint.complaint} aria-label={complaint.complaint} className="causes">
      <h3>{complaint.complaint}</h3>
      {complaint.links.length > 0 && (
        <table className="plans">
          <thead>
            <tr>
              <th scope="col">May be</th>
              <th scope="col">Speaks for it</th>
              <th scope="col">Against it</th>
              <th scope="col">Here and now</th>
              <th scope="col">What would settle it</th>
            </tr>
          </thead>
          <tbody>
            {complaint.links.map((link) => (
              <tr key={link.fault}>
                <th scope="row">
                  {link.label}
                  <span className="often">{often(link.often).toLowerCase()}</span>
                </th>
                <td>{link.speaks_for}</td>
                <td>{link.speaks_against}</td>
                <td>
                  {link.here.length === 0 ? (
                    "nothing known"
                  ) : (
                    <ul>
                      {link.here.map((fact) => (
                        <li key={fact}>{fact}</li>
                      ))}
                    </ul>
                  )}
                </td>
                <td>
                  {link.settles}
                  <Settling link={link} catalogue={catalogue} onBegin={onBegin} onStation={onStation} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="number-hint">{complaint.words}</p>
    </section>
  ));
}

/** What settles a link is one press away: its protocol, or the station where it is turned. */
function Settling({
  link,
  catalogue,
  onBegin,
  onStation,
}: Pick<CausesProps, "catalogue" | "onBegin" | "onStation"> & { link: CauseLink }) {
  const { protocol } = link;
  const [text, act] =
    protocol && onBegin
      ? [`Begin: ${label(catalogue, protocol).toLowerCase()}`, () => onBegin(protocol)]
      : [
          `To ${catalogue.stations.find((s) => s.station === link.station)?.label.toLowerCase() ?? ""}`,
          onStation && (() => onStation(link.station)),
        ];
  if (!act) return null;
  return (
    <Button size="sm" display="block" marginTop="6px" onClick={act}>
      {text}
    </Button>
  );
}

interface SaddlePageProps {
  saddle: SaddleView;
  view: SessionView;
  version: string;
  catalogue: Catalogue;
  readOnly: boolean;
  onTry: (changes: Change[]) => void;
  onBegin: (plan: RunPlan) => void;
  onNotes: (change: Partial<SaddleNotes>) => Promise<string | undefined>;
  onStation: CausesProps["onStation"];
  onClose: () => void;
}

/** What hurts and why, the protocols with their settings, post and rails, and the saddle itself. */
export function SaddlePage(props: SaddlePageProps) {
  const { saddle, view, version, catalogue, readOnly, onTry, onBegin } = props;
  // One protocol at a time.
  const begins = !readOnly && view.run == null;
  return (
    <div className="sheet-page saddle-page">
      <div className="head">
        <h2>What hurts, and what would settle it</h2>
        <Button onClick={props.onClose}>
          Back to the board <Keycap>C</Keycap>
        </Button>
      </div>
      <Causes
        session={view.session.id}
        version={version}
        catalogue={catalogue}
        onBegin={
          begins
            ? (protocol) => {
                const plan = saddle.plans.find((p) => protocolOf(p) === protocol);
                if (plan) onBegin(plan);
              }
            : undefined
        }
        onStation={props.onStation}
      />
      {begins && <Protocols saddle={saddle} catalogue={catalogue} onBegin={onBegin} />}
      <PostAndRails {...props} />
      <Swap saddle={saddle} view={view} catalogue={catalogue} readOnly={readOnly} onTry={onTry} />
      <Notes saddle={saddle} catalogue={catalogue} readOnly={readOnly} onNotes={props.onNotes} />
      <h2>Plumb lines as foreseen</h2>
      <table className="plans">
        <thead>
          <tr>
            <th scope="col">From</th>
            <th scope="col">Left knee ahead of the axle</th>
            <th scope="col">Right knee ahead of the axle</th>
          </tr>
        </thead>
        <tbody>
          {saddle.hung.map((line) => (
            <tr key={line.landmark}>
              <th scope="row">{line.label}</th>
              <td className="n">{withUnit(line.over_axle_mm.left, "mm")}</td>
              <td className="n">{withUnit(line.over_axle_mm.right, "mm")}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const MM = { unit: "mm" as const, step: 1, fine_step: 0.5 };

/** Each protocol with what can be set of it before it begins. */
function Protocols({
  saddle,
  catalogue,
  onBegin,
}: {
  saddle: SaddleView;
  catalogue: Catalogue;
  onBegin: (plan: RunPlan) => void;
}) {
  const [plans, setPlans] = useState(saddle.plans);
  const put = (next: RunPlan) => setPlans(plans.map((plan) => (protocolOf(plan) === protocolOf(next) ? next : plan)));
  const field = (text: string, value: number, key: string, set: (value: number) => void, unit = MM) => (
    <NumberField
      key={key}
      label={text}
      fieldKey={`plan.${key}`}
      spec={unit}
      value={value}
      onCommit={(typed) => {
        set(typed);
        return undefined;
      }}
      onStep={set}
    />
  );
  const settings = (plan: RunPlan) => {
    if ("creep_up" in plan) {
      const own = plan.creep_up;
      return [
        field("First step, post from here", own.from_mm, "creep.from", (from_mm) =>
          put({ creep_up: { ...own, from_mm } }),
        ),
        field("Rises by", own.step_mm, "creep.step", (step_mm) => put({ creep_up: { ...own, step_mm } })),
      ];
    }
    if ("rail_sweep" in plan) {
      const own = plan.rail_sweep;
      return [
        field("Back from here", own.back_mm, "sweep.back", (back_mm) => put({ rail_sweep: { ...own, back_mm } })),
        field("Forward from here", own.forward_mm, "sweep.forward", (forward_mm) =>
          put({ rail_sweep: { ...own, forward_mm } }),
        ),
        field("Steps of", own.step_mm, "sweep.step", (step_mm) => put({ rail_sweep: { ...own, step_mm } })),
      ];
    }
    if ("balance" in plan) {
      return (
        <Choice
          label="Ridden"
          options={catalogue.words.balance_variant}
          value={plan.balance.variant}
          onPick={(variant) => variant && put({ balance: { variant } })}
        />
      );
    }
    if ("plumb" in plan) {
      return (
        <Choice
          label="The line hangs from"
          options={catalogue.words.landmark}
          value={plan.plumb.landmark}
          onPick={(landmark) => landmark && put({ plumb: { landmark } })}
        />
      );
    }
    if ("tilt" in plan) {
      return field("Wanted, nose up", plan.tilt.to_deg, "tilt.to", (to_deg) => put({ tilt: { to_deg } }), {
        ...MM,
        unit: "deg" as "mm",
      });
    }
    const own = plan.blind;
    const compared = (["saddle_height_mm", "setback_mm", "tilt_deg"] as Quantity[]).map((key) => ({
      key,
      label: catalogue.quantities.find((q) => q.quantity === key)?.label ?? key,
    }));
    return [
      <Choice
        key="what"
        label="Compares"
        options={compared}
        value={own.quantity}
        onPick={(quantity) => quantity && put({ blind: { ...own, quantity } })}
      />,
      field("B differs by", own.by, "blind.by", (by) => put({ blind: { ...own, by } }), {
        ...MM,
        unit: own.quantity === "tilt_deg" ? ("deg" as "mm") : "mm",
      }),
      field(
        "Hidden rounds",
        own.rounds,
        "blind.rounds",
        (rounds) => put({ blind: { ...own, rounds: Math.round(rounds) } }),
        {
          ...MM,
          unit: "size" as "mm",
        },
      ),
    ];
  };
  return (
    <section aria-label="Protocols with their settings">
      <h2>Protocols</h2>
      <table className="plans protocols">
        <tbody>
          {plans.map((plan) => (
            <tr key={protocolOf(plan)}>
              <th scope="row">{label(catalogue, protocolOf(plan))}</th>
              <td>
                <div className="settings">{settings(plan)}</div>
              </td>
              <td>
                <Button
                  size="sm"
                  aria-label={`Begin: ${label(catalogue, protocolOf(plan)).toLowerCase()}`}
                  onClick={() => onBegin(plan)}
                >
                  Begin
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** What post and rails leave, and which part would do what they do not. */
function PostAndRails({ saddle, view, version, readOnly, onTry }: SaddlePageProps) {
  const [wished, setWished] = useState<number>();
  const parts = useQuery({
    ...partsQuery(view.session.id, version, wished ?? 0),
    enabled: wished !== undefined,
  });
  const unit = saddle.setback?.unit ?? "mm";
  return (
    <section aria-label="Post and rails">
      <h2>Post and rails</h2>
      {saddle.room?.words.map((words) => (
        <p key={words}>{words}.</p>
      ))}
      <NumberField
        label="Setback wished for"
        fieldKey="wished.setback"
        spec={{ ...MM, unit }}
        value={wished ?? saddle.setback?.now}
        onCommit={(typed) => {
          setWished(typed);
          return undefined;
        }}
        onStep={setWished}
      />
      {parts.error && (
        <p className="number-error" role="alert">
          {parts.error instanceof ApiError
            ? (parts.error.errors[0]?.detail ?? parts.error.message)
            : parts.error.message}
        </p>
      )}
      {wished !== undefined && parts.data && (
        <>
          <p className={parts.data.reached ? undefined : "apart"} data-testid="parts-words">
            {parts.data.words}.
          </p>
          {parts.data.options.length > 0 && (
            <table className="plans">
              <tbody>
                {parts.data.options.map((option) => (
                  <tr key={option.label}>
                    <th scope="row">{option.label}</th>
                    <td>{option.words}</td>
                    <td>
                      {option.trial && !readOnly && (
                        <Button size="sm" onClick={() => option.trial && onTry(option.trial.changes)}>
                          Foresee: {option.trial.title}
                        </Button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </>
      )}
    </section>
  );
}

const SWAPPED: Quantity[] = ["saddle_stack_mm", "saddle_length_mm", "nose_to_sit_mm", "rail_middle_mm", "rail_mm"];

/** Another saddle in the place of this one: its stack and rails carried over. */
function Swap({
  view,
  catalogue,
  readOnly,
  onTry,
}: Pick<SaddlePageProps, "saddle" | "view" | "catalogue" | "readOnly" | "onTry">) {
  const [typed, setTyped] = useState<Partial<Record<Quantity, number>>>({});
  const [wrong, setWrong] = useState<ApiError>();
  const own = view.input.setup.saddle as unknown as Record<string, number | undefined>;
  if (readOnly) return null;
  return (
    <section aria-label="Another saddle">
      <h2>Another saddle</h2>
      <p>
        Measure it off the bike. The rider is left where they sit: its stack goes to the post, its rails to the clamp.
      </p>
      <div className="field-grid">
        {SWAPPED.map((quantity) => {
          const spec = catalogue.quantities.find((q) => q.quantity === quantity);
          if (!spec) return null;
          return (
            <NumberField
              key={quantity}
              label={spec.label}
              hint={spec.how}
              fieldKey={`swap.${quantity}`}
              spec={spec}
              value={typed[quantity] ?? own[quantity]}
              error={wrong?.at(`/${quantity}`)}
              onCommit={(value) => {
                setTyped({ ...typed, [quantity]: value });
                return undefined;
              }}
              onStep={(value) => setTyped({ ...typed, [quantity]: value })}
            />
          );
        })}
      </div>
      <div className="buttons">
        <Button
          onClick={() =>
            void answer<Step>(
              api.POST("/api/sessions/{id}/saddle/swap", {
                params: { path: { id: view.session.id } },
                body: typed,
              }),
            ).then(
              (step) => {
                setWrong(undefined);
                onTry(step.changes);
              },
              (error: unknown) => setWrong(error instanceof ApiError ? error : undefined),
            )
          }
        >
          Foresee the swap
        </Button>
      </div>
      {wrong && !SWAPPED.some((q) => wrong.at(`/${q}`)) && (
        <p className="number-error" role="alert">
          {wrong.message}
        </p>
      )}
    </section>
  );
}

/** What was noted of the saddle, and what there is to say about it. */
function Notes({
  saddle,
  catalogue,
  readOnly,
  onNotes,
}: Pick<SaddlePageProps, "saddle" | "catalogue" | "readOnly" | "onNotes">) {
  const { notes } = saddle;
  const [wrong, setWrong] = useState<string>();
  const pick = (change: Partial<SaddleNotes>) => void onNotes(change).then(setWrong);
  const length = (text: string, key: "width_mm" | "sits_ahead_mm") => (
    <NumberField
      label={text}
      fieldKey={`notes.${key}`}
      spec={MM}
      value={notes[key] ?? undefined}
      readOnly={readOnly}
      onCommit={(value) => onNotes({ [key]: value })}
    />
  );
  const { yes_no, relief, nose } = catalogue.words;
  const asked = (text: string, key: "shuffles" | "rubs" | "aside") => (
    <Choice
      label={text}
      options={yes_no}
      value={notes[key]}
      none="nobody asked"
      readOnly={readOnly}
      onPick={(value) => pick({ [key]: value })}
    />
  );
  return (
    <section aria-label="The saddle itself">
      <h2>The saddle itself</h2>
      {saddle.advice.map((words) => (
        <p key={words} className="apart">
          {words}.
        </p>
      ))}
      <div className="field-grid">
        {length("Width at its widest", "width_mm")}
        <Choice
          label="Relief"
          options={relief}
          value={notes.relief}
          none="nobody looked"
          readOnly={readOnly}
          onPick={(value) => pick({ relief: value })}
        />
        <Choice
          label="Nose"
          options={nose}
          value={notes.nose}
          none="nobody looked"
          readOnly={readOnly}
          onPick={(value) => pick({ nose: value })}
        />
        {asked("Keeps shuffling", "shuffles")}
        {asked("Rubs the thighs", "rubs")}
        {asked("Sits to one side or twisted", "aside")}
        {length("Really sits ahead of the sit reference", "sits_ahead_mm")}
      </div>
      {wrong !== undefined && (
        <p className="number-error" role="alert">
          {wrong}
        </p>
      )}
      {notes.sits_ahead_mm != null && (
        <p className="number-hint">The linkage sits {number(notes.sits_ahead_mm, "mm")} mm ahead from now on.</p>
      )}
    </section>
  );
}
