import { Button, Flex } from "@chakra-ui/react";
import { useRef } from "react";

interface CsvFileProps {
  id: string;
  title: string;
  /** Where it is saved from. */
  href: string;
  /** "A CSV of frames". */
  label: string;
  onText: (text: string, name: string) => void;
}

/** The heading of something that goes out and comes in as CSV. */
export function CsvFile({ id, title, href, label, onText }: CsvFileProps) {
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
      <Flex justify="space-between" align="end" wrap="wrap" gap="12px">
        <h2 id={id}>{title}</h2>
        <Flex gap="10px">
          <Button onClick={() => file.current?.click()}>Take in a CSV</Button>
          <Button asChild>
            <a href={href} download>
              Save as CSV
            </a>
          </Button>
        </Flex>
      </Flex>
      <input
        ref={file}
        type="file"
        accept=".csv,text/csv"
        aria-label={label}
        className="visually-hidden"
        tabIndex={-1}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          // The same file can be chosen again once it is mended.
          event.target.value = "";
          if (chosen) void chosen.text().then((text) => onText(text, chosen.name));
        }}
      />
    </>
  );
}

/** What a request sends a CSV with. */
export const asCsv = (body: string) => ({
  body,
  bodySerializer: (text: string) => text,
  headers: { "Content-Type": "text/csv" },
});
