import { useId } from "react";

interface WordsFieldProps {
  label: string;
  /** As on record. */
  value: string;
  /** Typed but not committed, as kept from before a reload. */
  typed: string | undefined;
  onTyped: (text: string | undefined) => void;
  /** The field is left, or Enter pressed, with other words in it. */
  onCommit: (text: string) => Promise<string | undefined>;
  rows?: number;
  readOnly?: boolean;
  placeholder?: string;
  error?: string;
}

/** Words: kept as they are typed, written down when the field is left. */
export function WordsField(props: WordsFieldProps) {
  const { label, value, typed, onTyped, onCommit, rows, readOnly, placeholder, error } = props;
  const id = useId();
  const commit = async () => {
    if (typed === undefined) return;
    if (typed === value || (await onCommit(typed)) === undefined) onTyped(undefined);
  };
  const given = {
    id,
    value: typed ?? value,
    readOnly,
    placeholder,
    autoComplete: "off",
    "aria-invalid": error !== undefined,
    "aria-describedby": error === undefined ? undefined : `${id}-error`,
    onChange: (event: { target: { value: string } }) => onTyped(event.target.value),
    onBlur: () => void commit(),
  };
  return (
    <div className="text-field" data-invalid={error !== undefined || undefined}>
      <label htmlFor={id}>{label}</label>
      {rows ? (
        <textarea {...given} rows={rows} />
      ) : (
        <input
          {...given}
          onKeyDown={(event) => {
            if (event.key === "Enter") void commit();
          }}
        />
      )}
      {error !== undefined && (
        <span id={`${id}-error`} className="number-error" role="alert">
          {error}
        </span>
      )}
    </div>
  );
}
