import { Button } from "@chakra-ui/react";
import { useState } from "react";
import { words } from "../api/client";
import type { Spoken } from "../api/types";
import { Keycap } from "../ui/Keycap";
import { useKeys } from "../ui/keys";
import { Problem } from "../ui/Problem";
import { sayOfRun } from "./sends";

/** A rider who is not there: what he says and shows on what is ridden now. */
export function Hear({ run }: { run: string }) {
  const [said, setSaid] = useState<Spoken>();
  const [wrong, setWrong] = useState<string>();
  const ask = () =>
    void sayOfRun(run).then(
      (spoken) => {
        setSaid(spoken);
        setWrong(undefined);
      },
      (error: unknown) => setWrong(words(error)),
    );
  useKeys({ a: ask });
  return (
    <div className="hear">
      <Button onClick={ask}>
        Ask the simulated rider <Keycap>A</Keycap>
      </Button>
      {said && (
        <p role="status">
          “{said.words}”{" "}
          {said.signs.length > 0 && <>Seen: {said.signs.map((sign) => sign.words.toLowerCase()).join("; ")}.</>}
        </p>
      )}
      <Problem words={wrong} />
    </div>
  );
}
