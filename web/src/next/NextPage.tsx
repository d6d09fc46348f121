import "../cards/cards.css";
import "../riders/rider.css";
import "./next.css";
import { chakra, Flex } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation, useParams, useSearchParams } from "react-router";
import { answer, api, ApiError, words } from "../api/client";
import { catalogueQuery, riderQuery } from "../api/queries";
import type { Catalogue, NextAsked, NextView, Quantity, RiderView } from "../api/types";
import { Choice } from "../ui/Choice";
import { number, withUnit } from "../ui/format";
import { NumberField } from "../ui/NumberField";
import { Nowhere, Page } from "../ui/Page";
import { Problem } from "../ui/Problem";
import { useKept } from "../ui/useKept";
import { CarrySection } from "./CarrySection";
import { ChooseSection } from "./ChooseSection";
import { kindsOf } from "./kinds";
import { MadeSection } from "./MadeSection";

/** The next bike of a rider: a position carried, a frame chosen, a frame made to measure. */
export default function NextPage() {
  const { id = "" } = useParams();
  const rider = useQuery(riderQuery(id));
  const catalogue = useQuery(catalogueQuery);
  if (rider.error) return <Nowhere what={words(rider.error)} />;
  if (!rider.data || !catalogue.data) return null;
  return <Loaded view={rider.data} catalogue={catalogue.data} />;
}

const TABS = [
  ["carry", "Carry to another bike"],
  ["choose", "Choose a frame"],
  ["made", "Made to measure"],
] as const;
type Tab = (typeof TABS)[number][0];

/** Points an upright road rider of middle size has, to type over. */
const POINTS = {
  kind: "road",
  saddle_height_mm: 720,
  setback_mm: 200,
  tilt_deg: 0,
  bb_to_hand_mm: 560,
  bb_to_hand_up_mm: 640,
  crank_mm: 170,
};
type Points = typeof POINTS;

function Loaded({ view: { rider, years }, catalogue }: { view: RiderView; catalogue: Catalogue }) {
  const [search, setSearch] = useSearchParams();
  const location = useLocation();
  const why = (location.state as { why?: string } | null)?.why;
  const newest = years.fits.reduce<(typeof years.fits)[number] | undefined>(
    (last, fit) => (last === undefined || fit.day >= last.day ? fit : last),
    undefined,
  );
  const fit = search.get("fit") ?? newest?.session_id;
  const typed = search.get("from") === "points" || fit === undefined;
  const points = useKept<Points>(`next.${rider.id}`, POINTS);
  const from = (typed ? { points: points.state } : { fit }) as NextAsked["from"];
  const tab = (TABS.find(([key]) => key === search.get("to"))?.[0] ?? "carry") satisfies Tab;
  const [frame, setFrame] = useState<string>();
  const go = (some: Record<string, string>) =>
    setSearch(
      (was) => {
        for (const [key, value] of Object.entries(some)) was.set(key, value);
        return was;
      },
      { state: location.state as unknown },
    );
  const next = useQuery({
    queryKey: ["next", rider.id, from],
    queryFn: () =>
      answer<NextView>(
        api.POST("/api/riders/{id}/next", { params: { path: { id: rider.id } }, body: { from } as never }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const { data } = next;
  const key = JSON.stringify(from);
  return (
    <Page title={`Next bike, ${rider.name}`} wide>
      <Flex gap="24px" fontSize="16px" color="tide" textDecoration="underline" wrap="wrap">
        <Link to={`/riders/${rider.id}`}>Back to {rider.name}</Link>
        {!typed && <Link to={`/sessions/${fit}`}>Back to the fit</Link>}
      </Flex>
      <chakra.h1 fontSize="29px" overflowWrap="anywhere">
        {rider.name}: the next bike
      </chakra.h1>
      <div className="next">
        {why !== undefined && <p className="reason">{why}</p>}
        <div className="fields">
          <Choice
            label="The position is from"
            options={[
              ...(data?.sources ?? []).map((source) => ({ key: source.fit, label: source.words })),
              { key: "points", label: "points typed here" },
            ]}
            value={typed ? "points" : fit}
            fieldKey="next.from"
            onPick={(picked) => picked && go(picked === "points" ? { from: "points" } : { from: "fit", fit: picked })}
          />
        </div>
        {typed && <TypedPoints catalogue={catalogue} points={points.state} error={next.error} onEdit={points.edit} />}
        <Problem words={next.error && !typed ? words(next.error) : undefined} />
        <nav className="next-tabs" aria-label="What is next">
          {TABS.map(([key, label]) => (
            <button
              key={key}
              type="button"
              className={key === tab ? "bike-word on" : "bike-word"}
              aria-pressed={key === tab}
              onClick={() => go({ to: key })}
            >
              {label}
            </button>
          ))}
        </nav>
        {data && !next.error && (
          <>
            {tab === "carry" && (
              <CarrySection key={key + (frame ?? "")} rider={rider.id} view={data} from={from} frame={frame} />
            )}
            {tab === "choose" && (
              <ChooseSection
                key={key}
                rider={rider.id}
                view={data}
                from={from}
                catalogue={catalogue}
                onCarry={(chosen) => {
                  setFrame(chosen);
                  go({ to: "carry" });
                }}
              />
            )}
            {tab === "made" && <MadeSection key={key} rider={rider.id} name={rider.name} view={data} from={from} />}
            <Contacts view={data} />
          </>
        )}
      </div>
    </Page>
  );
}

interface TypedProps {
  catalogue: Catalogue;
  points: Points;
  error: unknown;
  onEdit: (some: Partial<Points>) => void;
}

/** Contact points as typed, each from the BB. */
function TypedPoints({ catalogue, points, error, onEdit }: TypedProps) {
  const keys = Object.keys(POINTS).filter((key) => key !== "kind") as Exclude<keyof Points, "kind">[];
  const wrong = error instanceof ApiError ? error : undefined;
  const beside = keys.some((key) => wrong?.at(`/${key}`));
  return (
    <>
      <div className="fields">
        <Choice
          label="For"
          options={kindsOf(catalogue)}
          value={points.kind}
          fieldKey="next.points.kind"
          onPick={(kind) => kind && onEdit({ kind })}
        />
        {keys.map((key) => {
          const spec = catalogue.quantities.find((of) => of.quantity === (key as Quantity));
          if (!spec) return null;
          return (
            <NumberField
              key={key}
              label={spec.label}
              how={spec.how}
              spec={spec}
              value={points[key]}
              fieldKey={`next.points.${key}`}
              error={wrong?.at(`/${key}`)}
              onCommit={(value) => {
                onEdit({ [key]: value });
                return undefined;
              }}
              onStep={(value) => onEdit({ [key]: value })}
            />
          );
        })}
      </div>
      <p className="other">
        Straight from the BB to the sit reference, where the saddle is {withUnit(80, "mm")} wide; level and up from the
        BB to the hands. Nobody has ridden what is only typed.
      </p>
      <Problem words={error && !beside ? words(error) : undefined} />
    </>
  );
}

/** The contact points in every convention. */
function Contacts({ view }: { view: NextView }) {
  const [open, setOpen] = useState(false);
  return (
    <section aria-labelledby="contacts">
      <h2 id="contacts">
        <button type="button" className="more" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Contact points" : "Show the contact points in every convention"}
        </button>
      </h2>
      {open && (
        <table>
          <tbody>
            {view.contacts.map((one) => (
              <tr key={`${one.label} ${one.convention}`} className={one.other ? "out" : ""}>
                <th scope="row">{one.label}</th>
                <td>{one.convention}</td>
                <td className="n">{number(one.value, one.unit)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
