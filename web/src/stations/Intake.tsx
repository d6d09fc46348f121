import "./intake.css";
import { Button } from "@chakra-ui/react";
import { useEffect, useRef } from "react";
import type { ApiError } from "../api/client";
import type { Catalogue, Complaint, Flag, Injury, Intake, SessionView, Side } from "../api/types";
import { Choice } from "../ui/Choice";
import { NumberField } from "../ui/NumberField";
import { WordsField } from "../ui/WordsField";
import { BodyPicture } from "./BodyPicture";
import { intakeOf } from "./against";

/** What both halves of the intake write with. */
export interface IntakeProps {
  view: SessionView;
  catalogue: Catalogue;
  readOnly: boolean;
  texts: Record<string, string>;
  onText: (key: string, text: string | undefined) => void;
  /** Writes a change down; answers what is wrong with it. */
  save: (change: (intake: Intake) => Partial<Intake>, touches: keyof Intake) => Promise<ApiError | undefined>;
}

const SIDES: { key: string; label: string }[] = [
  { key: "left", label: "Left" },
  { key: "right", label: "Right" },
];

/** Where it hurts: the body, and the list that says the same. */
export function WhereItHurts({ view, catalogue, readOnly, texts, onText, save }: IntakeProps) {
  const { complaints } = intakeOf(view);
  const list = useRef<HTMLOListElement>(null);
  const wanted = useRef<number>(undefined);
  const { words } = catalogue;

  // What was pointed at is asked about next, once it is there.
  const focusWanted = () => {
    const first = list.current?.children[wanted.current ?? -1]?.querySelector("select");
    if (!first) return;
    first.focus();
    wanted.current = undefined;
  };
  useEffect(focusWanted, [complaints.length]);

  const add = async (place: Complaint["place"], side: Side | null) => {
    const known = complaints.findIndex((c) => c.place === place && (c.side ?? null) === side);
    let index = known;
    if (known < 0) {
      index = complaints.length;
      const complaint: Complaint = { place, side, feel: "pain", words: "" };
      if (await save((intake) => ({ complaints: [...intake.complaints, complaint] }), "complaints")) return;
    }
    wanted.current = index;
    focusWanted();
  };
  const change = (index: number, part: Partial<Complaint>) =>
    save(
      (intake) => ({ complaints: intake.complaints.map((c, i) => (i === index ? { ...c, ...part } : c)) }),
      "complaints",
    );

  return (
    <div className="station-page">
      <section aria-labelledby="where">
        <h2 id="where">Where it hurts</h2>
        <p className="number-hint">
          Point at it, or walk with the arrows and press Enter. Nothing hurts: leave it blank.
        </p>
        <BodyPicture
          places={words.place}
          complaints={complaints}
          readOnly={readOnly}
          onPick={(place, side) => void add(place, side)}
        />
      </section>
      <section aria-label="Complaints" className="complaints">
        {!readOnly && <AddByName places={words.place} onAdd={(place, side) => void add(place, side)} />}
        <ol ref={list}>
          {complaints.map((complaint, index) => {
            const place = words.place.find((p) => p.key === complaint.place);
            const key = `intake.complaints.${index}.words`;
            return (
              <li key={`${complaint.place}${complaint.side ?? ""}`} className="complaint">
                <h3>
                  <span className="number">{index + 1}</span> {place?.label}
                  {!readOnly && (
                    <button
                      type="button"
                      className="more"
                      aria-label={`Take complaint ${index + 1} out`}
                      onClick={() =>
                        void save(
                          (intake) => ({ complaints: intake.complaints.filter((_, i) => i !== index) }),
                          "complaints",
                        )
                      }
                    >
                      take out
                    </button>
                  )}
                </h3>
                <div className="complaint-grid">
                  <Choice
                    label="Feels"
                    options={words.feel}
                    value={complaint.feel}
                    readOnly={readOnly}
                    onPick={(feel) => feel && void change(index, { feel })}
                  />
                  {place?.per_side === true && (
                    <Choice
                      label="Side"
                      options={SIDES}
                      value={complaint.side}
                      none="both"
                      readOnly={readOnly}
                      onPick={(side) => void change(index, { side: side })}
                    />
                  )}
                  <NumberField
                    label="How bad, 0–10"
                    fieldKey={`how_bad.${index}`}
                    spec={{ unit: "size", step: 1, fine_step: 1, min: 0, max: 10 }}
                    value={complaint.how_bad ?? undefined}
                    readOnly={readOnly}
                    onCommit={async (how_bad) => {
                      if (how_bad < 0 || how_bad > 10 || !Number.isInteger(how_bad)) return "A whole number, 0 to 10";
                      return (await change(index, { how_bad }))?.message;
                    }}
                  />
                  <Choice
                    label="When in the ride"
                    options={words.when}
                    value={complaint.when}
                    none="not said"
                    readOnly={readOnly}
                    onPick={(when) => void change(index, { when })}
                  />
                  <Choice
                    label="Where in the stroke"
                    options={words.stroke}
                    value={complaint.stroke}
                    none="not said"
                    readOnly={readOnly}
                    onPick={(stroke) => void change(index, { stroke })}
                  />
                  <Choice
                    label="At what effort"
                    options={words.effort}
                    value={complaint.effort}
                    none="not said"
                    readOnly={readOnly}
                    onPick={(effort) => void change(index, { effort })}
                  />
                </div>
                <WordsField
                  label="In the rider’s words"
                  value={complaint.words ?? ""}
                  typed={texts[key]}
                  readOnly={readOnly}
                  onTyped={(text) => onText(key, text)}
                  onCommit={async (said) => (await change(index, { words: said }))?.message}
                />
              </li>
            );
          })}
        </ol>
        {complaints.length === 0 && <p className="number-hint">No complaint written down.</p>}
      </section>
    </div>
  );
}

