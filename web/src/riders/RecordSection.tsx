import { Button, chakra, Flex } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answer, api, raw, words } from "../api/client";
import { FileInput } from "../ui/FileInput";
import { recordQuery, unreadableQuery } from "../api/queries";
import type { Restored } from "../api/types";
import { Choice } from "../ui/Choice";
import { Problem } from "../ui/Problem";
import type { FullHouse } from "./HouseRules";

/** What is put in the record's place: one of its own copies by name, or a file. */
type Source = { copy: string; words: string } | { file: File };

const nameOf = (source: Source) => ("file" in source ? source.file.name : `the copy of ${source.words}`);

/** The answer that is asked for is under the hand. */
const focused = (button: HTMLButtonElement | null) => button?.focus();

const KEPT = ["0", "3", "7", "14", "30"] as const;
type Kept = (typeof KEPT)[number];

const DAYS = ["0", "30", "90", "180", "365"] as const;
type Days = (typeof DAYS)[number];

interface RecordSectionProps {
  house: FullHouse;
  onKeep: (copies: number) => void;
  onPictures: (days: number) => void;
}

/** The record as a whole: where it is, its copies, what of it does not read, and putting a copy back. */
export function RecordSection({ house, onKeep, onPictures }: RecordSectionProps) {
  const record = useQuery(recordQuery);
  const queries = useQueryClient();
  const file = useRef<HTMLInputElement>(null);
  const [asked, setAsked] = useState<Source>();
  const restore = useMutation({
    mutationFn: (source: Source) =>
      answer<Restored>(
        api.POST("/api/record/restore", {
          params: { query: "copy" in source ? { copy: source.copy } : {} },
          ...raw("file" in source ? source.file : "", "application/octet-stream"),
        }),
      ),
    onSuccess: async () => {
      setAsked(undefined);
      await queries.invalidateQueries();
    },
    onError: () => setAsked(undefined),
  });
  if (!record.data) return null;
  const { last_copy, warning, copies, room } = record.data;
  return (
    <chakra.section marginTop="28px" aria-labelledby="record">
      <Flex justify="space-between" align="end" wrap="wrap" gap="12px">
        <h2 id="record">The record</h2>
        <Flex gap="10px">
          <Button onClick={() => file.current?.click()}>Put a copy back…</Button>
          <Button asChild>
            <a href="/api/record/copy" download>
              Save a copy
            </a>
          </Button>
        </Flex>
      </Flex>
      <FileInput input={file} label="A copy of the record" onFile={(chosen) => setAsked({ file: chosen })} />
      <p className="record-said">
        <b>{last_copy}</b> {room && `${room} of room on its disk.`}
      </p>
      {warning && (
        <p className="number-error" role="alert">
          {warning}
        </p>
      )}
      <p className="number-hint">
        It is <span className="path">{record.data.file}</span>. Do not copy that one file while Wedge is open: the last
        minutes are in a log beside it. “Save a copy” has all of it, and belongs on another disk.
      </p>
      <chakra.div maxWidth="440px" marginBlock="10px">
        <Choice<Kept>
          label="Of each day a copy is made by itself; kept are the last"
          options={KEPT.map((days) => ({ key: days, label: days === "0" ? "none" : days }))}
          value={String(house.copies) as Kept}
          onPick={(days) => days && onKeep(Number(days))}
        />
      </chakra.div>
      <chakra.div maxWidth="440px" marginBlock="10px">
        <Choice<Days>
          label="Pictures of riders who said yes are kept for so many days"
          options={DAYS.map((days) => ({ key: days, label: days === "0" ? "none is kept" : days }))}
          value={String(house.picture_days) as Days}
          onPick={(days) => days && onPictures(Number(days))}
        />
      </chakra.div>
      {asked && (
        <Flex gap="10px" align="center" wrap="wrap" role="alertdialog" aria-label="Put a copy back">
          <span>
            Put <b>{nameOf(asked)}</b> in place of the record? What is on record now is kept beside it.
          </span>
          <Button ref={focused} variant="solid" disabled={restore.isPending} onClick={() => restore.mutate(asked)}>
            Put it back
          </Button>
          <Button onClick={() => setAsked(undefined)}>Leave it</Button>
        </Flex>
      )}
      {restore.data && <p role="status">{restore.data.words}</p>}
      <Problem words={restore.error ? words(restore.error) : undefined} />
      {copies.length > 0 && (
        <table className="rows copies">
          <tbody>
            {copies.map((copy) => (
              <tr key={copy.name}>
                <th scope="row">{copy.words}</th>
                <td>{copy.size}</td>
                <td>
                  <button
                    type="button"
                    className="more"
                    aria-label={`Put the copy of ${copy.words} back`}
                    onClick={() => setAsked({ copy: copy.name, words: copy.words })}
                  >
                    put back
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Unreadable />
    </chakra.section>
  );
}

/** Whatever on record does not read any more, with its rows as they are stored. */
function Unreadable() {
  const unreadable = useQuery(unreadableQuery);
  if (!unreadable.data || unreadable.data.length === 0) return null;
  return (
    <div role="alert">
      <h3>Does not read any more</h3>
      <ul>
        {unreadable.data.map(({ id, name, why }) => (
          <li key={`${id ?? ""}${name}`}>
            <b>{name}</b>: {why}.{" "}
            {id && (
              <a className="more" href={`/api/riders/${id}/raw`} download>
                Save as stored
              </a>
            )}
          </li>
        ))}
      </ul>
      <p className="number-hint">
        Everyone else is untouched. A copy made before has them sound: put it back, or keep the rows for whoever mends
        them.
      </p>
    </div>
  );
}
