import { Button, chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, ApiError, words } from "../api/client";
import { Page } from "../ui/Page";
import { TextField } from "../ui/TextField";

/** What a device of the room's network meets first: the passphrase. */
export default function EnterPage() {
  const [typed, setTyped] = useState("");
  const queries = useQueryClient();
  const enter = useMutation({
    mutationFn: () => answer<unknown>(api.POST("/api/lan/enter", { body: { passphrase: typed } }) as never),
    onSuccess: () => queries.resetQueries(),
  });
  const wrong = enter.error instanceof ApiError ? enter.error.at("/passphrase") : undefined;
  return (
    <Page title="Come in">
      <chakra.h1 fontSize="29px">Come in</chakra.h1>
      <form
        className="rename"
        onSubmit={(event) => {
          event.preventDefault();
          enter.mutate();
        }}
      >
        <TextField
          label="Passphrase of this studio"
          hidden
          value={typed}
          onChange={(text) => {
            setTyped(text);
            enter.reset();
          }}
          hint="Whoever runs Wedge at the bench knows it."
          error={wrong ?? (enter.error ? words(enter.error) : undefined)}
        />
        <Button type="submit" variant="solid" disabled={enter.isPending || typed === ""}>
          Come in
        </Button>
      </form>
    </Page>
  );
}
