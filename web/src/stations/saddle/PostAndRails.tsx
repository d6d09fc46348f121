import { sentence } from "../../ui/format";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError, detail } from "../../api/client";
import { partsQuery } from "../../api/queries";
import type { SaddleView } from "../../api/types";
import { ForeseeStep } from "../../cards/Foresee";
import { useFit } from "../../fit/useFit";
import { NumberField } from "../../ui/NumberField";
import { Problem } from "../../ui/Problem";

/** What post and rails leave, and which part would do what they do not. */
export function PostAndRails({ saddle }: { saddle: SaddleView }) {
  const { view, version } = useFit();
  const [wished, setWished] = useState<number>();
  const parts = useQuery({
    ...partsQuery(view.session.id, version, wished ?? 0),
    enabled: wished !== undefined,
  });
  const unit = saddle.setback?.unit ?? "mm";
  return (
    <section aria-label="Post and rails">
      <h2>Post and rails</h2>
      {saddle.room?.words.map((words) => (
        <p key={words}>{sentence(words)}</p>
      ))}
      <NumberField
        label="Setback wished for"
        fieldKey="wished.setback"
        spec={{ unit, step: 1, fine_step: 0.5 }}
        value={wished ?? saddle.setback?.now}
        onCommit={(typed) => {
          setWished(typed);
          return undefined;
        }}
        onStep={setWished}
      />
      <Problem words={parts.error instanceof ApiError ? detail(parts.error) : parts.error?.message} />
      {wished !== undefined && parts.data && (
        <>
          <p className={parts.data.reached ? undefined : "apart"} data-testid="parts-words">
            {parts.data.words}.
          </p>
          {parts.data.options.length > 0 && (
            <table className="plans">
              <tbody>
                {parts.data.options.map((option) => (
                  <tr key={option.label}>
                    <th scope="row">{option.label}</th>
                    <td>{option.words}</td>
                    <td>
                      <ForeseeStep step={option.trial} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </>
      )}
    </section>
  );
}
