import type { DragEvent, RefObject } from "react";

interface FileInputProps {
  input: RefObject<HTMLInputElement | null>;
  label: string;
  accept?: string;
  onFile: (file: File) => void;
}

/** A file to choose, unseen: a button presses it. The same file can be chosen again once it is mended. */
export function FileInput({ input, label, accept, onFile }: FileInputProps) {
  return (
    <input
      ref={input}
      type="file"
      accept={accept}
      aria-label={label}
      className="visually-hidden"
      tabIndex={-1}
      onChange={(event) => {
        const file = event.target.files?.[0];
        event.target.value = "";
        if (file) onFile(file);
      }}
    />
  );
}

/** What takes a file that is dropped on it. */
export const dropped = (onFile: (file: File) => void) => ({
  onDragOver: (event: DragEvent) => event.preventDefault(),
  onDrop: (event: DragEvent) => {
    event.preventDefault();
    const file = event.dataTransfer.files[0];
    if (file) onFile(file);
  },
});
