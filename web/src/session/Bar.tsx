import { Button } from "@chakra-ui/react";
import { Link } from "react-router";
import { useFit } from "../fit/useFit";
import { usePractice } from "../fit/usePractice";
import { Keycap } from "../ui/Keycap";
import { TopBar } from "../ui/Page";
import { Effort } from "./Effort";

interface BarProps {
  writing: boolean;
  /** Entries wait for a server that does not answer. */
  kept: boolean;
  paper: boolean;
}

/** Who and what is fitted, the effort, what can be shown, and whether all is written. */
export function Bar({ writing, kept: entries, paper }: BarProps) {
  const { view, finished, saved, shown } = useFit();
  const turning = shown.is("turning");
  const kept =
    entries || saved === "kept" ? "kept in this browser" : writing || saved === "saving" ? "saving…" : "saved";
  return (
    <TopBar>
      {view.rider.simulated && <b className="simulated">simulated</b>}
      <span className="who">
        <b style={{ fontSize: 18 }}>
          <Link to={`/riders/${view.rider.id}`}>{view.rider.name}</Link>
        </b>{" "}
        · {view.bike.name} · fit {view.session.number}
      </span>
      <Practised />
      <Effort key={JSON.stringify(view.session.effort)} />
      {!paper && (
        <>
          <Button onClick={() => shown.toggle("turning")} aria-pressed={turning}>
            {turning ? "Stop" : "Watch the stroke"} <Keycap>Space</Keycap>
          </Button>
          <Button
            onClick={() => shown.toggle("table")}
            aria-pressed={shown.is("table")}
            aria-label="The board as a table"
          >
            Table <Keycap>T</Keycap>
          </Button>
        </>
      )}
      <Button onClick={() => shown.open("keys")} aria-label="All keys">
        <Keycap>?</Keycap>
      </Button>
      <span className="state" role="status">
        {finished ? "finished" : kept}
      </span>
    </TopBar>
  );
}

/** The way to the end of a fit of practice. */
function Practised() {
  const practice = usePractice();
  if (!practice) return null;
  return (
    <Button asChild>
      <Link to={`/practice/${practice.rider}`}>{practice.ended ? "The truth" : "End it"}</Link>
    </Button>
  );
}
