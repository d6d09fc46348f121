import "./takes.css";
import { Button } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { words } from "../api/client";
import { sessionQuery, takesQuery } from "../api/queries";
import type { SessionView, TakesView } from "../api/types";
import { useKeys } from "../ui/keys";
import { KeysDialog } from "../ui/KeysDialog";
import { FitBar } from "../cards/FitBar";
import { Nowhere } from "../ui/Page";
import { Keeping } from "./Keeping";
import { Plots } from "./Plots";
import { SampleTable } from "./SampleTable";
import { TakeIn } from "./TakeIn";

/** Takes of a fit: markers and torque, the sample table, what may be kept of the last one. */
export default function TakesPage() {
  const { id = "" } = useParams();
  const session = useQuery(sessionQuery(id));
  const [search, setSearch] = useSearchParams();
  const takes = useQuery(takesQuery(id, search.get("way") ?? undefined));
  if (session.error) return <Nowhere what={words(session.error)} />;
  if (takes.error) return <Nowhere what={words(takes.error)} />;
  if (!session.data || !takes.data) return null;
  const onWay = (way: string | undefined) => setSearch(way === undefined ? {} : { way }, { replace: true });
  return <Takes session={session.data} takes={takes.data} onWay={onWay} />;
}

interface TakesProps {
  session: SessionView;
  takes: TakesView;
  /** Another way of looking is asked for; none goes by the last take. */
  onWay: (way: string | undefined) => void;
}

function Takes({ session, takes, onWay }: TakesProps) {
  const queries = useQueryClient();
  const [keysOpen, setKeysOpen] = useState(false);
  const id = session.session.id;
  useKeys({ "?": () => setKeysOpen(true) });
  const taken = (view: TakesView) => {
    onWay(undefined);
    queries.setQueryData(takesQuery(id).queryKey, view);
    void queries.invalidateQueries({ queryKey: ["session", id] });
  };
  const open = session.session.state === "open";
  return (
    <div className="takes">
      <FitBar view={session} title="Takes">
        <Link to={`/sessions/${id}/film`}>Film bench</Link>
      </FitBar>
      <main>
        <div className="left">
          {open && <TakeIn session={id} takes={takes} onTaken={taken} />}
          {takes.ways.length > 1 && (
            <div className="tabs" role="group" aria-label="How the rider was seen">
              {takes.ways.map(({ key, label }) => (
                <button key={key} type="button" aria-pressed={key === takes.way} onClick={() => onWay(key)}>
                  {label}
                </button>
              ))}
            </div>
          )}
          {takes.compared ? (
            <SampleTable takes={takes} />
          ) : (
            <p className="first-step">
              No take of markers yet. Have the rider hold the effort for ten seconds, then take in the camera’s file,
              TRC or C3D: every angle of the stroke is read off it, left and right.
            </p>
          )}
          <TakeList takes={takes} />
        </div>
        <div className="right">
          {takes.samples[0] && <Plots takes={takes} />}
          {open && takes.keepable.length > 0 && <Keeping key={takes.columns.at(-1)} session={id} takes={takes} />}
        </div>
      </main>
      {keysOpen && <KeysDialog onClose={() => setKeysOpen(false)} />}
    </div>
  );
}

/** Every take of the fit, with the way out of its markers. */
function TakeList({ takes }: { takes: TakesView }) {
  if (takes.takes.length === 0) return null;
  return (
    <section aria-labelledby="all-takes">
      <h2 id="all-takes">All takes of this fit</h2>
      <ol className="all">
        {takes.takes.map(({ take, on, failed, pictured }) => (
          <li key={take.id}>
            <b>{take.name}</b> {on}
            {take.power_w == null ? "" : `, ${take.power_w} W`}
            {take.simulated ? ", simulated" : ""}
            {"standing" in take.body ? `, standing zero of placing ${take.placing}` : ""}
            {pictured ? ", with its picture" : ""}
            {"markers" in take.body && (
              <>
                , placing {take.placing}{" "}
                <Button asChild variant="plain">
                  <a href={`/api/takes/${take.id}/trc`} download>
                    Save as TRC
                  </a>
                </Button>
              </>
            )}
            {failed && <p className="number-error">{failed}</p>}
          </li>
        ))}
      </ol>
    </section>
  );
}
