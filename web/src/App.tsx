import { lazy, Suspense } from "react";
import { Route, Routes } from "react-router";
import { RoomPage } from "./riders/RoomPage";
import { Nowhere } from "./ui/Page";

const RiderPage = lazy(() => import("./riders/RiderPage"));
const SessionPage = lazy(() => import("./stations/SessionPage"));
const StudioPage = lazy(() => import("./riders/StudioPage"));
const HandoutPage = lazy(() => import("./handout/HandoutPage"));

export function App() {
  return (
    <Suspense fallback={null}>
      <Routes>
        <Route path="/" element={<RoomPage />} />
        <Route path="/studio" element={<StudioPage />} />
        <Route path="/riders/:id" element={<RiderPage />} />
        <Route path="/sessions/:id" element={<SessionPage />} />
        <Route path="/sessions/:id/hand-out" element={<HandoutPage />} />
        <Route path="*" element={<Nowhere what="There is no such page." />} />
      </Routes>
    </Suspense>
  );
}
