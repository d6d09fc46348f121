import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { Route, Routes } from "react-router";
import { catalogueQuery, studioQuery } from "./api/queries";
import { RoomPage } from "./riders/RoomPage";
import { showIn } from "./ui/format";
import { Nowhere } from "./ui/Page";

const pages = {
  "/riders/": () => import("./riders/RiderPage"),
  "/sessions/": () => import("./session/SessionPage"),
  "/runs/": () => import("./protocol/ProtocolPage"),
  "/studio": () => import("./riders/StudioPage"),
  "/rules": () => import("./riders/RulesPage"),
};
const RiderPage = lazy(pages["/riders/"]);
const SessionPage = lazy(pages["/sessions/"]);
const ProtocolPage = lazy(pages["/runs/"]);
const StudioPage = lazy(pages["/studio"]);
const RulesPage = lazy(pages["/rules"]);
const HandoutPage = lazy(() => import("./handout/HandoutPage"));

// The page that is asked for comes while the studio's units do.
for (const [path, load] of Object.entries(pages)) {
  if (window.location.pathname.startsWith(path)) void load();
}

/** The units the studio reads in: nothing is drawn before they are known, and all of it anew when they change. */
function useUnits(): string | undefined {
  const studio = useQuery(studioQuery);
  const catalogue = useQuery(catalogueQuery);
  if (!catalogue.data || studio.isPending) return undefined;
  const { length = "mm", mass = "kg" } = studio.data?.house.units ?? {};
  const known = (units: { key: string; label: string; holds: number }[], key: string) =>
    units.find((unit) => unit.key === key) ?? { label: key, holds: 1 };
  showIn(catalogue.data.units, known(catalogue.data.length_units, length), known(catalogue.data.mass_units, mass));
  return `${length} ${mass}`;
}

export function App() {
  const units = useUnits();
  if (units === undefined) return null;
  return (
    <Suspense fallback={null}>
      <Routes key={units}>
        <Route path="/" element={<RoomPage />} />
        <Route path="/studio" element={<StudioPage />} />
        <Route path="/rules" element={<RulesPage />} />
        <Route path="/riders/:id" element={<RiderPage />} />
        <Route path="/sessions/:id" element={<SessionPage />} />
        <Route path="/runs/:id" element={<ProtocolPage />} />
        <Route path="/sessions/:id/hand-out" element={<HandoutPage />} />
        <Route path="*" element={<Nowhere what="There is no such page." />} />
      </Routes>
    </Suspense>
  );
}
