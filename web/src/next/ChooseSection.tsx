import { Button } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api, words } from "../api/client";
import type { Catalogue, ChoiceView, Kind, NextAsked, NextView, PartLimits, Ranked } from "../api/types";
import { Choice } from "../ui/Choice";
import { number, suffix, withUnit } from "../ui/format";
import { Lines } from "../ui/Lines";
import { NumberField } from "../ui/NumberField";
import { Problem } from "../ui/Problem";
import { Tick } from "../ui/Tick";
import { carriedQuery } from "./carried";
import { FrameList } from "./FrameList";
import { kindsOf } from "./kinds";
import { Plane } from "./Plane";

interface ChooseProps {
  rider: string;
  view: NextView;
  from: NextAsked["from"];
  catalogue: Catalogue;
  onCarry: (frame: string) => void;
}

/** So many ranks are shown before all are asked for. */
const FIRST = 12;
const STEP = { unit: "mm", step: 5, fine_step: 1, min: 0, max: 200 } as const;

/** Choose a frame: ranked by what parts bring the rider there, and how ordinary those are. */
export function ChooseSection({ rider, view, from, catalogue, onCarry }: ChooseProps) {
  const [limits, setLimits] = useState(view.limits);
  // Of a kind of which there are none, every frame is looked at.
  const [kind, setKind] = useState<Kind | null>(view.frames.some((of) => of.kind === view.kind) ? view.kind : null);
  const [on, setOn] = useState<string>();
  const [other, setOther] = useState<string>();
  const [all, setAll] = useState(false);
  const asked = { from, limits, kinds: kind ? [kind] : [], beside: on && other ? [on, other] : undefined };
  const chosen = useQuery({
    queryKey: ["next choose", rider, asked, view.frames.length],
    queryFn: () =>
      answer<ChoiceView>(
        api.POST("/api/riders/{id}/next/choose", { params: { path: { id: rider } }, body: asked as never }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const { data } = chosen;
  const ranked = data?.choice.ranked ?? [];
  const idOf = (one: Ranked) => data?.ids[one.index];
  const lit = ranked.find((one) => idOf(one) === on);
  return (
    <div className="next-cols">
      <div>
        {data && <Plane choice={data.choice} on={lit?.index} />}
        <Limits limits={limits} onLimits={setLimits} />
        <FrameList catalogue={catalogue} />
      </div>
      <section aria-labelledby="choose">
        <h2 id="choose">Choose a frame</h2>
        <div className="fields">
          <Choice
            label="Frames for"
            none="every kind of riding"
            options={kindsOf(catalogue)}
            value={kind}
            fieldKey="next.kind"
            onPick={setKind}
          />
        </div>
        <Problem words={chosen.error ? words(chosen.error) : undefined} />
        {data && ranked.length === 0 && (
          <p>No frame of that kind is in the library: take a list in, or ask for another kind.</p>
        )}
        {data && ranked.length > 0 && (
          <>
            <Ranks
              rider={rider}
              from={from}
              view={data}
              most={all ? ranked.length : FIRST}
              on={on}
              other={other}
              onPick={setOn}
              onBeside={setOther}
              onCarry={onCarry}
            />
            {ranked.length > FIRST && (
              <p>
                <button type="button" className="more" aria-expanded={all} onClick={() => setAll(!all)}>
                  {all ? `Only the first ${FIRST}` : `All ${ranked.length}`}
                </button>
              </p>
            )}
            {other && on && <Lines title={besideTitle(data, on, other)} lines={data.beside} />}
          </>
        )}
      </section>
    </div>
  );
}

function besideTitle(view: ChoiceView, one: string, other: string): string {
  const name = (id: string) => view.choice.ranked.find((of) => view.ids[of.index] === id)?.name ?? "";
  return `${name(one)} against ${name(other)}`;
}

interface RanksProps {
  rider: string;
  from: NextAsked["from"];
  view: ChoiceView;
  most: number;
  on: string | undefined;
  other: string | undefined;
  onPick: (id: string) => void;
  onBeside: (id: string) => void;
  onCarry: (id: string) => void;
}

function Ranks({ rider, from, view, most, on, other, onPick, onBeside, onCarry }: RanksProps) {
  const picked = view.choice.ranked.find((one) => view.ids[one.index] === on)?.name;
  return (
    <table data-testid="ranks">
      <thead>
        <tr>
          <th scope="col">Frame and its parts</th>
          <th scope="col" className="n">
            Off{suffix("mm") && `,${suffix("mm")}`}
          </th>
          <th scope="col" className="n">
            Marked down
          </th>
          <th scope="col">Room lower, higher</th>
        </tr>
      </thead>
      <tbody>
        {view.choice.ranked.slice(0, most).map((one, place) => {
          const id = view.ids[one.index] ?? "";
          return (
            <tr key={id} className={`${id === on || id === other ? "on" : ""}${one.reached ? "" : " out"}`}>
              <td>
                <button type="button" className="more" aria-pressed={id === on} onClick={() => onPick(id)}>
                  <b>{one.name}</b>
                </button>
                <div>{view.parts[place]}</div>
                {id === on ? (
                  <Why rider={rider} from={from} id={id} of={one} onCarry={() => onCarry(id)} />
                ) : (
                  on && (
                    <button type="button" className="more" aria-pressed={id === other} onClick={() => onBeside(id)}>
                      Beside {picked}
                    </button>
                  )
                )}
              </td>
              <td className="n">
                {one.reached ? "reached" : "not reached"}
                <div>
                  {number(one.saddle_off_mm, "mm")} / {number(one.hand_off_mm, "mm")}
                </div>
              </td>
              <td className="n">{number(one.points)}</td>
              <td>
                {number(one.lower_mm, "mm")}, {withUnit(one.higher_mm, "mm")}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

interface WhyProps {
  rider: string;
  from: NextAsked["from"];
  id: string;
  of: Ranked;
  onCarry: () => void;
}

/** Why a frame stands where it does, and what it is built of exactly: of the box first, then of what is sold. */
function Why({ rider, from, id, of, onCarry }: WhyProps) {
  const marks = of.marked_down.map((mark) => `${mark.words} (${number(mark.points)})`);
  const exact = useQuery(carriedQuery(rider, { from, onto: { frame: id } }));
  const built = exact.data?.carried;
  const order = built?.to_order.map((part) => `To order: ${part}`) ?? [];
  return (
    <>
      <Lines title="Marked down for" lines={marks} />
      <Lines title="Besides" lines={of.told} />
      {built && <Lines title="Built of what there is" lines={[...built.built, ...order, ...built.in_the_way]} />}
      <Button onClick={onCarry}>Carry to it</Button>
    </>
  );
}

function Limits({ limits, onLimits }: { limits: PartLimits; onLimits: (limits: PartLimits) => void }) {
  const field = (key: "shortest_stem_mm" | "longest_stem_mm" | "most_spacers_mm", label: string) => (
    <NumberField
      key={key}
      label={label}
      spec={STEP}
      value={limits[key]}
      fieldKey={`next.${key}`}
      onCommit={(value) => {
        if (value < STEP.min || value > STEP.max) return `${label} is 0 to ${withUnit(STEP.max, "mm")}`;
        const next = { ...limits, [key]: value };
        if (next.longest_stem_mm < next.shortest_stem_mm) return "The longest stem is at least as long as the shortest";
        onLimits(next);
        return undefined;
      }}
      onStep={(value) => onLimits({ ...limits, [key]: value })}
    />
  );
  return (
    <>
      <h2>What parts may be</h2>
      <div className="fields">
        {field("shortest_stem_mm", "Shortest stem")}
        {field("longest_stem_mm", "Longest stem")}
        {field("most_spacers_mm", "Most spacers")}
        <Tick
          label="stems turned up"
          on={limits.turned_up}
          readOnly={false}
          onTick={(turned_up) => onLimits({ ...limits, turned_up })}
        />
        <Tick
          label="steep stems"
          on={limits.steep}
          readOnly={false}
          onTick={(steep) => onLimits({ ...limits, steep })}
        />
      </div>
    </>
  );
}
