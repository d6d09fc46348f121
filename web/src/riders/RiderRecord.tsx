import { Button, chakra, Flex } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, ApiError, ifMatch, words } from "../api/client";
import { riderQuery } from "../api/queries";
import type { RiderGone, RiderView } from "../api/types";
import { TextField } from "../ui/TextField";

type Correction = { born?: string | null; archived?: boolean };

/** The rider's record as a whole: day of birth, a file of it, put away, deleted for good. */
export function RiderRecord({ view }: { view: RiderView }) {
  const { rider, version } = view;
  const [deleting, setDeleting] = useState(false);
  const queries = useQueryClient();
  const stale = (error: unknown) => {
    if (error instanceof ApiError && error.status === 412) {
      void queries.invalidateQueries({ queryKey: riderQuery(rider.id).queryKey });
    }
  };
  const params = { path: { id: rider.id }, header: ifMatch(version) };
  const correct = useMutation<RiderView, Error, Correction>({
    mutationFn: (body) => answer<RiderView>(api.PATCH("/api/riders/{id}", { params, body })),
    onSuccess: (fresh) => {
      queries.setQueryData(riderQuery(rider.id).queryKey, fresh);
      void queries.invalidateQueries({ queryKey: ["riders"] });
    },
    onError: stale,
  });
  const away = rider.archived_at != null;
  return (
    <chakra.section marginTop="34px" aria-labelledby="record">
      <chakra.h2 id="record" fontSize="20px">
        The record
      </chakra.h2>
      <Flex gap="20px" wrap="wrap" align="end" marginTop="8px">
        <div className="text-field">
          <label htmlFor="born">Born on</label>
          <input
            id="born"
            type="date"
            defaultValue={rider.born ?? ""}
            onBlur={(event) => {
              const born = event.target.value === "" ? null : event.target.value;
              if (born !== (rider.born ?? null)) correct.mutate({ born });
            }}
          />
        </div>
        <Button asChild whiteSpace="normal" height="auto" maxWidth="100%" overflowWrap="anywhere">
          <a href={`/api/riders/${rider.id}/file`} download>
            Save everything about {rider.name} as a file
          </a>
        </Button>
        {rider.pictured && (
          <Button asChild>
            <a href={`/api/riders/${rider.id}/file?pictures=true`} download>
              The same with kept pictures
            </a>
          </Button>
        )}
        <Button disabled={correct.isPending} onClick={() => correct.mutate({ archived: !away })}>
          {away ? "Bring back to the room" : "Put away"}
        </Button>
        {!deleting && <Button onClick={() => setDeleting(true)}>Delete for good…</Button>}
      </Flex>
      {correct.error && (
        <p className="number-error" role="alert">
          {correct.error instanceof ApiError
            ? (correct.error.at("/born") ?? words(correct.error))
            : words(correct.error)}
        </p>
      )}
      {deleting && <Deleting view={view} onLeave={() => setDeleting(false)} onStale={stale} />}
    </chakra.section>
  );
}

interface DeletingProps {
  view: RiderView;
  onLeave: () => void;
  onStale: (error: unknown) => void;
}

/** Deleting takes the name typed out: nothing of the rider can be had back. */
function Deleting({ view, onLeave, onStale }: DeletingProps) {
  const { rider, version } = view;
  const [typed, setTyped] = useState("");
  const [wrong, setWrong] = useState<string>();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const remove = useMutation({
    mutationFn: () =>
      answer<RiderGone>(
        api.DELETE("/api/riders/{id}", { params: { path: { id: rider.id }, header: ifMatch(version) } }),
      ),
    onSuccess: async ({ words: said }) => {
      for (const bike of rider.bikes) {
        for (const session of bike.sessions) localStorage.removeItem(`wedge-draft-${session.id}`);
      }
      queries.clear();
      await navigate("/", { state: { said } });
    },
    onError: onStale,
  });
  return (
    <form
      className="rename"
      onSubmit={(event) => {
        event.preventDefault();
        if (typed.trim() === rider.name.trim()) remove.mutate();
        else setWrong(`Type “${rider.name}” exactly to delete`);
      }}
    >
      <p>
        Every bike, fit, reading and trial of {rider.name} goes from this machine for good. Files saved and backups made
        before keep theirs.
      </p>
      <TextField
        label="Type the name to delete"
        value={typed}
        onChange={(text) => {
          setTyped(text);
          setWrong(undefined);
        }}
        error={wrong ?? (remove.error ? words(remove.error) : undefined)}
      />
      <Button type="submit" variant="solid" disabled={remove.isPending}>
        Delete for good
      </Button>
      <Button onClick={onLeave}>Leave it</Button>
    </form>
  );
}
