import { useId } from "react";

interface ChoiceProps<Key extends string> {
  label: string;
  options: { key: string; label: string }[];
  value: Key | null | undefined;
  /** The words of no choice. */
  none?: string;
  readOnly?: boolean;
  labelHidden?: boolean;
  onPick: (key: Key | null) => void;
}

/** One of several words. */
export function Choice<Key extends string>(props: ChoiceProps<Key>) {
  const { label, options, value, none, readOnly, labelHidden, onPick } = props;
  const id = useId();
  return (
    <div className="text-field">
      <label htmlFor={id} className={labelHidden ? "visually-hidden" : undefined}>
        {label}
      </label>
      <select
        id={id}
        className="plain-select"
        value={value ?? ""}
        disabled={readOnly}
        onChange={(event) => onPick(event.target.value === "" ? null : (event.target.value as Key))}
      >
        {none !== undefined && <option value="">{none}</option>}
        {options.map((option) => (
          <option key={option.key} value={option.key}>
            {option.label}
          </option>
        ))}
      </select>
    </div>
  );
}
