import { Button } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, api, ApiError, newId, words } from "../api/client";
import { riderQuery } from "../api/queries";
import type { BikeView, NextAsked } from "../api/types";
import { TextField } from "../ui/TextField";

interface KeepAsProps {
  rider: string;
  /** As it is called unless another name is typed. */
  name: string;
  asked: NextAsked;
  /** Why it cannot be kept now. */
  not?: string;
}

/** Writes a carried position down as a bike that was not ridden yet. */
export function KeepAs({ rider, name, asked, not }: KeepAsProps) {
  const [typed, setTyped] = useState<string>();
  const [id] = useState(newId);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const keep = useMutation({
    mutationFn: () =>
      answer<BikeView>(
        api.POST("/api/riders/{id}/next/bikes", {
          params: { path: { id: rider } },
          body: { id, name: typed ?? name, of: asked } as never,
        }),
      ),
    onSuccess: async ({ bike }) => {
      await queries.invalidateQueries({ queryKey: riderQuery(rider).queryKey });
      await navigate(`/riders/${rider}?bike=${bike.id}`);
    },
  });
  const error = keep.error;
  const wrong = error instanceof ApiError ? (error.at("/name") ?? error.errors[0]?.detail ?? error.message) : undefined;
  return (
    <form
      className="kept-as"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <div className="fields">
        <TextField
          label="Keep it as a bike, called"
          value={typed ?? name}
          onChange={setTyped}
          error={wrong ?? (error ? words(error) : undefined)}
        />
        <Button type="submit" variant="solid" disabled={keep.isPending || not !== undefined}>
          Keep it
        </Button>
      </div>
      <p className="other">
        {not ?? "It stands among the rider’s bikes as computed, not ridden yet, with its sheet for the rider."}
      </p>
    </form>
  );
}
