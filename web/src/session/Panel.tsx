import type { StationEntry } from "../fit/station";
import { Detail, hasDetail } from "../board/Detail";
import { Bolts } from "../cards/Bolts";
import { ChangeCard } from "../cards/ChangeCard";
import { ConventionPicker } from "../cards/ConventionPicker";
import { GrossCard } from "../cards/GrossCard";
import { Rows } from "../cards/Rows";
import { FinishedCard, RunCard, TapeFirstCard } from "../cards/SessionCards";
import { TrialCard } from "../cards/TrialCard";
import { useFit } from "../fit/useFit";

/** What to do: the station's own parts among what every station has. */
export function Panel({ entry }: { entry: StationEntry }) {
  return (
    <aside className="panel" aria-label="What to do">
      {entry.Paper ? entry.Panel && <entry.Panel /> : <BesideBoard entry={entry} />}
    </aside>
  );
}

function BesideBoard({ entry }: { entry: StationEntry }) {
  const { view, station, closed, finished, bench, pending, foresight } = useFit();
  const { Lead, Panel: Own, Foot } = entry;
  const own = entry.Card && !bench && !pending && (closed || entry.early) ? entry.Card : undefined;
  const known = view.unknown.length === 0;
  return (
    <>
      {Lead && <Lead />}
      {closed && !bench && !finished && !pending && <GrossCard />}
      {finished && <FinishedCard />}
      <Card own={own} />
      {!known && (
        <p style={{ marginTop: 12 }}>
          The saddle is drawn from the inseam until it is taped; angles wait for the tape.
        </p>
      )}
      {view.run && !bench && !finished && <RunCard run={view.run} />}
      {Own && closed && !bench && <Own />}
      {known && !(own && entry.reads) && <Rows detailed={closed && hasDetail(station.station)} />}
      {closed && <Detail station={station.station} view={view} foresight={foresight} />}
      {closed && !bench && !finished && <Bolts />}
      {!finished && Foot && <Foot />}
      {!finished && entry.picks?.map((pick) => <ConventionPicker key={pick} pick={pick} />)}
    </>
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
