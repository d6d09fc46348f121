import "./film.css";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";
import { words } from "../api/client";
import { catalogueQuery, sessionQuery } from "../api/queries";
import type { SeenFrom } from "../api/types";
import { FitBar } from "../cards/FitBar";
import { Nowhere } from "../ui/Page";
import { FROM } from "./across";
import { AcrossBench } from "./AcrossBench";
import { Bench } from "./Bench";

const VIEWS: [SeenFrom | "side", string][] = [
  ["side", "From the side"],
  ["ahead", FROM.ahead.label],
  ["behind", FROM.behind.label],
];

/** The film bench: a photo or a clip from the side, squared by its wheels, or a clip from ahead or behind; read by points. */
export default function FilmPage() {
  const { id = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const session = useQuery(sessionQuery(id));
  const catalogue = useQuery(catalogueQuery);
  if (session.error) return <Nowhere what={words(session.error)} />;
  if (!session.data || !catalogue.data) return null;
  const view = session.data;
  const asked = search.get("from");
  const from = asked === "ahead" || asked === "behind" ? asked : undefined;
  return (
    <div className="film">
      <FitBar view={view} title="Film bench">
        <Link to={`/sessions/${id}/takes`}>Takes</Link>
      </FitBar>
      <nav className="tabs" aria-label="Where the camera stands">
        {VIEWS.map(([key, label]) => (
          <button
            key={key}
            type="button"
            aria-pressed={key === (from ?? "side")}
            onClick={() => setSearch(key === "side" ? {} : { from: key }, { replace: true })}
          >
            {label}
          </button>
        ))}
      </nav>
      {from ? <AcrossBench key={from} view={view} from={from} /> : <Bench view={view} catalogue={catalogue.data} />}
    </div>
  );
}
