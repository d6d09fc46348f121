import { chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, api, words } from "../api/client";
import { catalogueQuery, studioQuery } from "../api/queries";
import type { Catalogue, Convention, Conventions, Quantity, StudioView } from "../api/types";
import { Choice } from "../ui/Choice";
import { number } from "../ui/format";
import { Page } from "../ui/Page";
import { Problem } from "../ui/Problem";
import { type FullHouse, HouseRules } from "./HouseRules";
import { asCsv, CsvFile } from "./CsvFile";
import { LanSection } from "./LanSection";
import { PadsAndBodies } from "./PadsAndBodies";
import { PartsBox } from "./PartsBox";
import { RecordSection } from "./RecordSection";
import { RotorTable } from "./RotorTable";
import { useHouse } from "./useHouse";
import { specOf } from "../fit/fields";

const PICKS: [keyof Conventions & ("saddle_height" | "setback" | "drop" | "bb_to_hand"), Quantity][] = [
  ["saddle_height", "saddle_height_mm"],
  ["setback", "setback_mm"],
  ["drop", "drop_mm"],
  ["bb_to_hand", "bb_to_hand_mm"],
];

/** The studio: conventions and walk chosen once, and the frame library. */
export default function StudioPage() {
  const studio = useQuery(studioQuery);
  const catalogue = useQuery(catalogueQuery);
  return (
    <Page title="Studio">
      <Flex gap="24px" fontSize="16px" color="tide" textDecoration="underline">
        <Link to="/">Back to the room</Link>
        <Link to="/rules">Where every number comes from</Link>
        <Link to="/judging">How the next move is judged</Link>
      </Flex>
      <chakra.h1 fontSize="29px">Studio</chakra.h1>
      {studio.error && <p className="number-error">{words(studio.error)}</p>}
      {studio.data && catalogue.data && <Loaded studio={studio.data} catalogue={catalogue.data} />}
    </Page>
  );
}

function Loaded({ studio, catalogue }: { studio: StudioView; catalogue: Catalogue }) {
  const { house, problem, said, put, take, takeBeside } = useHouse(studio);
  const { conventions, walk } = house;
  const save = (change: Partial<FullHouse>) => void take(put(change), "Saved");
  const move = (index: number, by: number) => {
    const next = [...walk];
    const [moved] = next.splice(index, 1);
    if (moved === undefined) return;
    next.splice(index + by, 0, moved);
    save({ walk: next });
  };
  const label = (quantity: Quantity) => specOf(catalogue, quantity)?.label ?? quantity;

  return (
    <>
      <p role="status" className="number-hint">
        {said}
      </p>
      <Problem words={problem} />
      <HouseRules house={house} catalogue={catalogue} put={put} take={take} />
      <PadsAndBodies house={house} put={put} take={take} takeBeside={takeBeside} />
      <RotorTable house={house} put={put} take={take} takeBeside={takeBeside} />
      <Flex gap="40px" wrap="wrap" align="start" marginTop="28px">
        <chakra.section flex="1" minWidth="320px" aria-labelledby="conventions">
          <h2 id="conventions">How lengths are taped</h2>
          <p className="number-hint">For the first fit of a new bike; a fit may choose otherwise.</p>
          {PICKS.map(([pick, quantity]) => (
            <Choice<Convention>
              key={pick}
              label={label(quantity)}
              options={catalogue.conventions
                .filter((c) => c.quantity === quantity)
                .map((c) => ({ key: c.convention, label: c.words }))}
              value={conventions[pick]}
              onPick={(convention) => convention && save({ conventions: { ...conventions, [pick]: convention } })}
            />
          ))}
          <Choice
            label="The sit reference is"
            options={catalogue.sit_references
              .filter((r) => r.reference !== "mark")
              .map((r) => ({ key: r.reference, label: r.words }))}
            value={conventions.sit_reference}
            onPick={(reference) => reference && save({ conventions: { ...conventions, sit_reference: reference } })}
          />
        </chakra.section>
        <chakra.section flex="1" minWidth="320px" aria-labelledby="walk">
          <h2 id="walk">The walk round the bike</h2>
          <p className="number-hint">The order Tab takes on the board.</p>
          <chakra.ol marginTop="6px" listStyleType="none">
            {walk.map((quantity, index) => (
              <chakra.li key={quantity} display="flex" alignItems="center" gap="8px" fontSize="17px">
                <chakra.span width="24px" textAlign="right" color="soft">
                  {index + 1}
                </chakra.span>
                <chakra.span flex="1">{label(quantity)}</chakra.span>
                <button
                  type="button"
                  className="more"
                  aria-label={`${label(quantity)} earlier`}
                  disabled={index === 0}
                  onClick={() => move(index, -1)}
                >
                  earlier
                </button>
                <button
                  type="button"
                  className="more"
                  aria-label={`${label(quantity)} later`}
                  disabled={index === walk.length - 1}
                  onClick={() => move(index, 1)}
                >
                  later
                </button>
              </chakra.li>
            ))}
          </chakra.ol>
        </chakra.section>
      </Flex>
      <PartsBox house={house} catalogue={catalogue} put={put} take={take} />
      <Frames studio={studio} onTake={take} catalogue={catalogue} />
      <RecordSection
        house={house}
        onKeep={(copies) => save({ copies })}
        onPictures={(picture_days) => save({ picture_days })}
      />
      <LanSection />
    </>
  );
}

