import { Button } from "@chakra-ui/react";
import { Keycap } from "../ui/Keycap";

/** What will not open, and what to do about it. */
export const NOT_OPEN = {
  clip: "This clip’s format does not open here. Save it as H.264 on the phone.",
  still: "This picture does not open here. Save it as JPEG or PNG: HEIC and PDF do not open.",
};

interface EmptyProps {
  name: string | undefined;
  lead: string;
  action: string;
  onChoose: () => void;
}

/** Nothing is on the bench: the first step. */
export function Empty({ name, lead, action, onChoose }: EmptyProps) {
  return (
    <div className="empty">
      <p>{lead}</p>
      <Button variant="solid" onClick={onChoose}>
        {action}
      </Button>
      {name && (
        <p>
          The points of <b>{name}</b> are kept in this browser: choose it again to go on with them.
        </p>
      )}
    </div>
  );
}

interface NextProps {
  busy: string | undefined;
  onStop: () => void;
  /** The point that is picked, and the one asked for next. */
  placing: string | undefined;
  next: string | undefined;
  /** What to do once every point stands. */
  done: string;
  canFind: boolean;
  onFind: () => void;
  clip: { times: number[]; frame: number; followed: unknown; follow: () => Promise<void> } | undefined;
  canFollow: boolean;
  onChoose: () => void;
}

/** The one thing to do now, in large type. */
export function Next(props: NextProps) {
  const { busy, onStop, placing, next, done, canFind, onFind, clip, canFollow, onChoose } = props;
  const following = clip && clip.followed === undefined ? "Find the dots, then follow them" : done;
  const words = placing ? `Place: ${placing}` : next ? `Click: ${next}` : following;
  return (
    <section className="card next" aria-live="polite">
      <h2 className="visually-hidden">What to do next</h2>
      {busy ? (
        <>
          <p className="large" role="status">
            {busy}
          </p>
          <Button onClick={onStop}>Stop</Button>
        </>
      ) : (
        <>
          <p className="large">{words}</p>
          <div className="buttons">
            <Button onClick={onFind} disabled={!canFind}>
              Find the dots <Keycap>D</Keycap>
            </Button>
            {clip && (
              <Button
                variant="solid"
                disabled={!canFollow || clip.times.length === 0}
                onClick={() => void clip.follow()}
              >
                Follow through the clip
              </Button>
            )}
            <Button onClick={onChoose}>Another file</Button>
          </div>
        </>
      )}
      {clip && clip.times.length > 0 && (
        <p className="soft">
          Frame {clip.frame + 1} of {clip.times.length} <Keycap>,</Keycap> <Keycap>.</Keycap>
        </p>
      )}
    </section>
  );
}
