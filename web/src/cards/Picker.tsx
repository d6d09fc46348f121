import { chakra } from "@chakra-ui/react";
import { useId } from "react";
import { List } from "../ui/List";

interface PickerProps<Key extends string> {
  label: string;
  value: Key | undefined;
  options: { key: Key; words: string }[];
  onPick: (key: Key) => void;
}

/** How something is read here, at the foot of a panel. */
export function Picker<Key extends string>({ label, value, options, onPick }: PickerProps<Key>) {
  const id = useId();
  return (
    <chakra.div marginTop="10px" fontSize="15px">
      <label htmlFor={id}>{label}</label>
      <List
        id={id}
        value={value ?? ""}
        onPick={(key) => {
          const chosen = options.find((option) => option.key === key);
          if (chosen) onPick(chosen.key);
        }}
      >
        {options.map((option) => (
          <option key={option.key} value={option.key}>
            {option.words}
          </option>
        ))}
      </List>
    </chakra.div>
  );
}