interface FramesProps {
  studio: StudioView;
  catalogue: Catalogue;
  onTake: (request: Promise<StudioView>, done: string) => Promise<void>;
}

const COLUMNS: Quantity[] = [
  "frame_reach_mm",
  "frame_stack_mm",
  "head_angle_deg",
  "seat_angle_deg",
  "head_tube_mm",
  "seat_tube_mm",
];

function Frames({ studio, catalogue, onTake }: FramesProps) {
  const kind = (key: string) => catalogue.kinds.find((k) => k.kind === key)?.word ?? key;
  const spec = (quantity: Quantity) => specOf(catalogue, quantity);
  return (
    <chakra.section marginTop="28px" aria-labelledby="frames">
      <CsvFile
        id="frames"
        title="Frame library"
        href="/api/frames/file"
        label="A CSV of frames"
        onText={(text, name) =>
          void onTake(answer<StudioView>(api.POST("/api/frames/import", asCsv(text))), `${name} is in the library`)
        }
      />
      {studio.frames.length === 0 ? (
        <p className="number-hint">No frame yet. Save the empty CSV for its columns, fill it, take it in.</p>
      ) : (
        <table className="rows">
          <thead>
            <tr>
              <th scope="col" style={{ textAlign: "left" }}>
                Frame
              </th>
              <th scope="col">kind</th>
              {COLUMNS.map((quantity) => (
                <th key={quantity} scope="col">
                  {spec(quantity)?.label.toLowerCase()}
                </th>
              ))}
              <td />
            </tr>
          </thead>
          <tbody>
            {studio.frames.map((frame) => (
              <tr key={frame.id}>
                <th scope="row">{frame.name}</th>
                <td>{kind(frame.kind)}</td>
                {COLUMNS.map((quantity) => (
                  <td key={quantity}>
                    {number((frame.frame as Partial<Record<Quantity, number>>)[quantity] ?? 0, spec(quantity)?.unit)}
                    {spec(quantity)?.unit === "deg" ? "°" : ""}
                  </td>
                ))}
                <td>
                  <button
                    type="button"
                    className="more"
                    aria-label={`Take ${frame.name} out`}
                    onClick={() =>
                      void onTake(
                        answer<StudioView>(api.DELETE("/api/frames/{id}", { params: { path: { id: frame.id } } })),
                        `${frame.name} is out of the library`,
                      )
                    }
                  >
                    take out
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="number-hint">Lengths in mm. Bikes written down with a frame keep theirs.</p>
    </chakra.section>
  );
}
