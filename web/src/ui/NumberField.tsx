import { chakra } from "@chakra-ui/react";
import { type KeyboardEvent, useEffect, useId, useRef, useState } from "react";
import type { Spec } from "../api/types";
import { readTyped } from "./typed";
import { fromShown, number, parse, suffix } from "./format";

export interface NumberFieldProps {
  label: string;
  spec: Pick<Spec, "unit" | "step" | "fine_step"> & Partial<Pick<Spec, "quantity" | "min" | "max">>;
  /** What is known; none shows an empty field. */
  value: number | undefined;
  /** Typed but not committed, as kept from before a reload. */
  typed?: string;
  onTyped?: (text: string | undefined) => void;
  /** A number was typed or stepped. Answers what is wrong with it, if anything. */
  onCommit: (value: number) => Promise<string | undefined> | string | undefined;
  /** Arrow keys step the value at once; without it they only change what is typed. */
  onStep?: (value: number) => void;
  /** Enter on a number that is committed already. */
  onEnterAgain?: () => void;
  /** M is pressed: the next number is a measurement of what stands there. */
  onMeasure?: () => void;
  /** The field is left with Escape. */
  onLeave?: () => void;
  /** What the value was, when the number shown is foreseen. */
  before?: string;
  placeholder?: string;
  readOnly?: boolean;
  className?: string;
  labelHidden?: boolean;
  /** From where to where, and where the number is from: said with the label, not shown. */
  how?: string;
  hint?: string;
  /** What is doubtful about the value on record: it stands, and is asked about. */
  warning?: string;
  error?: string;
  fieldKey?: string;
  /** As wide as its number. */
  fit?: boolean;
}

/** A step that is not drawn yet is asked for this recently. */
const AHEAD_MS = 120;

/**
 * A number with its label and unit. Enter or leaving commits, arrows step (Shift finer), Escape takes back what is
 * typed. What is wrong stands right below and the typed text stays.
 */
export function NumberField(props: NumberFieldProps) {
  const { label, spec, value, typed, onTyped, onCommit, onStep, onEnterAgain, onLeave, readOnly } = props;
  const [text, setText] = useState<string | undefined>(typed);
  const [wrong, setWrong] = useState<string | undefined>();
  const input = useRef<HTMLInputElement>(null);
  /** Where the last key stepped to, and when. */
  const stepped = useRef<{ to: number; at: number }>(undefined);
  const id = useId();
  const shown = text ?? (value === undefined ? "" : number(value, spec.unit));
  const error = wrong ?? props.error;

  const type = (next: string | undefined) => {
    setText(next);
    onTyped?.(next);
  };

  const commit = async (): Promise<boolean> => {
    if (text === undefined) return false;
    if (text.trim() === "") {
      type(undefined);
      setWrong(undefined);
      return false;
    }
    const read = await readTyped(text, spec);
    if (typeof read === "string") {
      setWrong(read);
      return true;
    }
    const refused = await onCommit(read);
    setWrong(refused);
    if (refused === undefined) type(undefined);
    return true;
  };

  const step = (way: 1 | -1, fine: boolean) => {
    const typedIn = text === undefined ? undefined : parse(text);
    // A key held down goes on from where the last one went, drawn or not.
    const ahead = stepped.current && performance.now() - stepped.current.at < AHEAD_MS ? stepped.current.to : undefined;
    const from = typedIn === undefined ? (ahead ?? value) : fromShown(typedIn, spec.unit);
    if (from === undefined) return;
    const by = fine ? spec.fine_step : spec.step;
    // Stepping stops where a value stops being taken seriously; typing beyond it is answered beside the field.
    const [least, most] = [spec.min ?? -Infinity, spec.max ?? Infinity];
    const next = Math.min(most, Math.max(least, Math.round((from + way * by) * 100) / 100));
    if (onStep) {
      if (text !== undefined) type(undefined);
      setWrong(undefined);
      stepped.current = { to: next, at: performance.now() };
      onStep(next);
    } else {
      type(number(next, spec.unit).replace("−", "-"));
    }
  };

  const press = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Enter") {
      event.preventDefault();
      void commit().then((did) => {
        if (!did) onEnterAgain?.();
      });
    } else if (event.key === "Escape") {
      event.preventDefault();
      if (text === undefined) {
        input.current?.blur();
        onLeave?.();
      } else {
        type(undefined);
        setWrong(undefined);
      }
    } else if (event.key.toLowerCase() === "m" && !event.ctrlKey && props.onMeasure) {
      event.preventDefault();
      props.onMeasure();
    } else if (!readOnly && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
      event.preventDefault();
      step(event.key === "ArrowUp" ? 1 : -1, event.shiftKey);
    }
  };

  // A stepped or committed number is selected, so that typing replaces it.
  useEffect(() => {
    if (text === undefined && document.activeElement === input.current) input.current?.select();
  }, [text, value]);

  // What is wrong is never off the screen.
  const said = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (wrong !== undefined) said.current?.scrollIntoView({ block: "nearest" });
  }, [wrong]);

  return (
    <div className={`number-field ${props.className ?? ""}`} data-invalid={error !== undefined || undefined}>
      <chakra.label htmlFor={id} srOnly={props.labelHidden ?? false}>
        {label}
        {props.how !== undefined && (
          <span className="visually-hidden">
            , {suffix(spec.unit).trim()}, {props.how}
          </span>
        )}
        {props.before !== undefined && <span className="number-before"> {props.before} →</span>}
      </chakra.label>
      <span className="number-row">
        <input
          ref={input}
          id={id}
          type="text"
          inputMode="decimal"
          autoComplete="off"
          data-field={props.fieldKey}
          value={shown}
          style={props.fit ? { width: `${Math.max(shown.length, props.placeholder?.length ?? 0) + 0.4}ch` } : undefined}
          placeholder={props.placeholder}
          readOnly={readOnly}
          aria-invalid={error !== undefined}
          aria-describedby={error !== undefined ? `${id}-error` : props.hint ? `${id}-hint` : undefined}
          onChange={(event) => type(event.target.value)}
          onKeyDown={press}
          onFocus={(event) => event.target.select()}
          onBlur={(event) => {
            event.target.setSelectionRange(0, 0);
            void commit();
          }}
        />
        <span className="number-unit" aria-hidden>
          {suffix(spec.unit).trim()}
        </span>
      </span>
      {props.hint && error === undefined && (
        <span id={`${id}-hint`} className="number-hint">
          {props.hint}
        </span>
      )}
      {props.warning && error === undefined && <span className="number-warning">{props.warning}</span>}
      {error !== undefined && (
        <span ref={said} id={`${id}-error`} className="number-error" role="alert">
          {error}
        </span>
      )}
    </div>
  );
}
