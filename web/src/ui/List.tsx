import { type KeyboardEvent, type ReactNode, useRef, useState } from "react";

interface ListProps {
  id: string;
  /** The key of what is chosen. */
  value: string;
  label?: string;
  readOnly?: boolean;
  fieldKey?: string;
  invalid?: boolean;
  onPick: (key: string) => void;
  children: ReactNode;
}

/**
 * One of a list. By keys one walks it: nothing is chosen before Enter, and what was only walked over is left again. A press
 * chooses.
 */
export function List({ id, value, label, readOnly, fieldKey, invalid, onPick, children }: ListProps) {
  const [walked, setWalked] = useState<string>();
  const byKeys = useRef(false);
  const take = (key: string) => {
    setWalked(undefined);
    if (key !== value) onPick(key);
  };
  const keyed = (event: KeyboardEvent) => {
    if (walked !== undefined && (event.key === "Enter" || event.key === "Escape")) {
      event.preventDefault();
      event.stopPropagation();
      if (event.key === "Enter") take(walked);
      else setWalked(undefined);
    }
    byKeys.current = event.key !== "Enter";
  };
  return (
    <>
      <select
        id={id}
        className="plain-select"
        data-field={fieldKey}
        aria-label={label}
        aria-invalid={invalid}
        aria-describedby={walked === undefined ? undefined : `${id}-walked`}
        value={walked ?? value}
        disabled={readOnly}
        onPointerDown={() => (byKeys.current = false)}
        onKeyDown={keyed}
        onBlur={() => setWalked(undefined)}
        onChange={({ target }) => (byKeys.current ? setWalked(target.value) : take(target.value))}
      >
        {children}
      </select>
      {walked !== undefined && walked !== value && (
        <span id={`${id}-walked`} className="number-hint" role="status">
          Enter takes it, Esc leaves it
        </span>
      )}
    </>
  );
}
