import { Button } from "@chakra-ui/react";
import type { Catalogue, SessionView } from "../api/types";
import { Keycap } from "../ui/Keycap";
import { Asides } from "./Asides";
import { Overlay } from "./Overlay";
import { JOINTS, LIMBS } from "./points";
import { ClipResults, StillResults } from "./Results";
import { Room } from "./Room";
import { useBench } from "./useBench";

const NUMBERED = [...JOINTS, "bb"];
const FILE = {
  label: "A photo or a clip from the side",
  accept: "image/jpeg,image/png,image/webp,video/*,.mov",
  lead: "A photo or a clip of the rider from the side, square to the bike, both wheels in view. Dots on the joints are found by themselves; without dots the joints are clicked.",
  action: "Choose a photo or a clip",
};

/** One picture or clip from the side on the bench. */
export function Bench({ view, catalogue }: { view: SessionView; catalogue: Catalogue }) {
  const bench = useBench(view, catalogue);
  const { draft, source, shot, found, read, clip } = bench;
  return (
    <Room
      view={view}
      bench={bench}
      file={FILE}
      limbs={LIMBS}
      alt="The rider from the side"
      numbered={NUMBERED}
      done="Every point stands: drag or nudge, then keep"
      canFind={shot !== undefined && draft.points.bb !== undefined && (shot.marks ?? []).length > 0}
      canFollow={found?.learnt != null}
      aside={<Asides draft={draft} onEdit={bench.edit} isClip={source?.isClip ?? false} />}
      keep={
        source &&
        bench.open &&
        (clip.followed ?? read) && (
          <Button variant="solid" className="keep" onClick={() => void bench.keep()}>
            Keep as seen <Keycap>Enter</Keycap>
          </Button>
        )
      }
      below={
        <Overlay
          session={bench.session}
          now={clip.followed ? undefined : read}
          picture={source && !source.isClip && shot ? { url: source.url, shot } : undefined}
        />
      }
    >
      {bench.problem && <p className="number-error">{bench.problem}</p>}
      {clip.followed ? (
        <ClipResults clip={clip.followed} side={bench.side} />
      ) : (
        read && <StillResults read={read} found={found} side={bench.side} />
      )}
    </Room>
  );
}
