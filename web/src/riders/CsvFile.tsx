import { Button, Flex } from "@chakra-ui/react";
import { useRef } from "react";
import { raw } from "../api/client";
import { FileInput } from "../ui/FileInput";

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
      <FileInput
        input={file}
        label={label}
        accept=".csv,text/csv"
        onFile={(chosen) => void chosen.text().then((text) => onText(text, chosen.name))}
      />
    </>
  );
}

/** What a request sends a CSV with. */
export const asCsv = (body: string) => raw(body, "text/csv");
