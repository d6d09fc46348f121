import "./session.css";
import { Button } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useLocation, useNavigate, useParams } from "react-router";
import { answer, api, type ApiError, detail, newId, words } from "../api/client";
import { catalogueQuery, cranksQuery, feetQuery, mapQuery, saddleQuery } from "../api/queries";
import type {
  Catalogue,
  Change,
  Conventions,
  EntryBody,
  Foresight,
  Frame,
  Intake,
  LookBody,
  RunPlan,
  Quantity,
  Row,
  SessionView,
  Side,
  Station,
  TapedFrame,
} from "../api/types";
import { Board } from "../board/Board";
import type { FromRun } from "../protocol/ProtocolPage";
import { planFor, PROTOCOLS } from "../protocol/plans";
import { beginRun } from "../protocol/sends";
import { Tape } from "../tape/Tape";
import { number } from "../ui/format";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";
import { KeysDialog } from "../ui/KeysDialog";
import { Nowhere, TopBar } from "../ui/Page";
import { bothValues, sameAnswer } from "./against";
import { Announcer } from "./Announcer";
import { BodyMeasures, BodyPanel } from "./Body";
import { ChangeCard } from "./ChangeCard";
import {
  allFields,
  boardFields,
  changesOf,
  type Field,
  isHeld,
  keyOf,
  reads,
  stationFields,
  targetsOf,
} from "./fields";
import { Bolts } from "./Bolts";
import { Causes } from "./Causes";
import { CranksPage, CranksPanel } from "./Cranks";
import { FeetPage, FeetPanel } from "./Feet";
import { ConventionPicker, type Pick } from "./ConventionPicker";
import { Effort } from "./Effort";
import { CalibrationPage, FirstLook } from "./FirstLook";
import { GrossCard } from "./GrossCard";
import { IntakePanel, WhereItHurts } from "./Intake";
import { Detail, hasDetail } from "../board/Detail";
import { FoundPanel } from "./FoundPanel";
import { HandsPicker } from "./HandsPicker";
import { Rows } from "./Rows";
import { SaddlePanel } from "./Saddle";
import { SaddlePage } from "./SaddlePage";
import { SaddleMap, type Travel } from "./SaddleMap";
import {
  beginTrial,
  calibrate,
  changeSession,
  closeFound,
  correctFrame,
  enterInTrial,
  finish,
  labelFrame,
  saveIntake,
  saveSaddle,
  saveShoe,
  see,
  setAside,
  tapeBike,
  tapeBody,
} from "./sends";
import { FinishedCard, HandOutCard, RunCard, TapeFirstCard } from "./SessionCards";
import { TrialCard } from "./TrialCard";
import { useDraft } from "./useDraft";
import { useForesight } from "./useForesight";
import { useSession, type Write } from "./useSession";
import { Way } from "./Way";

/** A session: the board as form, the way, the panel and the tape. */
export default function SessionPage() {
  const { id = "" } = useParams();
  const session = useSession(id);
  const catalogue = useQuery(catalogueQuery);
  if (session.error) return <Nowhere what={words(session.error)} />;
  if (!session.view || !catalogue.data) return null;
  return (
    <Loaded key={id} view={session.view} catalogue={catalogue.data} write={session.write} writing={session.writing} />
  );
}

interface LoadedProps {
  view: SessionView;
  catalogue: Catalogue;
  write: Write;
  writing: boolean;
}

/** How a length is taped is asked where it is taped. */
const PICKS: [Pick, Station | undefined][] = [
  ["saddle_height", "saddle_height"],
  ["setback", "setback"],
  ["sit_reference", "setback"],
  ["drop", "bars"],
  ["bb_to_hand", "bars"],
];

/** Stations with a long page once the bike as found is closed. */
const OPENS: Station[] = ["first_look", "feet", "cranks"];

/** Fields of the trial to begin, among the texts being typed. */
const WHY = "trial.why";
const INSIST = "trial.insist";

