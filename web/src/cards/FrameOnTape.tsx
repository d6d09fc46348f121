import "./cards.css";
import { Button } from "@chakra-ui/react";
import { useState } from "react";
import { answer, api, ApiError, words } from "../api/client";
import type { Catalogue, ComputedFrame, TapedFrame } from "../api/types";
import { Problem } from "../ui/Problem";
import { TextField } from "../ui/TextField";
import { focusWrong } from "../ui/focusWrong";
import { readStrictly } from "../ui/typed";
import { specOf } from "../fit/fields";

const KEYS = ["ground_to_bb_mm", "ground_to_head_top_mm", "bb_to_head_top_mm", "top_tube_mm"] as const;
type Key = (typeof KEYS)[number];

interface FrameOnTapeProps {
  catalogue: Catalogue;
  seatAngle: number | undefined;
  start: TapedFrame;
  /** Answers what is wrong with what was computed, if anything. */
  onComputed: (computed: ComputedFrame, taped: TapedFrame) => Promise<string | undefined> | undefined;
}

/** A frame that is on no chart: reach and stack from what the tape can reach. */
export function FrameOnTape({ catalogue, seatAngle, start, onComputed }: FrameOnTapeProps) {
  const [texts, setTexts] = useState<Partial<Record<Key, string>>>(() =>
    Object.fromEntries(KEYS.flatMap((key) => (start[key] == null ? [] : [[key, String(start[key])]]))),
  );
  const [wrong, setWrong] = useState<Partial<Record<Key, string>>>({});
  const [said, setSaid] = useState<string>();
  const [problem, setProblem] = useState<string>();

  const compute = async () => {
    setSaid(undefined);
    setProblem(undefined);
    if (seatAngle === undefined) {
      setProblem("The seat tube angle is needed first.");
      return;
    }
    const taped: TapedFrame = {};
    const found: Partial<Record<Key, string>> = {};
    const read = async (key: Key) => {
      const text = texts[key]?.trim() ?? "";
      if (text === "") return;
      const value = await readStrictly(text, { quantity: key, unit: "mm" });
      if (typeof value === "string") found[key] = value;
      else taped[key] = value;
    };
    await Promise.all(KEYS.map(read));
    setWrong(found);
    if (Object.keys(found).length > 0) {
      focusWrong();
      return;
    }
    try {
      const body = { seat_angle_deg: seatAngle, taped };
      const computed = await answer<ComputedFrame>(api.POST("/api/frames/compute", { body }));
      const refused = await onComputed(computed, taped);
      setProblem(refused ?? computed.question ?? undefined);
      setSaid(computed.words);
    } catch (error) {
      if (error instanceof ApiError && error.errors.length > 0) {
        setWrong(Object.fromEntries(KEYS.map((key) => [key, error.at(`/${key}`)])));
      } else {
        setProblem(words(error));
      }
    }
  };

  return (
    <details className="frame-on-tape">
      <summary>On no chart? Compute reach and stack from the tape</summary>
      <p className="number-hint">Both heights, and the straight length or the level top tube.</p>
      <div className="field-grid">
        {KEYS.map((key) => {
          const spec = specOf(catalogue, key);
          return (
            <TextField
              key={key}
              label={`${spec?.label ?? key}, mm`}
              hint={spec?.how}
              inputMode="decimal"
              value={texts[key] ?? ""}
              onChange={(text) => setTexts({ ...texts, [key]: text })}
              error={wrong[key]}
            />
          );
        })}
      </div>
      <div className="buttons">
        <Button type="button" onClick={() => void compute()}>
          Compute
        </Button>
      </div>
      {said !== undefined && <p role="status">{said}.</p>}
      <Problem words={problem} />
    </details>
  );
}
