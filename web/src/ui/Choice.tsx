import { useId } from "react";
import { List } from "./List";

interface ChoiceProps<Key extends string> {
  label: string;
  options: { key: string; label: string }[];
  value: Key | null | undefined;
  /** The words of no choice. */
  none?: string;
  readOnly?: boolean;
  labelHidden?: boolean;
  fieldKey?: string;
  onPick: (key: Key | null) => void;
}

/** One of several words. */
export function Choice<Key extends string>(props: ChoiceProps<Key>) {
  const { label, options, value, none, readOnly, labelHidden, fieldKey, onPick } = props;
  const id = useId();
  return (
    <div className="text-field">
      <label htmlFor={id} className={labelHidden ? "visually-hidden" : undefined}>
        {label}
      </label>
      <List
        id={id}
        fieldKey={fieldKey}
        value={value ?? ""}
        readOnly={readOnly}
        onPick={(key) => onPick(key === "" ? null : (key as Key))}
      >
        {none !== undefined && <option value="">{none}</option>}
        {options.map((option) => (
          <option key={option.key} value={option.key}>
            {option.label}
          </option>
        ))}
      </List>
    </div>
  );
}
