import { useQuery } from "@tanstack/react-query";
import type { QueryClient } from "@tanstack/react-query";
import { type ComponentType, lazy, Suspense, useEffect, useState } from "react";
import { Route, Routes } from "react-router";
import { ApiError } from "./api/client";
import { catalogueQuery, riderQuery, roomQuery, sessionQuery, studioQuery } from "./api/queries";
import { RoomPage } from "./riders/RoomPage";
import { showIn } from "./ui/format";
import { Nowhere, TopBar } from "./ui/Page";

/** A page in a file of its own. Once loaded it is there at once: waiting for it shows nothing, and for longer. */
function page(load: () => Promise<{ default: ComponentType }>) {
  let there: ComponentType | undefined;
  const Later = lazy(load);
  return {
    load: () => load().then((loaded) => void (there = loaded.default)),
    Page: function Page() {
      const [Shown] = useState<ComponentType>(() => there ?? Later);
      return <Shown />;
    },
  };
}

const rider = page(() => import("./riders/RiderPage"));
const session = page(() => import("./session/SessionPage"));
const protocol = page(() => import("./protocol/ProtocolPage"));
const takes = page(() => import("./takes/TakesPage"));
const film = page(() => import("./film/FilmPage"));
const studio = page(() => import("./riders/StudioPage"));
const judging = page(() => import("./riders/JudgingPage"));
const enter = page(() => import("./riders/EnterPage"));
const rules = page(() => import("./riders/RulesPage"));
const hundred = page(() => import("./riders/HundredPage"));
const devices = page(() => import("./riders/DevicesPage"));
const practice = page(() => import("./riders/PracticePage"));
const revealed = page(() => import("./riders/RevealedPage"));
const plan = page(() => import("./between/PlanPage"));
const rides = page(() => import("./between/LedgerPage"));
const visits = page(() => import("./between/VisitsPage"));
const next = page(() => import("./next/NextPage"));
const handout = page(() => import("./handout/HandoutPage"));

/** The page of an address, loaded, with what it asks for first on its way; answers when it can be drawn. */
export async function coming(path: string, queries: QueryClient): Promise<void> {
  const nothing = () => undefined;
  queries.query(catalogueQuery).catch(nothing);
  queries.query(studioQuery).catch(nothing);
  const [, room, id, leaf] = path.split("/");
  if (room === "sessions" && id && leaf === undefined) queries.query(sessionQuery(id)).catch(nothing);
  if (room === "riders" && id) queries.query(riderQuery(id)).catch(nothing);
  if (room === "") queries.query(roomQuery("", false)).catch(nothing);
  const pages: Record<string, { load: () => Promise<void> }> = {
    riders: leaf === "next" ? next : rider,
    runs: protocol,
    studio,
    rules,
    "how-good": hundred,
    devices,
    practice: id === undefined ? practice : revealed,
    judging,
    visits,
  };
  const leaves: Record<string, { load: () => Promise<void> }> = { takes, film, "hand-out": handout, plan, rides };
  await (room === "sessions" ? (leaf === undefined ? session : leaves[leaf]) : pages[room ?? ""])?.load();
}

/** What stands for the units of a device that is not let in yet. */
const OUTSIDE = "outside";

/** The units the studio reads in: nothing is drawn before they are known, and all of it anew when they change. */
function useUnits(): string | undefined {
  const studio = useQuery(studioQuery);
  const catalogue = useQuery(catalogueQuery);
  if (catalogue.error instanceof ApiError && catalogue.error.status === 401) return OUTSIDE;
  if (!catalogue.data || studio.isPending) return undefined;
  const { length = "mm", mass = "kg" } = studio.data?.house.units ?? {};
  const known = (units: { key: string; label: string; holds: number }[], key: string) =>
    units.find((unit) => unit.key === key) ?? { label: key, holds: 1 };
  showIn(catalogue.data.units, known(catalogue.data.length_units, length), known(catalogue.data.mass_units, mass));
  return `${length} ${mass}`;
}

/** The pages; `page` is the first one on its way. */
export function App({ page }: { page: Promise<void> }) {
  const units = useUnits();
  const [come, setCome] = useState(false);
  useEffect(() => {
    // One that does not come is asked for again when it is drawn.
    const there = () => setCome(true);
    void page.then(there, there);
  }, [page]);
  if (units === undefined || !come) return <TopBar />;
  if (units === OUTSIDE) {
    return (
      <Suspense fallback={<TopBar />}>
        <enter.Page />
      </Suspense>
    );
  }
  return (
    <Suspense fallback={<TopBar />}>
      <Routes key={units}>
        <Route path="/" element={<RoomPage />} />
        <Route path="/studio" element={<studio.Page />} />
        <Route path="/rules" element={<rules.Page />} />
        <Route path="/how-good" element={<hundred.Page />} />
        <Route path="/devices" element={<devices.Page />} />
        <Route path="/practice" element={<practice.Page />} />
        <Route path="/practice/:id" element={<revealed.Page />} />
        <Route path="/judging" element={<judging.Page />} />
        <Route path="/riders/:id" element={<rider.Page />} />
        <Route path="/riders/:id/next" element={<next.Page />} />
        <Route path="/sessions/:id" element={<session.Page />} />
        <Route path="/runs/:id" element={<protocol.Page />} />
        <Route path="/sessions/:id/takes" element={<takes.Page />} />
        <Route path="/sessions/:id/film" element={<film.Page />} />
        <Route path="/sessions/:id/hand-out" element={<handout.Page />} />
        <Route path="/sessions/:id/plan" element={<plan.Page />} />
        <Route path="/sessions/:id/rides" element={<rides.Page />} />
        <Route path="/visits" element={<visits.Page />} />
        <Route path="*" element={<Nowhere what="There is no such page." />} />
      </Routes>
    </Suspense>
  );
}
