import { Box, Button, chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, ApiError, raw, words } from "../api/client";
import type { Imported } from "../api/types";

/** The invented riders, to look around with: offered while nobody is on record. */
export function TakeDemo() {
  const queries = useQueryClient();
  const take = useMutation({
    mutationFn: () => answer<Imported>(api.POST("/api/demo")),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["riders"] }),
  });
  return (
    <>
      <Button onClick={() => take.mutate()} disabled={take.isPending}>
        {take.isPending ? "Taking them in…" : "Look around with invented riders"}
      </Button>
      {take.error && (
        <p className="number-error" role="alert">
          {words(take.error)}
        </p>
      )}
    </>
  );
}

/** More names than this are not listed. */
const MANY = 20;

/** Riders from a file, one or a studio of them; and the whole studio as one. */
export function ImportRiders() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [conflict, setConflict] = useState<File>();
  const take = useMutation({
    mutationFn: ({ file, as_copy }: { file: File; as_copy: boolean }) =>
      answer<Imported>(
        api.POST("/api/import", {
          params: { query: { as_copy } },
          ...raw(file, "application/json"),
        }),
      ),
    onSuccess: async ({ riders }) => {
      setConflict(undefined);
      await queries.invalidateQueries({ queryKey: ["riders"] });
      const [only, ...others] = riders;
      if (only && others.length === 0) await navigate(`/riders/${only.id}`);
    },
    onError: (error, { file }) => setConflict(error instanceof ApiError && error.status === 409 ? file : undefined),
  });
  return (
    <Box as="section" aria-label="Files" fontSize="15px">
      <label htmlFor="import-rider">Take in riders from a file</label>
      <chakra.input
        id="import-rider"
        type="file"
        accept="application/json,.json"
        display="block"
        marginTop="4px"
        maxWidth="100%"
        onChange={(event) => {
          const file = event.currentTarget.files?.[0];
          if (file) take.mutate({ file, as_copy: false });
          // The same file can be chosen again once it is mended.
          event.currentTarget.value = "";
        }}
      />
      {take.isPending && <p role="status">Taking it in…</p>}
      {take.data && take.data.riders.length > 1 && (
        <p role="status">
          {take.data.riders.length > MANY
            ? `Taken in: ${String(take.data.riders.length)} riders.`
            : `Taken in: ${take.data.riders.map((rider) => rider.name).join(", ")}.`}
        </p>
      )}
      {take.data && take.data.left.length > 0 && (
        <p role="status">
          Not in, since their records did not read where the file was written: {take.data.left.join(", ")}.
        </p>
      )}
      {take.error && (
        <p className="number-error" role="alert">
          {words(take.error)}
        </p>
      )}
      {conflict && (
        <Button marginTop="8px" onClick={() => take.mutate({ file: conflict, as_copy: true })}>
          Take it in as a copy
        </Button>
      )}
      <chakra.p marginTop="14px">
        <chakra.a href="/api/studio/file" download color="tide" textDecoration="underline">
          Save the whole studio as a file
        </chakra.a>
      </chakra.p>
    </Box>
  );
}