/** The same as pointing, by name. */
function AddByName({
  places,
  onAdd,
}: {
  places: Catalogue["words"]["place"];
  onAdd: (place: Complaint["place"], side: Side | null) => void;
}) {
  const options = places.flatMap((place) =>
    place.per_side
      ? SIDES.map((side) => ({ key: `${place.key}.${side.key}`, label: `${place.label}, ${side.key}` }))
      : [{ key: place.key, label: place.label }],
  );
  return (
    <Choice
      label="Add by name"
      options={options}
      value={null}
      none="choose a place…"
      onPick={(key: string | null) => {
        const [name, side] = (key ?? "").split(".");
        const place = places.find((p) => p.key === name);
        if (place) onAdd(place.key, side === "left" || side === "right" ? side : null);
      }}
    />
  );
}

const WEIGHTS: [keyof Intake["weights"], string][] = [
  ["comfort", "Comfort"],
  ["injury", "Freedom from injury"],
  ["power", "Power"],
  ["speed", "Speed through air"],
];

/** What the rider comes with: red flags first, then what the fit is for. */
export function IntakePanel(props: IntakeProps & { onNext: () => void }) {
  const { view, catalogue, readOnly, texts, onText, save, onNext } = props;
  const intake = intakeOf(view);
  const { words } = catalogue;
  const line = (key: "riding" | "event" | "work" | "load", label: string, placeholder?: string) => (
    <WordsField
      label={label}
      value={intake[key]}
      typed={texts[`intake.${key}`]}
      placeholder={placeholder}
      readOnly={readOnly}
      onTyped={(text) => onText(`intake.${key}`, text)}
      onCommit={async (said) => (await save(() => ({ [key]: said }), key))?.message}
    />
  );
  const hours = (key: "longest_ride_h" | "event_h" | "seated_h") => {
    const spec = catalogue.quantities.find((q) => q.quantity === key);
    return (
      spec && (
        <NumberField
          label={spec.label}
          fieldKey={key}
          spec={spec}
          value={intake[key] ?? undefined}
          readOnly={readOnly}
          onCommit={async (value) => {
            const error = await save(() => ({ [key]: value }), key);
            return error?.at(`/${key}`) ?? error?.message;
          }}
        />
      )
    );
  };
  const tick = (flag: Flag, there: boolean) =>
    void save(
      (now) => ({ flags_asked: true, flags: there ? [...now.flags, flag] : now.flags.filter((f) => f !== flag) }),
      "flags",
    );
  return (
    <div className="intake">
      <RedFlags {...props} />
      <section className="card" aria-labelledby="flags">
        <h2 id="flags">Ask first</h2>
        <p className="task">Any of these?</p>
        <ul className="ticks">
          {words.flag.map((flag) => (
            <li key={flag.key}>
              <label>
                <input
                  type="checkbox"
                  checked={intake.flags.includes(flag.key as Flag)}
                  disabled={readOnly}
                  onChange={(event) => tick(flag.key as Flag, event.target.checked)}
                />
                {flag.label}
              </label>
            </li>
          ))}
        </ul>
        <div className="buttons">
          <Button
            aria-pressed={intake.flags_asked && intake.flags.length === 0}
            disabled={readOnly}
            onClick={() => void save(() => ({ flags_asked: true, flags: [] }), "flags")}
          >
            {intake.flags_asked && intake.flags.length === 0 ? "✓ None of these" : "None of these"}
          </Button>
        </div>
      </section>
      <section aria-labelledby="purpose">
        <h3 id="purpose">What the fit is for, 0 to 10 each</h3>
        <div className="field-grid">
          {WEIGHTS.map(([key, label]) => (
            <NumberField
              key={key}
              label={label}
              fieldKey={`weight.${key}`}
              spec={{ unit: "size", step: 1, fine_step: 1, min: 0, max: 10 }}
              value={intake.weights[key]}
              readOnly={readOnly}
              onCommit={async (value) => {
                if (value < 0 || value > 10 || !Number.isInteger(value)) return "A whole number, 0 to 10";
                return (await save((now) => ({ weights: { ...now.weights, [key]: value } }), "weights"))?.message;
              }}
            />
          ))}
        </div>
      </section>
      <section aria-labelledby="riding">
        <h3 id="riding">Riding</h3>
        {line("riding", "Kind of riding", "levees on Sundays, to work")}
        <div className="field-grid">
          <Choice
            label="Surface"
            options={words.surface}
            value={intake.surface}
            none="not said"
            readOnly={readOnly}
            onPick={(surface) => void save(() => ({ surface }), "surface")}
          />
          {hours("longest_ride_h")}
          <Choice
            label="Experience"
            options={words.experience}
            value={intake.experience}
            none="not said"
            readOnly={readOnly}
            onPick={(experience) => void save(() => ({ experience }), "experience")}
          />
          <Choice
            label="Notices"
            options={words.notices}
            value={intake.notices}
            none="not said"
            readOnly={readOnly}
            onPick={(notices) => void save(() => ({ notices }), "notices")}
          />
        </div>
        {line("event", "Trains for")}
        <div className="field-grid">
          {hours("event_h")}
          <Tick
            label="A run follows"
            on={intake.run_follows}
            readOnly={readOnly}
            onTick={(run_follows) => void save(() => ({ run_follows }), "run_follows")}
          />
        </div>
        {line("load", "Ridden lately")}
        <Tick
          label="It rose suddenly: a cause of its own"
          on={intake.load_rose}
          readOnly={readOnly}
          onTick={(load_rose) => void save(() => ({ load_rose }), "load_rose")}
        />
      </section>
      <section aria-labelledby="day">
        <h3 id="day">The rest of the day</h3>
        <div className="field-grid">
          {line("work", "Work")}
          {hours("seated_h")}
        </div>
      </section>
      <Injuries {...props} />
      {!readOnly && (
        <div className="buttons">
          <Button variant="solid" disabled={view.stopped} onClick={onNext}>
            On to the body
          </Button>
          {!intake.flags_asked && <span className="number-hint">Red flags are not asked yet.</span>}
        </div>
      )}
    </div>
  );
}

