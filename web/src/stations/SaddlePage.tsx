import "./saddle.css";
import { Button } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, ApiError } from "../api/client";
import { partsQuery } from "../api/queries";
import type { Catalogue, Change, Quantity, RunPlan, SaddleNotes, SaddleView, SessionView, Step } from "../api/types";
import { planOf } from "../protocol/plans";
import { Choice } from "../ui/Choice";
import { number, withUnit } from "../ui/format";
import { Keycap } from "../ui/Keycap";
import { NumberField } from "../ui/NumberField";
import { Causes, type CausesProps } from "./Causes";
import { ProtocolPlans } from "./ProtocolPlans";

const MM = { unit: "mm" as const, step: 1, fine_step: 0.5 };

interface SaddlePageProps {
  saddle: SaddleView;
  view: SessionView;
  version: string;
  catalogue: Catalogue;
  readOnly: boolean;
  onTry: (changes: Change[]) => void;
  onBegin: (plan: RunPlan) => void;
  onNotes: (change: Partial<SaddleNotes>) => Promise<string | undefined>;
  onStation: CausesProps["onStation"];
  onClose: () => void;
}

/** What hurts and why, the protocols with their settings, post and rails, and the saddle itself. */
export function SaddlePage(props: SaddlePageProps) {
  const { saddle, view, version, catalogue, readOnly, onTry, onBegin } = props;
  // One protocol at a time.
  const begins = !readOnly && view.run == null;
  return (
    <div className="sheet-page saddle-page">
      <div className="head">
        <h2>What hurts, and what would settle it</h2>
        <Button onClick={props.onClose}>
          Back to the board <Keycap>C</Keycap>
        </Button>
      </div>
      <Causes
        session={view.session.id}
        version={version}
        catalogue={catalogue}
        onBegin={
          begins
            ? (protocol) => {
                const plan = planOf(saddle, protocol);
                if (plan) onBegin(plan);
              }
            : undefined
        }
        onStation={props.onStation}
      />
      {begins && <ProtocolPlans saddle={saddle} catalogue={catalogue} onBegin={onBegin} />}
      <PostAndRails {...props} />
      <Swap saddle={saddle} view={view} catalogue={catalogue} readOnly={readOnly} onTry={onTry} />
      <Notes saddle={saddle} catalogue={catalogue} readOnly={readOnly} onNotes={props.onNotes} />
      <h2>Plumb lines as foreseen</h2>
      <table className="plans">
        <thead>
          <tr>
            <th scope="col">From</th>
            <th scope="col">Left knee ahead of the axle</th>
            <th scope="col">Right knee ahead of the axle</th>
          </tr>
        </thead>
        <tbody>
          {saddle.hung.map((line) => (
            <tr key={line.landmark}>
              <th scope="row">{line.label}</th>
              <td className="n">{withUnit(line.over_axle_mm.left, "mm")}</td>
              <td className="n">{withUnit(line.over_axle_mm.right, "mm")}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** What post and rails leave, and which part would do what they do not. */
function PostAndRails({ saddle, view, version, readOnly, onTry }: SaddlePageProps) {
  const [wished, setWished] = useState<number>();
  const parts = useQuery({
    ...partsQuery(view.session.id, version, wished ?? 0),
    enabled: wished !== undefined,
  });
  const unit = saddle.setback?.unit ?? "mm";
  return (
    <section aria-label="Post and rails">
      <h2>Post and rails</h2>
      {saddle.room?.words.map((words) => (
        <p key={words}>{words}.</p>
      ))}
      <NumberField
        label="Setback wished for"
        fieldKey="wished.setback"
        spec={{ ...MM, unit }}
        value={wished ?? saddle.setback?.now}
        onCommit={(typed) => {
          setWished(typed);
          return undefined;
        }}
        onStep={setWished}
      />
      {parts.error && (
        <p className="number-error" role="alert">
          {parts.error instanceof ApiError
            ? (parts.error.errors[0]?.detail ?? parts.error.message)
            : parts.error.message}
        </p>
      )}
      {wished !== undefined && parts.data && (
        <>
          <p className={parts.data.reached ? undefined : "apart"} data-testid="parts-words">
            {parts.data.words}.
          </p>
          {parts.data.options.length > 0 && (
            <table className="plans">
              <tbody>
                {parts.data.options.map((option) => (
                  <tr key={option.label}>
                    <th scope="row">{option.label}</th>
                    <td>{option.words}</td>
                    <td>
                      {option.trial && !readOnly && (
                        <Button size="sm" onClick={() => option.trial && onTry(option.trial.changes)}>
                          Foresee: {option.trial.title}
                        </Button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </>
      )}
    </section>
  );
}

const SWAPPED: Quantity[] = ["saddle_stack_mm", "saddle_length_mm", "nose_to_sit_mm", "rail_middle_mm", "rail_mm"];

/** Another saddle in the place of this one: its stack and rails carried over. */
function Swap({
  view,
  catalogue,
  readOnly,
  onTry,
}: Pick<SaddlePageProps, "saddle" | "view" | "catalogue" | "readOnly" | "onTry">) {
  const [typed, setTyped] = useState<Partial<Record<Quantity, number>>>({});
  const [wrong, setWrong] = useState<ApiError>();
  const own = view.input.setup.saddle as unknown as Record<string, number | undefined>;
  if (readOnly) return null;
  return (
    <section aria-label="Another saddle">
      <h2>Another saddle</h2>
      <p>
        Measure it off the bike. The rider is left where they sit: its stack goes to the post, its rails to the clamp.
      </p>
      <div className="field-grid">
        {SWAPPED.map((quantity) => {
          const spec = catalogue.quantities.find((q) => q.quantity === quantity);
          if (!spec) return null;
          return (
            <NumberField
              key={quantity}
              label={spec.label}
              hint={spec.how}
              fieldKey={`swap.${quantity}`}
              spec={spec}
              value={typed[quantity] ?? own[quantity]}
              error={wrong?.at(`/${quantity}`)}
              onCommit={(value) => {
                setTyped({ ...typed, [quantity]: value });
                return undefined;
              }}
              onStep={(value) => setTyped({ ...typed, [quantity]: value })}
            />
          );
        })}
      </div>
      <div className="buttons">
        <Button
          onClick={() =>
            void answer<Step>(
              api.POST("/api/sessions/{id}/saddle/swap", {
                params: { path: { id: view.session.id } },
                body: typed,
              }),
            ).then(
              (step) => {
                setWrong(undefined);
                onTry(step.changes);
              },
              (error: unknown) => setWrong(error instanceof ApiError ? error : undefined),
            )
          }
        >
          Foresee the swap
        </Button>
      </div>
      {wrong && !SWAPPED.some((q) => wrong.at(`/${q}`)) && (
        <p className="number-error" role="alert">
          {wrong.message}
        </p>
      )}
    </section>
  );
}

/** What was noted of the saddle, and what there is to say about it. */
function Notes({
  saddle,
  catalogue,
  readOnly,
  onNotes,
}: Pick<SaddlePageProps, "saddle" | "catalogue" | "readOnly" | "onNotes">) {
  const { notes } = saddle;
  const [wrong, setWrong] = useState<string>();
  const pick = (change: Partial<SaddleNotes>) => void onNotes(change).then(setWrong);
  const length = (text: string, key: "width_mm" | "sits_ahead_mm") => (
    <NumberField
      label={text}
      fieldKey={`notes.${key}`}
      spec={MM}
      value={notes[key] ?? undefined}
      readOnly={readOnly}
      onCommit={(value) => onNotes({ [key]: value })}
    />
  );
  const { yes_no, relief, nose } = catalogue.words;
  const asked = (text: string, key: "shuffles" | "rubs" | "aside") => (
    <Choice
      label={text}
      options={yes_no}
      value={notes[key]}
      none="nobody asked"
      readOnly={readOnly}
      onPick={(value) => pick({ [key]: value })}
    />
  );
  return (
    <section aria-label="The saddle itself">
      <h2>The saddle itself</h2>
      {saddle.advice.map((words) => (
        <p key={words} className="apart">
          {words}.
        </p>
      ))}
      <div className="field-grid">
        {length("Width at its widest", "width_mm")}
        <Choice
          label="Relief"
          options={relief}
          value={notes.relief}
          none="nobody looked"
          readOnly={readOnly}
          onPick={(value) => pick({ relief: value })}
        />
        <Choice
          label="Nose"
          options={nose}
          value={notes.nose}
          none="nobody looked"
          readOnly={readOnly}
          onPick={(value) => pick({ nose: value })}
        />
        {asked("Keeps shuffling", "shuffles")}
        {asked("Rubs the thighs", "rubs")}
        {asked("Sits to one side or twisted", "aside")}
        {length("Really sits ahead of the sit reference", "sits_ahead_mm")}
      </div>
      {wrong !== undefined && (
        <p className="number-error" role="alert">
          {wrong}
        </p>
      )}
      {notes.sits_ahead_mm != null && (
        <p className="number-hint">The linkage sits {number(notes.sits_ahead_mm, "mm")} mm ahead from now on.</p>
      )}
    </section>
  );
}
