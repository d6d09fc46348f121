import "./LongPage.css";
import { Button } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { words } from "../api/client";
import { useFit } from "../fit/useFit";
import { Keycap } from "../ui/Keycap";
import { Problem } from "../ui/Problem";

interface LongPageProps {
  title: string;
  className?: string;
  /** What it leads back to. */
  back?: string;
  /** Beside the way back. */
  head?: ReactNode;
  /** What its answer has come to: nothing is shown before. */
  answer?: { isPending: boolean; error: Error | null };
  children: ReactNode;
}

/** A station's long page, with its heading and the way back. */
export function LongPage({ title, className, back = "board", head, answer, children }: LongPageProps) {
  const { shown } = useFit();
  return (
    <div className={className ? `sheet-page ${className}` : "sheet-page"}>
      <div className="head">
        <h2>{title}</h2>
        <div className="head-buttons">
          {head}
          <Button onClick={() => shown.close("page")}>
            Back to the {back} <Keycap>C</Keycap>
          </Button>
        </div>
      </div>
      <Problem words={answer?.error ? words(answer.error) : undefined} />
      {answer?.isPending !== true && !answer?.error && children}
    </div>
  );
}

/** Opens the station's long page, and closes it. */
export function ToPage({ words: text }: { words: string }) {
  const { shown } = useFit();
  return (
    <Button onClick={() => shown.toggle("page")}>
      {text} <Keycap>C</Keycap>
    </Button>
  );
}
