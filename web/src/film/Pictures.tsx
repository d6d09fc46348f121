import { Button } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError, words } from "../api/client";
import { takesQuery } from "../api/queries";
import type { Forgotten, SaidBy, SessionView } from "../api/types";
import { Tick } from "../ui/Tick";
import { deletePicture, sayOfPictures } from "./sends";

interface PicturesProps {
  view: SessionView;
  /** Whether something is on the bench. */
  on: boolean;
  pictured: boolean;
  onPictured: (on: boolean) => void;
}

/** Whether a frame may be kept: asked of the rider, or of a minor's guardian, and dated; those that are kept. */
export function Pictures({ view, on, pictured, onPictured }: PicturesProps) {
  const session = view.session.id;
  const queries = useQueryClient();
  const { data } = useQuery(takesQuery(session));
  const [asking, setAsking] = useState(false);
  const [gone, setGone] = useState<string>();
  const [wrong, setWrong] = useState<string>();
  if (!data) return null;
  const { pictures } = data;
  const kept = data.takes.filter((line) => line.pictured);
  const settle = async (work: Promise<Forgotten | null>) => {
    setWrong(undefined);
    try {
      const forgotten = await work;
      setGone(forgotten ? fate(forgotten) : undefined);
      setAsking(false);
      await queries.invalidateQueries({ queryKey: ["takes", session] });
    } catch (error) {
      setWrong(error instanceof ApiError ? (error.errors[0]?.detail ?? error.message) : words(error));
    }
  };
  return (
    <section className="card pictures" aria-labelledby="pictures">
      <h2 id="pictures">Pictures</h2>
      <p className="soft">
        Pictures stay in this browser’s memory; kept are points and figures. {pictures.words}
        {pictures.may && ` Kept ones are deleted after ${pictures.days} days.`}
      </p>
      {pictures.may ? (
        <>
          {on && <Tick label="Keep this frame as well" on={pictured} readOnly={false} onTick={onPictured} />}
          <Button
            onClick={() => {
              onPictured(false);
              void settle(sayOfPictures(view.rider.id, false, "rider", ""));
            }}
          >
            Taken back: delete them all
          </Button>
        </>
      ) : (
        pictures.days > 0 && !asking && <Button onClick={() => setAsking(true)}>May a frame be kept? Ask</Button>
      )}
      {asking && !pictures.may && (
        <Asking
          isMinor={pictures.is_minor}
          name={view.rider.name}
          onSaid={(yes, by, name) => void settle(sayOfPictures(view.rider.id, yes, by, name))}
        />
      )}
      {kept.length > 0 && (
        <ul className="kept">
          {kept.map(({ take }) => (
            <li key={take.id}>
              {take.name}{" "}
              <Button
                size="sm"
                aria-label={`Delete the picture of ${take.name}`}
                onClick={() => void settle(deletePicture(take.id))}
              >
                Delete
              </Button>
            </li>
          ))}
        </ul>
      )}
      {gone && <p role="status">{gone}</p>}
      {wrong && (
        <p className="number-error" role="alert">
          {wrong}
        </p>
      )}
    </section>
  );
}

/** What became of pictures that were deleted, with where they may still be. */
const fate = ({ in_log, copies }: Forgotten) =>
  [
    "Deleted.",
    in_log ? "Something may remain in the log until Wedge closes." : "",
    copies > 0 ? `${copies} copies of earlier days may still hold it, until they are replaced.` : "",
  ]
    .filter(Boolean)
    .join(" ");

interface AskingProps {
  isMinor: boolean;
  name: string;
  onSaid: (yes: boolean, by: SaidBy, name: string) => void;
}

/** The question, and who answers it. */
function Asking({ isMinor, name, onSaid }: AskingProps) {
  const [by, setBy] = useState<SaidBy>(isMinor ? "guardian" : "rider");
  const [guardian, setGuardian] = useState("");
  return (
    <div className="asking">
      <p>
        Ask: may a picture of {isMinor ? "your child" : "you"} be kept here, beside the fit, to lay the next one over
        it? It goes into a file only when you ask for that.
      </p>
      {!isMinor && (
        <Tick
          label="A parent or guardian answers for the rider"
          on={by === "guardian"}
          readOnly={false}
          onTick={(on) => setBy(on ? "guardian" : "rider")}
        />
      )}
      {by === "guardian" && (
        <label className="guardian">
          Name of the parent or guardian of {name}
          <input value={guardian} maxLength={120} onChange={(event) => setGuardian(event.target.value)} />
        </label>
      )}
      <div className="buttons">
        <Button variant="solid" onClick={() => onSaid(true, by, guardian)}>
          Yes
        </Button>
        <Button onClick={() => onSaid(false, by, guardian)}>No</Button>
      </div>
    </div>
  );
}
