import { Button } from "@chakra-ui/react";
import { Link } from "react-router";
import type { SeenFrom, SessionView } from "../api/types";
import { Keycap } from "../ui/Keycap";
import { NumberField } from "../ui/NumberField";
import { FROM, limbsFrom } from "./across";
import { Beside, Slow } from "./Asides";
import { AcrossResults, Said } from "./Results";
import { Room } from "./Room";
import { useAcross } from "./useAcross";

/** A clip from ahead or behind on the bench. */
export function AcrossBench({ view, from }: { view: SessionView; from: SeenFrom }) {
  const bench = useAcross(view, from);
  const { draft, edit, found, clip, asked } = bench;
  const { label, lead } = FROM[from];
  const within = label.toLowerCase();
  return (
    <Room
      view={view}
      bench={bench}
      file={{ label: `A clip, ${within}`, accept: "video/*,.mov", lead, action: "Choose a clip" }}
      limbs={limbsFrom(from)}
      alt={`The rider, ${within}`}
      noStill="From here a clip is read: knees and hips are told over whole strokes."
      numbered={asked.map(({ key }) => key).filter((key) => key.includes("."))}
      done="Read: keep it as a take"
      canFind={bench.next === undefined}
      canFollow={found !== undefined}
      aside={
        <Beside
          draft={draft}
          onEdit={edit}
          field={
            <NumberField
              label="Between the pedals’ outer ends"
              spec={{ unit: "mm", step: 5, fine_step: 1, min: 200, max: 600 }}
              value={draft.pedals}
              onCommit={(pedals) => {
                edit({ pedals });
                return undefined;
              }}
            />
          }
        >
          <Slow draft={draft} onEdit={edit} />
        </Beside>
      }
      after={<Link to={`/sessions/${bench.session}/takes`}>Takes</Link>}
      keep={
        bench.open &&
        clip.followed && (
          <Button variant="solid" className="keep" onClick={() => void bench.keep()}>
            Keep as a take <Keycap>Enter</Keycap>
          </Button>
        )
      }
    >
      {found && !clip.followed && <Said said={found.messages} />}
      {clip.followed && <AcrossResults read={clip.followed.read} label={label} />}
    </Room>
  );
}
