import { Button } from "@chakra-ui/react";
import { useRef, useState } from "react";
import { answer, api, type ApiError, detail, raw } from "../api/client";
import type { LedgerRide, ReadBack } from "../api/types";
import { dropped, FileInput } from "../ui/FileInput";
import { TextField } from "../ui/TextField";
import { useKept } from "../ui/useKept";

interface ReadBackProps {
  id: string;
  write: (rides: LedgerRide[]) => Promise<void>;
}

/** What came back: a card's file, its text out of a message, or what a ride computer wrote. Looked at before it is written down. */
export function ReadBackSection({ id, write }: ReadBackProps) {
  const { state: typed, edit: set } = useKept(`wedge-read-back-${id}`, { text: "", circuit: "", day: "" });
  const [back, setBack] = useState<ReadBack>();
  const [refused, setRefused] = useState<ApiError>();
  const file = useRef<HTMLInputElement>(null);
  const read = (text: string) =>
    void answer<ReadBack>(
      api.POST("/api/sessions/{id}/ledger/read", {
        params: {
          path: { id },
          query: { circuit: typed.circuit, ...(typed.day !== "" && { day: typed.day }) },
        },
        ...raw(text, "text/plain"),
      }),
    ).then(
      (told) => {
        setBack(told);
        setRefused(undefined);
      },
      (error: unknown) => {
        setBack(undefined);
        setRefused(error as ApiError);
      },
    );
  const take = (chosen: File) => void chosen.text().then(read);
  const keep = (rides: LedgerRide[]) =>
    void write(rides).then(
      () => {
        setBack(undefined);
        set({ text: "" });
      },
      (error: unknown) => setRefused(error as ApiError),
    );
  return (
    <section className="between" aria-labelledby="back" {...dropped(take)}>
      <h2 id="back">Read back</h2>
      <p>
        The card’s file or its text out of a message; or a TCX, GPX or CSV of a ride computer, for minutes, power and
        cadence.
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          read(typed.text);
        }}
      >
        <div className="text-field" data-invalid={refused !== undefined || undefined}>
          <label htmlFor="pasted">Text of the card</label>
          <textarea
            id="pasted"
            rows={3}
            value={typed.text}
            aria-invalid={refused !== undefined}
            aria-describedby={refused && "pasted-error"}
            onChange={(event) => set({ text: event.target.value })}
          />
          {refused && (
            <span id="pasted-error" className="number-error" role="alert">
              {refused.errors[0] ? `${refused.errors[0].pointer}: ${refused.errors[0].detail}` : detail(refused)}
            </span>
          )}
        </div>
        <div className="target">
          <TextField label="Circuit of recorded rides" value={typed.circuit} onChange={(circuit) => set({ circuit })} />
          <div className="text-field">
            <label htmlFor="csv-day">Day, of a CSV without one</label>
            <input id="csv-day" type="date" value={typed.day} onChange={(event) => set({ day: event.target.value })} />
          </div>
        </div>
        <div className="buttons">
          <Button type="submit">Read the text</Button>
          <Button onClick={() => file.current?.click()}>Take in a file</Button>
        </div>
        <FileInput
          input={file}
          label="A card’s file, TCX, GPX or CSV"
          accept=".json,.tcx,.gpx,.csv,.txt,application/json,text/csv,application/xml"
          onFile={take}
        />
      </form>
      {back && (
        <div role="status">
          <p>
            {back.rides.length === 0
              ? `Nothing new: ${back.known} on record already.`
              : `${back.rides.length} to write down${back.known > 0 ? `, ${back.known} on record already` : ""}.`}
            {back.left_out > 0 && ` ${back.left_out} readings no rider can give were left out.`}
          </p>
          <ul>
            {back.lines.map((line, at) => (
              <li key={back.rides[at]?.id}>{line}</li>
            ))}
          </ul>
          {back.rides.length > 0 && (
            <div className="buttons">
              <Button variant="solid" onClick={() => keep(back.rides)}>
                Write them down
              </Button>
            </div>
          )}
        </div>
      )}
    </section>
  );
}
