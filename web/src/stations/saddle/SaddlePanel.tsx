import { Button } from "@chakra-ui/react";
import type { FindingView, SaddleView } from "../../api/types";
import { AskedLimits } from "../../cards/AskedLimits";
import { Findings } from "../../cards/Findings";
import { ToPage } from "../../cards/LongPage";
import { SchoolScale } from "../../cards/SchoolScale";
import { Starts } from "../../cards/Starts";
import { proposed, useMoves } from "../../cards/useMoves";
import { useFit } from "../../fit/useFit";
import { sentence } from "../../ui/format";
import { Keycap } from "../../ui/Keycap";
import { Grade } from "../kinds/Grade";
import { useSaddle } from "./useSaddle";

/** The protocols of the station, its schools on one scale, what was found, and the gate before setback. */
export function SaddlePanel() {
  const { station, still, tried, calibrate, shown, view } = useFit();
  const saddle = useSaddle().data;
  const atSetback = station.station === "setback";
  useMoves([proposed(atSetback ? saddle?.setback : saddle?.height)]);
  if (!saddle) return null;
  const quantity = atSetback ? "setback_mm" : "saddle_height_mm";
  const scale = atSetback ? saddle.setback : saddle.height;
  const feels = saddle.feels.find((f) => f.quantity === quantity);
  const here = ({ finding }: FindingView) =>
    saddle.starts.some((start) => start.station === station.station && start.protocol === finding.protocol);
  return (
    <>
      {!still && !view.run && <Starts starts={saddle.starts.filter((start) => start.station === station.station)} />}
      <div className="buttons starts">
        <Button onClick={() => shown.toggle("map")} aria-pressed={shown.is("map")}>
          {shown.is("map") ? "Close the map" : "Map"} <Keycap>D</Keycap>
        </Button>
        <ToPage words="Causes, post, saddle" />
      </div>
      <AskedLimits asked={saddle.asked} />
      {atSetback && <Gate saddle={saddle} />}
      {scale && (
        <SchoolScale
          title={atSetback ? "Setback" : "Saddle height"}
          scale={scale}
          wanted={tried({ key: quantity, quantity })}
        />
      )}
      {atSetback &&
        saddle.setback_advice.map((words) => (
          <p key={words} className="number-hint">
            {words}.
          </p>
        ))}
      {atSetback && <Grade />}
      {feels && <p className="number-hint">{sentence(feels.words)}</p>}
      {atSetback && saddle.line_to_fit && (
        <div className="line-to-fit">
          <p>{sentence(saddle.line_to_fit)}</p>
          {!still && !view.run && (
            <Button size="sm" marginTop="6px" onClick={() => calibrate(true)}>
              Fit the model to it
            </Button>
          )}
        </div>
      )}
      <Findings title="Found in this fit" findings={saddle.findings.filter(here)} />
      <Findings title="Found in other fits of this bike" dated findings={saddle.other_fits.filter(here)} />
    </>
  );
}

const RIGHT = { yes: "✓", no: "▸ first", unknown: "? not known" };

/** What must be right before setback is judged: what is not is told, the rest is named. */
function Gate({ saddle }: { saddle: SaddleView }) {
  const open = saddle.gate.filter((item) => item.right !== "yes");
  const right = saddle.gate.filter((item) => item.right === "yes").map((item) => item.label.toLowerCase());
  return (
    <section className="gate" aria-label="Before setback">
      <h3>
        {open.length === 0
          ? "Before setback: all settled"
          : `Before setback: ${open.length} of ${saddle.gate.length} not settled`}
      </h3>
      <ul>
        {open.map((item) => (
          <li key={item.label} className={item.right}>
            <b>{RIGHT[item.right]}</b> {item.label}: {item.words}
          </li>
        ))}
        {right.length > 0 && <li>✓ right: {right.join(", ")}</li>}
      </ul>
    </section>
  );
}
