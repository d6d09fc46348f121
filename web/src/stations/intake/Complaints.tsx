import { useEffect, useRef } from "react";
import type { ApiError } from "../../api/client";
import type { Catalogue, Complaint, Side } from "../../api/types";
import { Choice } from "../../ui/Choice";
import { NumberField } from "../../ui/NumberField";
import { WordsField } from "../../ui/WordsField";
import { BodyPicture } from "./BodyPicture";
import { newId } from "../../api/client";
import { complaintId } from "../../fit/intakeEdit";
import { useFit } from "../../fit/useFit";
import { TakenOutLine } from "./TakenOutLine";
import { useIntake } from "./useIntake";
import { SIDE_CHOICES } from "../../fit/fields";

/** Where it hurts: the body, and the list that says the same. */
export function WhereItHurts() {
  const { intake, words, readOnly, save } = useIntake();
  const { takeOut } = useFit();
  const { complaints } = intake;
  const byName = useRef<HTMLDivElement>(null);
  const list = useRef<HTMLOListElement>(null);
  const wanted = useRef<number>(undefined);

  // What was pointed at is asked about next, once it is there.
  const focusWanted = () => {
    const first = list.current?.children[wanted.current ?? -1]?.querySelector("select");
    if (!first) return;
    first.focus();
    wanted.current = undefined;
  };
  useEffect(focusWanted, [complaints.length]);

  const add = (place: Complaint["place"], side: Side | null) => {
    const known = complaints.findIndex((c) => c.place === place && (c.side ?? null) === side);
    let index = known;
    if (known < 0) {
      index = complaints.length;
      void save({ kind: "complaint", complaint: { id: newId(), place, side, feel: "pain", words: "" } });
    }
    wanted.current = index;
    focusWanted();
  };
  return (
    <div className="station-page">
      <section aria-labelledby="where">
        <h2 id="where">Where it hurts</h2>
        <p className="number-hint">
          Point at it, or walk with the arrows and press Enter. Nothing hurts: leave it blank.
        </p>
        <BodyPicture places={words.place} complaints={complaints} readOnly={readOnly} onPick={add} />
      </section>
      <section aria-label="Complaints" className="complaints">
        {!readOnly && (
          <div ref={byName}>
            <AddByName places={words.place} onAdd={add} />
          </div>
        )}
        <TakenOutLine of="complaint" />
        <ol ref={list}>
          {complaints.map((complaint, index) => (
            <ComplaintItem
              key={complaintId(complaint)}
              index={index}
              complaint={complaint}
              onChange={(part) => save({ kind: "of complaint", id: complaintId(complaint), part })}
              onTakeOut={() => {
                const next = index < complaints.length - 1 ? index + 1 : index - 1;
                const goOn =
                  list.current?.children[next]?.querySelector("select") ?? byName.current?.querySelector("select");
                goOn?.focus();
                const what = words.place.find((p) => p.key === complaint.place)?.label ?? "";
                void takeOut(
                  what,
                  { kind: "complaint out", id: complaintId(complaint) },
                  { kind: "complaint", complaint },
                );
              }}
            />
          ))}
        </ol>
        {complaints.length === 0 && <p className="number-hint">No complaint written down.</p>}
      </section>
    </div>
  );
}

interface ComplaintItemProps {
  index: number;
  complaint: Complaint;
  onChange: (part: Partial<Complaint>) => Promise<ApiError | undefined>;
  onTakeOut: () => void;
}

/** One complaint: where, how it feels, how bad, when, in the rider's words. */
function ComplaintItem({ index, complaint, onChange, onTakeOut }: ComplaintItemProps) {
  const { words, readOnly, texts, setText } = useIntake();
  const place = words.place.find((p) => p.key === complaint.place);
  const key = `intake.complaints.${complaintId(complaint)}.words`;
  return (
    <li className="complaint">
      <h3>
        {place?.label}
        {!readOnly && (
          <button type="button" className="more" aria-label={`Take complaint ${index + 1} out`} onClick={onTakeOut}>
            take out
          </button>
        )}
      </h3>
      <div className="complaint-grid">
        <Choice
          label="Feels"
          options={words.feel}
          value={complaint.feel}
          readOnly={readOnly}
          onPick={(feel) => feel && void onChange({ feel })}
        />
        {place?.per_side === true && (
          <Choice
            label="Side"
            options={SIDE_CHOICES}
            value={complaint.side}
            none="both"
            readOnly={readOnly}
            onPick={(side) => void onChange({ side: side })}
          />
        )}
        <NumberField
          label="How bad, 0–10"
          fieldKey={`how_bad.${index}`}
          spec={{ unit: "size", step: 1, fine_step: 1, min: 0, max: 10 }}
          value={complaint.how_bad ?? undefined}
          readOnly={readOnly}
          onCommit={async (how_bad) => {
            if (how_bad < 0 || how_bad > 10 || !Number.isInteger(how_bad)) return "A whole number, 0 to 10";
            return (await onChange({ how_bad }))?.message;
          }}
        />
        <Choice
          label="When in the ride"
          options={words.when}
          value={complaint.when}
          none="not said"
          readOnly={readOnly}
          onPick={(when) => void onChange({ when })}
        />
        <Choice
          label="Where in the stroke"
          options={words.stroke}
          value={complaint.stroke}
          none="not said"
          readOnly={readOnly}
          onPick={(stroke) => void onChange({ stroke })}
        />
        <Choice
          label="At what effort"
          options={words.effort}
          value={complaint.effort}
          none="not said"
          readOnly={readOnly}
          onPick={(effort) => void onChange({ effort })}
        />
      </div>
      <WordsField
        label="In the rider’s words"
        value={complaint.words ?? ""}
        typed={texts[key]}
        readOnly={readOnly}
        onTyped={(text) => setText(key, text)}
        onCommit={async (said) => (await onChange({ words: said }))?.message}
      />
    </li>
  );
}

/** The same as pointing, by name. */
function AddByName({
  places,
  onAdd,
}: {
  places: Catalogue["words"]["place"];
  onAdd: (place: Complaint["place"], side: Side | null) => void;
}) {
  const options = places.flatMap((place) =>
    place.per_side
      ? SIDE_CHOICES.map((side) => ({ key: `${place.key}.${side.key}`, label: `${place.label}, ${side.key}` }))
      : [{ key: place.key, label: place.label }],
  );
  return (
    <Choice
      label="Add by name"
      fieldKey="complaint.add"
      options={options}
      value={null}
      none="choose a place…"
      onPick={(key: string | null) => {
        const [name, side] = (key ?? "").split(".");
        const place = places.find((p) => p.key === name);
        if (place) onAdd(place.key, side === "left" || side === "right" ? side : null);
      }}
    />
  );
}
