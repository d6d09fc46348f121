import "./film.css";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { words } from "../api/client";
import { catalogueQuery, sessionQuery } from "../api/queries";
import { FitBar } from "../cards/FitBar";
import { Nowhere } from "../ui/Page";
import { Bench } from "./Bench";

/** The film bench: a photo or a clip from the side, squared by its wheels, read by points. */
export default function FilmPage() {
  const { id = "" } = useParams();
  const session = useQuery(sessionQuery(id));
  const catalogue = useQuery(catalogueQuery);
  if (session.error) return <Nowhere what={words(session.error)} />;
  if (!session.data || !catalogue.data) return null;
  const view = session.data;
  return (
    <div className="film">
      <FitBar view={view} title="Film bench">
        <Link to={`/sessions/${id}/takes`}>Takes</Link>
      </FitBar>
      <Bench view={view} catalogue={catalogue.data} />
    </div>
  );
}
