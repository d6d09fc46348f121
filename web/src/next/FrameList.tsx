import { Button } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answer, api, words } from "../api/client";
import { studioQuery } from "../api/queries";
import type { Catalogue, ColumnIs, FrameMap, FramesRead, Quantity } from "../api/types";
import { Choice } from "../ui/Choice";
import { FileInput } from "../ui/FileInput";
import { NumberField } from "../ui/NumberField";
import { Problem } from "../ui/Problem";
import { kindsOf } from "./kinds";

/** A list of frames from somebody else's table: its columns are mapped, and nothing is kept until every row reads. */
export function FrameList({ catalogue }: { catalogue: Catalogue }) {
  const file = useRef<HTMLInputElement>(null);
  const queries = useQueryClient();
  const [text, setText] = useState("");
  const [read, setRead] = useState<FramesRead>();
  const [kept, setKept] = useState<string>();
  const ask = useMutation({
    mutationFn: (of: { text: string; map?: FrameMap; keep: boolean }) =>
      answer<FramesRead>(api.POST("/api/frames/read", { body: of as never })),
    onSuccess: async (answered, { keep }) => {
      setRead(keep ? undefined : answered);
      if (!keep) return;
      const many = answered.frames.length;
      setKept(`${many} ${many === 1 ? "frame is" : "frames are"} in the library`);
      await queries.invalidateQueries({ queryKey: studioQuery.queryKey });
      await queries.invalidateQueries({ queryKey: ["next"] });
    },
  });
  const by = (map: FrameMap) => ask.mutate({ text, map, keep: false });
  return (
    <section aria-labelledby="frame-list">
      <h2 id="frame-list">A list of frames</h2>
      <p className="other">
        A CSV, one frame a line. Its headers may be any: what they are is asked. It goes into the library when every row
        reads, or not at all.
      </p>
      <Button onClick={() => file.current?.click()}>Take in a list</Button>
      <FileInput
        input={file}
        label="A CSV of frames"
        accept=".csv,text/csv"
        onFile={(chosen) =>
          void chosen.text().then((taken) => {
            setText(taken);
            setKept(undefined);
            ask.mutate({ text: taken, keep: false });
          })
        }
      />
      <p role="status">{kept}</p>
      <Problem words={ask.error ? words(ask.error) : undefined} />
      {read && (
        <>
          <Columns catalogue={catalogue} map={read.map} onMap={by} />
          <Same catalogue={catalogue} read={read} onMap={by} />
          {read.refused.length > 0 && (
            <>
              <h3>Rows that do not read</h3>
              <ul className="told">
                {read.refused.map((row) => (
                  <li key={row.at}>
                    {row.at}: {row.detail}
                  </li>
                ))}
              </ul>
            </>
          )}
          <p>
            {read.frames.length} read, {read.refused.length} do not.
          </p>
          <Button
            variant="solid"
            disabled={ask.isPending || read.refused.length > 0 || read.missing.length > 0 || read.frames.length === 0}
            onClick={() => ask.mutate({ text, map: read.map, keep: true })}
          >
            Put {read.frames.length} into the library
          </Button>
        </>
      )}
    </section>
  );
}

const keyOf = (is: ColumnIs): string => (typeof is === "string" ? is : is.number);

interface ColumnsProps {
  catalogue: Catalogue;
  map: FrameMap;
  onMap: (map: FrameMap) => void;
}

/** What each column is. */
function Columns({ catalogue, map, onMap }: ColumnsProps) {
  const numbers = catalogue.quantities.filter((spec) => catalogue.parts.frame.includes(spec.quantity));
  const options = [
    { key: "name", label: "name" },
    { key: "kind", label: "kind of riding" },
    { key: "wheelbase", label: "wheelbase" },
    ...numbers.map((spec) => ({ key: spec.quantity, label: spec.label.toLowerCase() })),
  ];
  const isOf = (key: string | null): ColumnIs => {
    if (key === null) return "nothing";
    if (key === "name" || key === "kind" || key === "wheelbase") return key;
    return { number: key as Quantity };
  };
  const edit = (column: string, some: Partial<FrameMap["columns"][number]>) =>
    onMap({ ...map, columns: map.columns.map((of) => (of.column === column ? { ...of, ...some } : of)) });
  return (
    <table>
      <thead>
        <tr>
          <th scope="col">Column</th>
          <th scope="col">is</th>
          <th scope="col">in</th>
        </tr>
      </thead>
      <tbody>
        {map.columns.map((of) => (
          <tr key={of.column}>
            <th scope="row">{of.column}</th>
            <td>
              <Choice
                label={`${of.column} is`}
                labelHidden
                none="not read"
                options={options}
                value={keyOf(of.is) === "nothing" ? null : keyOf(of.is)}
                onPick={(key) => edit(of.column, { is: isOf(key) })}
              />
            </td>
            <td>
              <Choice
                label={`${of.column} is in`}
                labelHidden
                options={[
                  { key: "mm", label: "mm, degrees" },
                  { key: "cm", label: "cm" },
                  { key: "inch", label: "inches" },
                ]}
                value={of.unit ?? "mm"}
                onPick={(unit) => edit(of.column, { unit: unit ?? "mm" })}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What no column has, and is the same of every frame in it. */
function Same({ catalogue, read, onMap }: { catalogue: Catalogue; read: FramesRead; onMap: (map: FrameMap) => void }) {
  const { map } = read;
  const kinds = map.columns.some((of) => of.is === "kind");
  const same = (map.same ?? {}) as Partial<Record<Quantity, number>>;
  const asked = [...new Set([...read.missing, ...(Object.keys(same) as Quantity[])])];
  return (
    <>
      {(asked.length > 0 || !kinds) && <h3>No column has, and every frame has alike</h3>}
      <div className="fields">
        {!kinds && (
          <Choice
            label="Kind of riding"
            options={kindsOf(catalogue)}
            value={map.kind ?? "road"}
            onPick={(kind) => kind && onMap({ ...map, kind })}
          />
        )}
        {asked.map((quantity) => {
          const spec = catalogue.quantities.find((of) => of.quantity === quantity);
          if (!spec) return null;
          return (
            <NumberField
              key={quantity}
              label={spec.label}
              spec={spec}
              value={same[quantity]}
              fieldKey={`next.same.${quantity}`}
              onCommit={(value) => {
                onMap({ ...map, same: { ...same, [quantity]: value } });
                return undefined;
              }}
            />
          );
        })}
      </div>
    </>
  );
}
