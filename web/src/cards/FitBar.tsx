import type { ReactNode } from "react";
import { Link } from "react-router";
import type { SessionView } from "../api/types";
import { TopBar } from "../ui/Page";

/** The bar of a page beside the board: whose fit it is, what the page is, where else to go. */
export function FitBar({ view, title, children }: { view: SessionView; title: string; children: ReactNode }) {
  const board = `/sessions/${view.session.id}`;
  return (
    <>
      <title>{`${title}, ${view.rider.name} · Wedge`}</title>
      <TopBar>
        <span className="who">
          <b>
            <Link to={board}>{view.rider.name}</Link>
          </b>{" "}
          · {view.bike.name}
        </span>
        <h1 className="page-name">{title}</h1>
        <span className="page-links">
          {children}
          <Link to={board}>Back to the board</Link>
        </span>
      </TopBar>
    </>
  );
}
