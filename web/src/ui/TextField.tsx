import { useId } from "react";

interface TextFieldProps {
  label: string;
  /** For those who lead here by a key. */
  id?: string;
  value: string;
  onChange: (value: string) => void;
  error?: string;
  placeholder?: string;
  hint?: string;
  inputMode?: "text" | "decimal" | "search";
  /** Typed unseen. */
  hidden?: boolean;
}

/** A line of text with its label, and what is wrong with it right below. */
export function TextField({
  label,
  value,
  onChange,
  error,
  placeholder,
  hint,
  inputMode,
  hidden,
  ...given
}: TextFieldProps) {
  const own = useId();
  const id = given.id ?? own;
  return (
    <div className="text-field" data-invalid={error !== undefined || undefined}>
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        type={hidden ? "password" : "text"}
        value={value}
        placeholder={placeholder}
        inputMode={inputMode ?? "text"}
        autoComplete="off"
        aria-invalid={error !== undefined}
        aria-describedby={error === undefined ? undefined : `${id}-error`}
        onChange={(event) => onChange(event.target.value)}
      />
      {hint && error === undefined && <span className="number-hint">{hint}</span>}
      {error !== undefined && (
        <span id={`${id}-error`} className="number-error" role="alert">
          {error}
        </span>
      )}
    </div>
  );
}