interface TickProps {
  label: string;
  on: boolean;
  readOnly: boolean;
  onTick: (on: boolean) => void;
}

function Tick({ label, on, readOnly, onTick }: TickProps) {
  return (
    <label className="tick">
      <input type="checkbox" checked={on} disabled={readOnly} onChange={(event) => onTick(event.target.checked)} />
      {label}
    </label>
  );
}

/** What stops the fit, and the written reason it takes to go on. */
function RedFlags({ view, readOnly, texts, onText, save }: IntakeProps) {
  const { stops, stopped } = view;
  if (stops.length === 0) return null;
  const key = "intake.go_on";
  const reason = texts[key] ?? intakeOf(view).go_on?.reason ?? "";
  const goOn = async () => {
    const error = await save(() => ({ go_on: { reason: reason.trim(), flags: stops.map((s) => s.flag) } }), "go_on");
    if (error) return error.at("/reason") ?? error.message;
    onText(key, undefined);
    return undefined;
  };
  return (
    <section className={stopped ? "card stop" : "card"} aria-labelledby="stop" role={stopped ? "alert" : undefined}>
      <h2 id="stop">{stopped ? "Stop: do not fit today" : "The fit goes on for a written reason"}</h2>
      {stops.map((stop) => (
        <div key={stop.flag} className="stop-flag">
          <p className="task">{stop.label}</p>
          <p>{stop.why}</p>
          <p className="warn">{stop.instead}</p>
        </div>
      ))}
      <GoOn reason={reason} readOnly={readOnly} stopped={stopped} onText={(text) => onText(key, text)} onGoOn={goOn} />
    </section>
  );
}

