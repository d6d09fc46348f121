import "./session.css";
import "../cards/cards.css";
import { useQuery } from "@tanstack/react-query";
import { type RefObject, useEffect, useLayoutEffect, useRef } from "react";
import { useLocation, useNavigate, useParams } from "react-router";
import { words } from "../api/client";
import { catalogueQuery } from "../api/queries";
import type { Catalogue, SessionView } from "../api/types";
import { Board } from "../board/Board";
import type { FromRun } from "../fit/fromRun";
import { Held } from "../fit/Held";
import type { StationEntry } from "../fit/station";
import { type Fit, FitContext, useFit, useFitState } from "../fit/useFit";
import { useSession, type Write } from "../fit/useSession";
import { RightPlace } from "../judge/RightPlace";
import { STATIONS } from "../stations";
import { Tape } from "../tape/Tape";
import { useKeys } from "../ui/keys";
import { KeysDialog } from "../ui/KeysDialog";
import { Nowhere, TopBar } from "../ui/Page";
import { Announcer } from "./Announcer";
import { Bar } from "./Bar";
import { Panel } from "./Panel";
import { Way } from "./Way";

/** A session: the board as form, the way, the panel and the tape. */
export default function SessionPage() {
  const { id = "" } = useParams();
  const session = useSession(id);
  const catalogue = useQuery(catalogueQuery);
  if (session.error) return <Nowhere what={words(session.error)} />;
  if (!session.view || !catalogue.data) return <TopBar />;
  return <Loaded key={id} {...session} view={session.view} catalogue={catalogue.data} />;
}

interface LoadedProps {
  view: SessionView;
  catalogue: Catalogue;
  write: Write;
  writing: boolean;
  kept: boolean;
}

function Loaded({ view, catalogue, write, writing, kept }: LoadedProps) {
  const fit = useFitState(view, catalogue, write);
  const { station, shown } = fit;
  const entry = STATIONS[station.station];
  useWhatWasFound(fit);
  const page = useRef<HTMLDivElement>(null);
  useLanding(page, entry.lands === "main" ? "main" : ".panel", station.station);
  return (
    <FitContext value={fit}>
      <div ref={page} className={entry.Paper ? "session paper" : "session"}>
        <title>{`${view.rider.name}, ${station.label} · Wedge`}</title>
        <Bar writing={writing} kept={kept} paper={entry.Paper !== undefined} />
        <Held>
          <Way />
        </Held>
        <Main entry={entry} />
        <Panel key={station.station} entry={entry} />
        {!entry.Paper && (
          <div className="strip">
            <Held>
              <Tape />
            </Held>
          </div>
        )}
        <Announcer />
        <SessionKeys entry={entry} />
        {shown.is("keys") && <KeysDialog onClose={() => shown.close("keys")} />}
      </div>
    </FitContext>
  );
}

/** Who comes to a station goes on there: its card, or its first field a Tab away. Before it is seen, so that a quick Tab does not
 * walk from where the station before had the focus. */
function useLanding(page: RefObject<HTMLElement | null>, where: string, station: string) {
  useLayoutEffect(() => {
    page.current?.querySelector<HTMLElement>(where)?.focus({ preventScroll: true });
  }, [page, where, station]);
}

const opensPage = (entry: StationEntry, fit: Fit) =>
  entry.Page !== undefined && (entry.opens ? entry.opens(fit) : fit.closed);

/** The board, or what the station has in its place. */
function Main({ entry }: { entry: StationEntry }) {
  const fit = useFit();
  const { view, station, setFocus, shown } = fit;
  const right = shown.is("right") && fit.closed && !fit.finished;
  const View = right ? RightPlace : ((shown.is("page") && opensPage(entry, fit) ? entry.Page : entry.Paper) ?? Board);
  return (
    <main tabIndex={-1} onFocus={(event) => setFocus(event.target.dataset["field"])} onBlur={() => setFocus(undefined)}>
      <h1 className="visually-hidden">
        {view.rider.name}, {station.label}
      </h1>
      {View === Board ? (
        <Board Handle={fit.closed && !fit.still ? entry.Handle : undefined} Drawn={entry.Drawn} />
      ) : (
        <View />
      )}
    </main>
  );
}

/** The keys of every station. */
function SessionKeys({ entry }: { entry: StationEntry }) {
  const fit = useFit();
  const { view, shown, bench, pending, settle, step, station } = fit;
  const navigate = useNavigate();
  const run = view.run;
  useKeys({
    "?": () => shown.open("keys"),
    " ": () => shown.toggle("turning"),
    a: () => shown.toggle("all"),
    b: () => shown.toggle("flipped"),
    t: () => shown.toggle("table"),
    c: opensPage(entry, fit) ? () => shown.toggle("page") : undefined,
    p: run ? () => void navigate(`/runs/${run.id}`) : undefined,
    j: () => step(-1),
    l: () => step(1),
    "Alt+j": () => step(-1),
    "Alt+l": () => step(1),
    k: bench ? () => void settle("kept") : undefined,
    z: bench ? () => void settle("put_back") : undefined,
    1: bench ? () => void fit.enter({ verdict: "better" }) : undefined,
    2: bench ? () => void fit.enter({ verdict: "same" }) : undefined,
    3: bench ? () => void fit.enter({ verdict: "worse" }) : undefined,
    "Ctrl+z": fit.takenOut ? fit.putBackIn : station.station === "body" ? undefined : fit.undo,
    f: () => {
      const begins = entry.fields ? [entry.fields] : station.quantities;
      const key = begins.map((begin) => `[data-field^="${begin}"]`).join(",");
      document.querySelector<HTMLElement>(key || "main [data-field]")?.focus();
    },
    Enter: pending ? fit.begin : undefined,
    Escape: pending ? fit.leave : shown.is("right") ? () => shown.close("right") : undefined,
  });
  return null;
}

/** What a protocol found comes along and is put on the board as if it had been typed. */
function useWhatWasFound({ foresee, setWhy }: Fit) {
  const location = useLocation();
  const navigate = useNavigate();
  const fromRun = location.state as FromRun | null;
  useEffect(() => {
    if (!fromRun) return;
    void navigate(location.pathname, { replace: true, state: null });
    foresee(fromRun.foresee.changes);
    setWhy(fromRun.why);
    // Once, when the page is come to.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
}
