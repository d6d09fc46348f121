import "./takes.css";
import { Button } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
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
  const takes = useQuery(takesQuery(id));
  if (session.error) return <Nowhere what={words(session.error)} />;
  if (takes.error) return <Nowhere what={words(takes.error)} />;
  if (!session.data || !takes.data) return null;
  return <Takes session={session.data} takes={takes.data} />;
}

function Takes({ session, takes }: { session: SessionView; takes: TakesView }) {
  const queries = useQueryClient();
  const [keysOpen, setKeysOpen] = useState(false);
  const id = session.session.id;
  useKeys({ "?": () => setKeysOpen(true) });
  const taken = (view: TakesView) => {
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
        {takes.takes.map(({ take, on, failed }) => (
          <li key={take.id}>
            <b>{take.name}</b> {on}
            {take.power_w == null ? "" : `, ${take.power_w} W`}
            {take.simulated ? ", simulated" : ""}
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