interface GoOnProps {
  reason: string;
  readOnly: boolean;
  stopped: boolean;
  onText: (text: string) => void;
  onGoOn: () => Promise<string | undefined>;
}

function GoOn({ reason, readOnly, stopped, onText, onGoOn }: GoOnProps) {
  const wrong = useRef<HTMLParagraphElement>(null);
  return (
    <>
      <div className="text-field" style={{ marginTop: 10 }}>
        <label htmlFor="go-on">Going on all the same needs a written reason. It lands on the hand-out.</label>
        <textarea
          id="go-on"
          rows={2}
          value={reason}
          readOnly={readOnly}
          onChange={(event) => onText(event.target.value)}
        />
      </div>
      <p ref={wrong} className="number-error" role="alert" />
      {!readOnly && (
        <div className="buttons">
          <Button
            disabled={reason.trim() === ""}
            onClick={() =>
              void onGoOn().then((words) => {
                if (wrong.current) wrong.current.textContent = words ?? "";
              })
            }
          >
            {stopped ? "Go on for this reason" : "Change the reason"}
          </Button>
        </div>
      )}
    </>
  );
}

const NO_INJURY: Injury = {
  what: "",
  surgery: false,
  replaced: false,
  will_not_fold: false,
  diagnosed_by: "",
  as_rider: false,
};

/** Past injuries, surgery, replaced joints; who diagnosed them. */
function Injuries({ view, readOnly, texts, onText, save }: IntakeProps) {
  const { injuries } = intakeOf(view);
  const change = (index: number, part: Partial<Injury>) =>
    save((now) => ({ injuries: now.injuries.map((i, at) => (at === index ? { ...i, ...part } : i)) }), "injuries");
  return (
    <section aria-labelledby="injuries">
      <h3 id="injuries">Injuries, surgery, replaced joints</h3>
      {injuries.map((injury, index) => {
        const words = (part: "what" | "diagnosed_by", label: string) => {
          const key = `intake.injuries.${index}.${part}`;
          return (
            <WordsField
              label={label}
              value={injury[part]}
              typed={texts[key]}
              readOnly={readOnly}
              onTyped={(text) => onText(key, text)}
              onCommit={async (said) => (await change(index, { [part]: said }))?.message}
            />
          );
        };
        const tick = (part: "surgery" | "replaced" | "will_not_fold" | "as_rider", label: string) => (
          <Tick
            label={label}
            on={injury[part]}
            readOnly={readOnly}
            onTick={(on) => void change(index, { [part]: on })}
          />
        );
        return (
          <div key={index} className="complaint">
            {words("what", "What, where and when")}
            <div className="ticks">
              {tick("surgery", "Surgery")}
              {tick("replaced", "A joint was replaced")}
              {tick("will_not_fold", "It will not fold any more")}
            </div>
            {words("diagnosed_by", "Diagnosed by")}
            {tick("as_rider", "Seen as a rider, on the bike")}
            {!readOnly && (
              <button
                type="button"
                className="more"
                onClick={() =>
                  void save((now) => ({ injuries: now.injuries.filter((_, at) => at !== index) }), "injuries")
                }
              >
                take out
              </button>
            )}
          </div>
        );
      })}
      {!readOnly && (
        <Button onClick={() => void save((now) => ({ injuries: [...now.injuries, NO_INJURY] }), "injuries")}>
          Write one down
        </Button>
      )}
    </section>
  );
}
