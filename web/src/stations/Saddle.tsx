import "./saddle.css";
import { Button } from "@chakra-ui/react";
import type { Catalogue, Change, FindingView, RunPlan, SaddleView } from "../api/types";
import { planFor, protocolLabel, PROTOCOLS } from "../protocol/plans";
import { day } from "../ui/format";
import { Keycap } from "../ui/Keycap";
import { SchoolScale } from "./SchoolScale";

interface SaddlePanelProps {
  saddle: SaddleView;
  station: "saddle_height" | "setback";
  catalogue: Catalogue;
  wanted: number | undefined;
  readOnly: boolean;
  mapOpen: boolean;
  onTry: (changes: Change[]) => void;
  onBegin: (plan: RunPlan) => void;
  onFit: () => void;
  onMap: () => void;
  onOpen: () => void;
}

/** The protocols of the station, its schools on one scale, what was found, and the gate before setback. */
export function SaddlePanel(props: SaddlePanelProps) {
  const { saddle, station, catalogue, wanted, readOnly, onTry, onBegin } = props;
  const scale = station === "setback" ? saddle.setback : saddle.height;
  const feels = saddle.feels.find((f) => f.quantity === (station === "setback" ? "setback_mm" : "saddle_height_mm"));
  const here = (f: FindingView) => PROTOCOLS[station].includes(f.finding.protocol);
  return (
    <>
      {!readOnly && (
        <div className="buttons starts" role="group" aria-label="Protocols">
          {PROTOCOLS[station].map((protocol, index) => (
            <Button
              key={protocol}
              size="sm"
              onClick={() => {
                const plan = planFor(saddle, protocol, station);
                if (plan) onBegin(plan);
              }}
            >
              {protocolLabel(catalogue, protocol)} <Keycap>{String(index + 1)}</Keycap>
            </Button>
          ))}
        </div>
      )}
      <div className="buttons starts">
        <Button onClick={props.onMap} aria-pressed={props.mapOpen}>
          {props.mapOpen ? "Close the map" : "Map"} <Keycap>D</Keycap>
        </Button>
        <Button onClick={props.onOpen}>
          Causes, post, saddle <Keycap>C</Keycap>
        </Button>
      </div>
      {station === "setback" && <Gate saddle={saddle} />}
      {scale && (
        <SchoolScale
          title={station === "setback" ? "Setback" : "Saddle height"}
          scale={scale}
          wanted={wanted}
          readOnly={readOnly}
          onTry={onTry}
        />
      )}
      {station === "setback" &&
        saddle.setback_advice.map((words) => (
          <p key={words} className="number-hint">
            {words}.
          </p>
        ))}
      {feels && <p className="number-hint">{feels.words}.</p>}
      {station === "setback" && saddle.line_to_fit && (
        <div className="line-to-fit">
          <p>{saddle.line_to_fit}.</p>
          {!readOnly && (
            <Button size="sm" marginTop="6px" onClick={props.onFit}>
              Fit the model to it
            </Button>
          )}
        </div>
      )}
      <Findings title="Found in this fit" catalogue={catalogue} findings={saddle.findings.filter(here)} />
      <Findings
        title="Found in other fits of this bike"
        dated
        catalogue={catalogue}
        findings={saddle.other_fits.filter(here)}
      />
    </>
  );
}

interface FindingsProps {
  title: string;
  dated?: boolean;
  catalogue: Catalogue;
  findings: FindingView[];
}

function Findings({ title, dated, catalogue, findings }: FindingsProps) {
  if (findings.length === 0) return null;
  return (
    <section className="findings" aria-label={title}>
      <h3>{title}</h3>
      <ul>
        {findings.map(({ run, day: of, finding }) => (
          <li key={run}>
            <b>
              {protocolLabel(catalogue, finding.protocol)}
              {dated && `, ${day(of)}`}:
            </b>{" "}
            {finding.words.join(" ") || finding.title}
          </li>
        ))}
      </ul>
    </section>
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