function Loaded({ view, catalogue, write, writing }: LoadedProps) {
  const id = view.session.id;
  const { draft, change, saved } = useDraft(view);
  const { conventions } = view.session;
  const closed = view.found != null;
  const finished = view.session.state === "finished";
  const bench = view.trials.find((t) => t.outcome == null);

  // A target that is what stands there already is none.
  const fields = allFields(view.input.setup, catalogue);
  const targets = Object.fromEntries(
    Object.entries(draft.targets).filter(([key, value]) => {
      const field = fields.find((f) => f.key === key);
      const now = field && reads(field, view.now.after, view.input.setup, catalogue);
      const asked = number(now ?? 0) !== number(value) || isHeld(key, Object.keys(draft.targets));
      return closed && !bench && now !== undefined && asked;
    }),
  );
  const changes = changesOf(targets, fields, view.now.after.conventions);
  const pending = changes.length > 0;
  const { foresight, refused, settled } = useForesight(view, changes);

  const [flipped, setFlipped] = useState(false);
  const [turning, setTurning] = useState(false);
  const [asTable, setAsTable] = useState(false);
  const [all, setAll] = useState(false);
  const [keysOpen, setKeysOpen] = useState(false);
  const [problem, setProblem] = useState<string>();
  const [trying, setTrying] = useState(false);
  const [focusKey, setFocusKey] = useState<string>();
  const [measure, setMeasure] = useState<string>();
  const [open, setOpen] = useState(false);
  const [crankTo, setCrankTo] = useState<number>();
  const [mapOpen, setMapOpen] = useState(false);
  const trialId = useRef(newId());
  const lastAsked = useRef(0);
  const queries = useQueryClient();

  // Where the fitter stands is shown at once; the record follows.
  const [heading, setHeading] = useState<Station>();
  const here = heading ?? view.session.station;
  const station = catalogue.stations.find((s) => s.station === here) ?? catalogue.stations[0];
  if (!station) throw new Error("the catalogue has no stations");

  const setText = (key: string, text: string | undefined) =>
    change((d) => {
      const texts = without(d.texts, key);
      return { ...d, texts: text === undefined ? texts : { ...texts, [key]: text } };
    });

  const target = (field: Field, value: number) =>
    // What was insisted on was insisted on for another number.
    change((d) => ({ ...d, targets: { ...d.targets, [field.key]: value }, texts: without(d.texts, INSIST) }));

  const post = (send: (view: SessionView) => Promise<SessionView>, against?: Parameters<Write>[1]) =>
    write(send, against).then((error) => {
      setProblem(detail(error));
      return error;
    });

  const go = (next: Station) => {
    setOpen(false);
    setHeading(next);
    setFocusKey(undefined);
    // A finished fit is looked at, not moved.
    if (finished) return;
    void post(changeSession({ station: next })).then(() =>
      setHeading((latest) => (latest === next ? undefined : latest)),
    );
  };
  const step = (by: number) => {
    const index = catalogue.stations.findIndex((s) => s.station === station.station);
    const next = catalogue.stations[index + by];
    if (next) go(next.station);
  };

  const why = draft.texts[WHY] ?? "";
  const insisted = draft.texts[INSIST] !== undefined;
  const tryIt = () => {
    if (!pending || trying || refused || bench || !foresight.title) return;
    if ((foresight.insist?.length ?? 0) > 0 && !insisted) return;
    setTrying(true);
    const started = view.session.now;
    void post(beginTrial(trialId.current, changes, why, insisted), (_, fresh) =>
      fresh.session.now === started ? undefined : "The bike was changed in another window: look at the board again.",
    ).then((error) => {
      setTrying(false);
      if (error) return;
      trialId.current = newId();
      change(() => ({ targets: {}, texts: {}, words: "" }));
      setFocusKey(undefined);
      setFlipped(false);
      if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
    });
  };

  const enter = async (body: EntryBody): Promise<ApiError | undefined> => {
    if (!bench) return undefined;
    return post(enterInTrial(bench.trial.id, body));
  };
  const settle = async (outcome: "kept" | "put_back") => {
    if (!bench) return;
    const said = draft.words.trim();
    if (said !== "" && said !== bench.words) {
      const error = await enter({ words: said });
      if (error) return;
    }
    const error = await enter({ outcome });
    if (!error) change((d) => ({ ...d, words: "" }));
  };

  const say = (text: string) => change((d) => ({ ...d, words: text }));

  const bikeReading = async (quantity: Quantity, side: Side | null, value: number) => {
    const taped = { quantity, side, value };
    return detail(
      await write(
        tapeBike(taped),
        bothValues((v) => v.session.readings, taped),
      ),
    );
  };

  const bodyReading = async (quantity: Quantity, side: Side | null, value: number) => {
    const taped = { quantity, side, value };
    const error = await write(
      tapeBody(taped),
      bothValues((v) => v.rider.readings, taped),
    );
    void queries.invalidateQueries({ queryKey: ["rider", view.rider.id] });
    return detail(error);
  };

  const aside = async (reading: string) => {
    const error = await write(setAside(reading), () => "Another window wrote: look at the readings again.");
    void queries.invalidateQueries({ queryKey: ["rider", view.rider.id] });
    return detail(error);
  };

  const intake = (change: (now: Intake) => Partial<Intake>, touches: keyof Intake) =>
    write(saveIntake(change), sameAnswer(touches));

  const saw = async (body: LookBody) => detail(await write(see(body)));

  const fit = (on: boolean) =>
    void post(calibrate(on)).then((error) => {
      if (!error && on) setOpen(true);
    });

  // What is offered elsewhere is put on the board as if it had been typed.
  const foreseeThere = (to: Station, wanted: Change[]) => {
    go(to);
    void foreseeHere(wanted);
  };
  const foreseeHere = (wanted: Change[]) => {
    setOpen(false);
    if (wanted.length === 0) return Promise.resolve();
    const asked = ++lastAsked.current;
    return answer<Foresight>(api.POST("/api/foresee", { body: { ...view.input, changes: wanted } })).then((linked) => {
      // Answers may overtake one another: the last one asked for counts.
      if (asked !== lastAsked.current) return;
      change((d) => ({
        ...d,
        targets: targetsOf(wanted, fields, linked, view, catalogue),
        texts: without(d.texts, INSIST),
      }));
    });
  };

  const put = (wanted: Change[]) => void foreseeHere(wanted);

  // The last reading of the measure at hand is set aside.
  const takeBack = () => {
    const here = view.body.find((m) => keyOf(m.quantity, m.side) === measure);
    const last = here?.readings.at(-1);
    if (last) void aside(last.id).then(setProblem);
  };

  const frameCorrected = async (frame: Frame, quantity: Quantity, taped: TapedFrame | null) => {
    const error = await write(
      correctFrame(frame, taped),
      () => "The frame was corrected in another window: look at it again.",
    );
    return error?.at(`/${quantity}`) ?? detail(error);
  };

  const pick = (next: Conventions) =>
    void post(changeSession({ conventions: next })).then(() => change((d) => ({ ...d, targets: {}, texts: {} })));

  // What a protocol found comes along and is put on the board as if it had been typed.
  const location = useLocation();
  const navigate = useNavigate();
  const fromRun = location.state as FromRun | null;
  useEffect(() => {
    if (!fromRun) return;
    void navigate(location.pathname, { replace: true, state: null });
    void foreseeHere(fromRun.foresee.changes);
    setText(WHY, fromRun.why);
    // Once, when the page is come to.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const begin = (plan: RunPlan) =>
    void beginRun(id, plan).then(
      (run) => {
        void queries.invalidateQueries({ queryKey: ["session", id] });
        void navigate(`/runs/${run.id}`);
      },
      (error: unknown) => setProblem(detail(error as ApiError) ?? words(error)),
    );

  const atSaddle =
    closed && (station.station === "saddle_height" || station.station === "setback") ? station.station : undefined;
  const opens =
    station.station === "intake" || atSaddle || (closed && OPENS.includes(station.station)) ? true : undefined;
  const version = `${view.version}.${view.rider.version}.${view.bike.version}`;
  const feet = useQuery({ ...feetQuery(id, version), enabled: station.station === "feet" && closed }).data;
  const cranks = useQuery({ ...cranksQuery(id, version, crankTo), enabled: station.station === "cranks" && closed });
  const saddle = useQuery({ ...saddleQuery(id, version), enabled: atSaddle !== undefined }).data;
  const saddleMap = useQuery({ ...mapQuery(id, version), enabled: atSaddle !== undefined && mapOpen }).data;
  useKeys({
    "?": () => setKeysOpen(true),
    " ": () => setTurning(!turning),
    a: () => setAll(!all),
    b: () => setFlipped(!flipped),
    t: () => setAsTable(!asTable),
    c: opens ? () => setOpen(!open) : undefined,
    "Ctrl+z": station.station === "body" && !finished ? () => takeBack() : undefined,
    d: atSaddle ? () => setMapOpen(!mapOpen) : undefined,
    p: view.run ? () => void navigate(`/runs/${view.run?.id ?? ""}`) : undefined,
    ...beginKeys(),
    j: () => step(-1),
    l: () => step(1),
    k: bench ? () => void settle("kept") : undefined,
    z: bench ? () => void settle("put_back") : undefined,
    Enter: tryIt,
    Escape: pending ? () => change((d) => ({ ...d, targets: {} })) : undefined,
  });

  function beginKeys() {
    if (!atSaddle || !saddle || finished || bench || pending || view.run) return {};
    const at = atSaddle;
    return Object.fromEntries(
      PROTOCOLS[at].map((protocol, index) => {
        const plan = planFor(saddle, protocol, at);
        return [String(index + 1), plan ? () => begin(plan) : undefined];
      }),
    );
  }

  const papers = station.station === "intake" || station.station === "body";
  const looking = station.station === "first_look" && closed && !bench;
  const atFeet = station.station === "feet" && closed ? feet : undefined;
  const atCranks = station.station === "cranks" && closed ? cranks.data : undefined;
  const still = finished || bench !== undefined;
  // What the arrows walk are the bolts: the post along its axis, the saddle along its rails.
  const walk = ({ post: up, rails }: Travel) => {
    const by = (quantity: Quantity, amount: number) => (amount === 0 ? [] : [{ quantity, by: amount }]);
    const wanted = [...by("saddle_height_mm", up), ...by("setback_mm", rails)];
    if (wanted.length > 0) return foreseeHere(wanted);
    change((d) => ({ ...d, targets: {} }));
    return Promise.resolve();
  };
  const written = {
    view,
    catalogue,
    readOnly: finished,
    texts: draft.texts,
    onText: setText,
  };
  const locked = finished
    ? "This fit is finished."
    : bench
      ? "A trial is on the bench: keep it or put it back first."
      : undefined;
  const rows = bench ? bench.trial.foreseen.rows : foresight.rows;
  const shownPicks = PICKS.filter(([, at]) => station.station === "bike_as_found" || station.station === at).map(
    ([pick]) => pick,
  );
  const bolts = stationFields(view.input.setup, catalogue, station.quantities);
  const further = bolts.filter((f) => !boardFields(view.input.setup).some((b) => b.key === f.key));

  return (
    <div className={papers ? "session paper" : "session"}>
      <title>{`${view.rider.name}, ${station.label} · Wedge`}</title>
      <TopBar>
        <span className="who">
          <b style={{ fontSize: 18 }}>
            <Link to={`/riders/${view.rider.id}`}>{view.rider.name}</Link>
          </b>{" "}
          · {view.bike.name} · fit {view.session.number}
        </span>
        <Effort key={JSON.stringify(view.session.effort)} view={view} write={write} readOnly={finished} />
        {!papers && (
          <>
            <Button onClick={() => setTurning(!turning)} aria-pressed={turning}>
              {turning ? "Stop" : "Watch the stroke"} <Keycap>Space</Keycap>
            </Button>
            <Button onClick={() => setAsTable(!asTable)} aria-pressed={asTable} aria-label="The board as a table">
              Table <Keycap>T</Keycap>
            </Button>
          </>
        )}
        <Button onClick={() => setKeysOpen(true)} aria-label="All keys">
          <Keycap>?</Keycap>
        </Button>
        <span className="state" role="status">
          {finished
            ? "finished"
            : saved === "kept"
              ? "kept in this browser"
              : writing || saved === "saving"
                ? "saving…"
                : "saved"}
        </span>
      </TopBar>
      <Way
        here={station.station}
        catalogue={catalogue}
        first={closed ? view.gross.errors.map((error) => error.station) : []}
        stopped={view.stopped}
        onGo={go}
      />
      <main
        onFocus={(event) => {
          setFocusKey(event.target.dataset.field);
          if (event.target.dataset.field) setMeasure(event.target.dataset.field);
        }}
        onBlur={() => setFocusKey(undefined)}
      >
        <h1 className="visually-hidden">
          {view.rider.name}, {station.label}
        </h1>
        {station.station === "intake" && open ? (
          <div className="sheet-page">
            <div className="head">
              <h2>What hurts, and what would settle it</h2>
              <Button onClick={() => setOpen(false)}>
                Back to the body <Keycap>C</Keycap>
              </Button>
            </div>
            {view.unknown.length > 0 && <p>The saddle is not taped yet: angles are as it is drawn.</p>}
            <Causes session={id} version={version} catalogue={catalogue} />
          </div>
        ) : station.station === "intake" ? (
          <WhereItHurts {...written} save={intake} />
        ) : station.station === "body" ? (
          <BodyMeasures {...written} here={measure} onReading={bodyReading} />
        ) : looking && open ? (
          <CalibrationPage view={view} readOnly={finished} onFit={fit} onClose={() => setOpen(false)} />
        ) : atFeet && open ? (
          <FeetPage
            {...written}
            feet={atFeet}
            readOnly={still}
            onBike={bikeReading}
            onBody={bodyReading}
            onShoes={async (side, shoe) => detail(await write(saveShoe(side, shoe)))}
            onTry={put}
            onBolt={(quantity, side) => {
              setOpen(false);
              const key = keyOf(quantity, side);
              requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-field="${key}"]`)?.focus());
            }}
            onClose={() => setOpen(false)}
          />
        ) : atCranks && open ? (
          <CranksPage
            cranks={atCranks}
            catalogue={catalogue}
            readOnly={still}
            onTo={setCrankTo}
            onTry={put}
            onClose={() => setOpen(false)}
          />
        ) : atSaddle && saddle && open ? (
          <SaddlePage
            saddle={saddle}
            view={view}
            version={version}
            catalogue={catalogue}
            readOnly={still}
            onTry={put}
            onBegin={begin}
            onNotes={async (change) => detail(await write(saveSaddle(change)))}
            onStation={(to) => {
              setOpen(false);
              go(to);
            }}
            onClose={() => setOpen(false)}
          />
        ) : (
          <Board
            view={view}
            catalogue={catalogue}
            foresight={foresight}
            targets={targets}
            texts={draft.texts}
            output={station.output}
            flipped={flipped}
            turning={turning}
            asTable={asTable}
            locked={locked}
            focusKey={focusKey}
            settled={settled}
            onTyped={(field: Field, text) => setText(field.key, text)}
            onTarget={target}
            onReading={(field: Field, value) => bikeReading(field.quantity, field.side ?? null, value)}
            onTry={tryIt}
          />
        )}
      </main>
      {papers ? (
        <aside className="panel" aria-label="What to do">
          {station.station === "intake" ? (
            <IntakePanel {...written} save={intake} onNext={() => go("body")} />
          ) : (
            <BodyPanel
              {...written}
              here={measure}
              onReading={bodyReading}
              onAside={aside}
              onNext={() => go("bike_as_found")}
              onForesee={(wanted) => foreseeThere("saddle_height", wanted)}
            />
          )}
          {problem && (
            <p className="number-error" role="alert">
              {problem}
            </p>
          )}
        </aside>
      ) : (
        <aside className="panel" aria-label="What to do">
          {atSaddle && mapOpen && saddleMap && (
            <SaddleMap
              shown={saddleMap}
              view={view}
              foresight={foresight}
              catalogue={catalogue}
              pending={pending}
              readOnly={still}
              onWalk={walk}
            />
          )}
          {closed && !bench && !finished && !pending && <GrossCard view={view} onTake={foreseeThere} />}
          {finished && <FinishedCard session={id} />}
          {bench ? (
            <TrialCard
              key={bench.trial.id}
              trial={bench}
              catalogue={catalogue}
              words={draft.words || (bench.words ?? "")}
              problem={problem}
              onWords={say}
              onEnter={async (body) => detail(await enter(body))}
              onKeep={() => void settle("kept")}
              onPutBack={() => void settle("put_back")}
            />
          ) : station.station === "bike_as_found" && !pending ? (
            <FoundPanel
              view={view}
              catalogue={catalogue}
              readOnly={finished}
              problem={problem}
              onClose={() => void post(closeFound)}
              onReading={bikeReading}
              onFrame={frameCorrected}
            />
          ) : station.station === "hand_out" && !pending && !finished ? (
            <HandOutCard
              view={view}
              task={station.task}
              problem={problem}
              onFollowUp={(follow_up) => void post(changeSession({ follow_up }))}
              onFinish={() => void post(finish)}
            />
          ) : (
            !finished &&
            (closed ? (
              looking && !pending ? null : (
                <ChangeCard
                  station={station}
                  foresight={foresight}
                  pending={pending}
                  refused={refused}
                  trying={trying}
                  problem={problem}
                  why={why}
                  onWhy={(text) => setText(WHY, text === "" ? undefined : text)}
                  insisted={insisted}
                  onInsist={(on) => setText(INSIST, on ? "yes" : undefined)}
                  onTry={tryIt}
                  onClear={() => change((d) => ({ ...d, targets: {}, texts: without(d.texts, INSIST) }))}
                  onOffer={(index) => {
                    const offer = foresight.offers[index];
                    if (!offer) return;
                    void answer<Foresight>(
                      api.POST("/api/foresee", { body: { ...view.input, changes: offer.changes } }),
                    ).then((linked) =>
                      change((d) => ({
                        ...d,
                        targets: { ...targets, ...targetsOf(offer.changes, fields, linked, view, catalogue) },
                      })),
                    );
                  }}
                />
              )
            ) : (
              <TapeFirstCard title={station.label} onGo={() => go("bike_as_found")} />
            ))
          )}
          {looking && !pending && (
            <FirstLook
              {...written}
              problem={problem}
              shown={open}
              onSee={saw}
              onFit={() => fit(true)}
              onShow={() => setOpen(!open)}
            />
          )}
          {view.unknown.length > 0 && (
            <p style={{ marginTop: 12 }}>
              The saddle is drawn from the inseam until it is taped; angles wait for the tape.
            </p>
          )}
          {atFeet && !bench && (
            <FeetPanel feet={atFeet} targets={targets} readOnly={still} onTry={put} onOpen={() => setOpen(!open)} />
          )}
          {atCranks && !bench && (
            <CranksPanel
              cranks={atCranks}
              catalogue={catalogue}
              targets={targets}
              readOnly={still}
              onTry={put}
              onLabel={(label) => void post(labelFrame(label))}
              onOpen={() => setOpen(!open)}
            />
          )}
          {view.run && !bench && !finished && <RunCard run={view.run} />}
          {atSaddle && saddle && !bench && (
            <SaddlePanel
              saddle={saddle}
              station={atSaddle}
              catalogue={catalogue}
              wanted={targets[atSaddle === "setback" ? "setback_mm" : "saddle_height_mm"]}
              readOnly={still || view.run != null}
              mapOpen={mapOpen}
              onTry={put}
              onBegin={begin}
              onFit={() => void post(calibrate(true))}
              onMap={() => setMapOpen(!mapOpen)}
              onOpen={() => setOpen(!open)}
            />
          )}
          {view.unknown.length === 0 && !(looking && !pending) && (
            <Rows
              caption={bench || pending ? "Foreseen, before a bolt is turned" : closed ? "Now" : "As drawn so far"}
              rows={rows}
              still={!pending && !bench}
              detailed={closed && hasDetail(station.station)}
              all={all}
              onAll={() => setAll(!all)}
              onBoard={station.output}
              trial={bench}
              catalogue={catalogue}
              onSeen={async (row: Row, value) =>
                detail(await enter({ seen: { output: row.output, side: row.side ?? null, value } }))
              }
            />
          )}
          {closed && <Detail station={station.station} view={view} foresight={foresight} />}
          {closed && !bench && !finished && further.length > 0 && (
            <Bolts
              fields={further}
              foresight={foresight}
              targets={targets}
              texts={draft.texts}
              view={view}
              catalogue={catalogue}
              onTyped={(field, text) => setText(field.key, text)}
              onTarget={target}
              onTry={tryIt}
            />
          )}
          {!finished && station.station === "bars" && (
            <HandsPicker view={view} catalogue={catalogue} onPick={(hands) => void post(changeSession({ hands }))} />
          )}
          {!finished &&
            shownPicks.map((quantity) => (
              <ConventionPicker
                key={quantity}
                pick={quantity}
                conventions={view.now.after.conventions}
                setup={view.input.setup}
                catalogue={catalogue}
                onPick={(next) => pick({ ...conventions, ...next })}
              />
            ))}
        </aside>
      )}
      {!papers && (
        <div className="strip">
          <Tape view={view} catalogue={catalogue} output={station.output} />
        </div>
      )}
      <Announcer foresight={pending ? foresight : undefined} settled={settled} />
      {keysOpen && <KeysDialog onClose={() => setKeysOpen(false)} />}
    </div>
  );
}

const without = (texts: Record<string, string>, key: string) =>
  Object.fromEntries(Object.entries(texts).filter(([other]) => other !== key));
