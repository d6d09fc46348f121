import { memo, type ReactNode, useEffect, useRef } from "react";
import { Keycap } from "../ui/Keycap";
import type { StationEntry } from "../fit/station";
import { Detail, hasDetail } from "../board/Detail";
import { Bolts } from "../cards/Bolts";
import { ChangeCard } from "../cards/ChangeCard";
import { ConventionPicker } from "../cards/ConventionPicker";
import { DueAgain } from "../cards/DueAgain";
import { FitStand } from "../cards/FitStand";
import { GrossCard } from "../cards/GrossCard";
import { Rows } from "../cards/Rows";
import { FinishedCard, RunCard, TapeFirstCard } from "../cards/SessionCards";
import { TrialCard } from "../cards/TrialCard";
import { Held } from "../fit/Held";
import { useFit } from "../fit/useFit";
import { usePractice } from "../fit/usePractice";
import { NextMove } from "../judge/NextMove";

/** What to do: the station's own parts among what every station has. */
export function Panel({ entry }: { entry: StationEntry }) {
  const panel = useRef<HTMLElement>(null);
  const { view, bench } = useFit();
  const at = `${bench?.trial.id ?? ""}.${view.trials.length}`;
  const was = useRef(at);
  // After a try, a keep, a put back or their undoing the card that leads is where one goes on.
  useEffect(() => {
    if (was.current === at) return;
    was.current = at;
    panel.current?.scrollTo({ top: 0 });
    const active = document.activeElement;
    if (active === document.body || active === null || panel.current?.contains(active) || !active.isConnected) {
      panel.current?.focus({ preventScroll: true });
    }
  }, [at]);
  return (
    <aside className="panel" aria-label="What to do" ref={panel} tabIndex={-1}>
      {entry.Paper ? <BesidePaper entry={entry} /> : <BesideBoard entry={entry} />}
    </aside>
  );
}

/** Whether the judge helps: not in a fit of practice that goes without. */
function useJudged(): boolean {
  const practice = usePractice();
  return practice?.judge !== false || practice.ended != null;
}

function BesidePaper({ entry }: { entry: StationEntry }) {
  const { view, closed, finished, bench } = useFit();
  const judged = useJudged();
  return (
    <>
      {entry.Panel && <entry.Panel />}
      {closed && !finished && !bench && view.unknown.length === 0 && judged && <NextMove />}
    </>
  );
}

function BesideBoard({ entry }: { entry: StationEntry }) {
  const { view, closed, finished, bench, pending } = useFit();
  const judged = useJudged();
  const { Lead } = entry;
  const own = entry.Card && !bench && !pending && (closed || entry.early) ? entry.Card : undefined;
  const known = view.unknown.length === 0;
  return (
    <>
      {Lead && <Lead />}
      {closed && !bench && !finished && known && judged && <NextMove />}
      {closed && !bench && !finished && !pending && <GrossCard />}
      {finished && <FinishedCard />}
      {closed && !pending && <Settled />}
      {closed && <DueAgain />}
      {closed && <FitStand />}
      <Card own={own} />
      {!known && (
        <p style={{ marginTop: 12 }}>
          The saddle is drawn from the inseam until it is taped; angles wait for the tape.
        </p>
      )}
      {view.run && !bench && !finished && <RunCard run={view.run} />}
      <Held>
        <Below entry={entry} rows={known && !(own && entry.reads)} />
      </Held>
    </>
  );
}

/** What tells of the position: the station's own, the values, the close view and the bolts. */
const Below = memo(function Below({ entry, rows }: { entry: StationEntry; rows: boolean }) {
  const { view, station, closed, finished, bench, foresight } = useFit();
  const { Panel: Own, Foot } = entry;
  return (
    <Answered use={closed && !bench ? entry.useAnswered : undefined}>
      {Own && closed && !bench && <Own />}
      {rows && <Rows detailed={closed && hasDetail(station.station)} />}
      {closed && <Detail station={station.station} view={view} foresight={foresight} />}
      {closed && !bench && !finished && <Bolts />}
      {!finished && Foot && <Foot />}
      {!finished && entry.picks?.map((pick) => <ConventionPicker key={pick} pick={pick} />)}
    </Answered>
  );
});

/** What is shown once a station's own answer is there. */
function Answered({ use, children }: { use: StationEntry["useAnswered"]; children: ReactNode }) {
  return use ? <Waiting useAnswered={use}>{children}</Waiting> : children;
}

function Waiting({ useAnswered, children }: { useAnswered: () => boolean; children: ReactNode }) {
  return useAnswered() ? children : null;
}

/** What became of the last trial, while that can be undone. */
function Settled() {
  const { undoable, undo } = useFit();
  if (!undoable) return null;
  return (
    <p className="settled">
      {undoable.trial.foreseen.title}: {undoable.outcome === "kept" ? "kept" : "put back"}.{" "}
      <button type="button" className="more" onClick={undo}>
        Undo <Keycap>Ctrl Z</Keycap>
      </button>
    </p>
  );
}

/** The one card that leads: the trial on the bench, the station's own, the change, or what comes first. */
function Card({ own: Own }: { own: StationEntry["Card"] }) {
  const { closed, finished, bench } = useFit();
  if (bench) return <TrialCard key={bench.trial.id} trial={bench} />;
  if (Own) return <Own />;
  if (finished) return null;
  return closed ? <ChangeCard /> : <TapeFirstCard />;
}
