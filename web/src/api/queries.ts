/** What is read from the API, by key. */
import { queryOptions } from "@tanstack/react-query";
import { answer, api } from "./client";
import type {
  AxisOpen,
  AxisScore,
  BarsView,
  BetweenView,
  CardLink,
  Catalogue,
  CausesView,
  Change,
  CranksView,
  DevicesView,
  FeetView,
  Handout,
  HouseJudging,
  JudgeView,
  JudgedAxis,
  MapView,
  AeroView,
  OffRoadView,
  OnGrade,
  PlaneView,
  Sizing,
  Point,
  Position,
  PracticeOpen,
  PracticeView,
  Proof,
  LanView,
  LedgerView,
  RecordView,
  RiderLine,
  RiderView,
  Rule,
  RunView,
  SaddleView,
  SessionView,
  SetbackParts,
  StudioView,
  TakesView,
  UnreadableLine,
  VisitView,
  WeighedView,
} from "./types";

export const catalogueQuery = queryOptions({
  queryKey: ["catalogue"],
  queryFn: () => answer<Catalogue>(api.GET("/api/catalogue")),
  staleTime: Infinity,
});

export const riderQuery = (id: string) =>
  queryOptions({
    queryKey: ["rider", id],
    queryFn: () => answer<RiderView>(api.GET("/api/riders/{id}", { params: { path: { id } } })),
  });

export const sessionQuery = (id: string) =>
  queryOptions({
    queryKey: ["session", id],
    queryFn: () => answer<SessionView>(api.GET("/api/sessions/{id}", { params: { path: { id } } })),
    refetchOnWindowFocus: true,
  });

/** The takes of a fit, seen the way that is asked for; else as the last one was. */
export const takesQuery = (id: string, way?: string) =>
  queryOptions({
    queryKey: way === undefined ? ["takes", id] : ["takes", id, way],
    queryFn: () =>
      answer<TakesView>(
        api.GET("/api/sessions/{id}/takes", { params: { path: { id }, query: way === undefined ? {} : { way } } }),
      ),
    placeholderData: (before) => before,
  });

export const handoutQuery = (id: string) =>
  queryOptions({
    queryKey: ["handout", id],
    queryFn: () => answer<Handout>(api.GET("/api/sessions/{id}/handout", { params: { path: { id } } })),
  });

export const betweenQuery = (id: string) =>
  queryOptions({
    queryKey: ["between", id],
    queryFn: () => answer<BetweenView>(api.GET("/api/sessions/{id}/between", { params: { path: { id } } })),
  });

export const ledgerQuery = (id: string) =>
  queryOptions({
    queryKey: ["ledger", id],
    queryFn: () => answer<LedgerView>(api.GET("/api/sessions/{id}/ledger", { params: { path: { id } } })),
  });

export const cardLinkQuery = (id: string) =>
  queryOptions({
    queryKey: ["card link", id],
    queryFn: () => answer<CardLink>(api.GET("/api/sessions/{id}/card-link", { params: { path: { id } } })),
  });

export const visitsQuery = queryOptions({
  queryKey: ["visits"],
  queryFn: () => answer<VisitView[]>(api.GET("/api/visits")),
});

export const studioQuery = queryOptions({
  queryKey: ["studio"],
  queryFn: () => answer<StudioView>(api.GET("/api/studio")),
});

export const recordQuery = queryOptions({
  queryKey: ["record"],
  queryFn: () => answer<RecordView>(api.GET("/api/record")),
});

export const lanQuery = queryOptions({
  queryKey: ["lan"],
  queryFn: () => answer<LanView>(api.GET("/api/lan")),
  refetchInterval: 10_000,
});

export const unreadableQuery = queryOptions({
  queryKey: ["record", "unreadable"],
  queryFn: () => answer<UnreadableLine[]>(api.GET("/api/record/unreadable")),
});

export const roomQuery = (find: string, archived: boolean) =>
  queryOptions({
    queryKey: ["riders", find, archived],
    queryFn: ({ signal }) =>
      answer<RiderLine[]>(api.GET("/api/riders", { params: { query: { find, archived } }, signal })),
    placeholderData: (previous) => previous,
  });

/** What a station computes besides the board, for the session as it was read. */
export const feetQuery = (id: string, version: string) =>
  queryOptions({
    queryKey: ["feet", id, version],
    queryFn: () => answer<FeetView>(api.GET("/api/sessions/{id}/feet", { params: { path: { id } } })),
    placeholderData: (previous) => previous,
  });

export const cranksQuery = (id: string, version: string, to: number | undefined) =>
  queryOptions({
    queryKey: ["cranks", id, version, to],
    queryFn: () =>
      answer<CranksView>(api.GET("/api/sessions/{id}/cranks", { params: { path: { id }, query: { to } } })),
    placeholderData: (previous) => previous,
  });

export const positionQuery = (session: string) =>
  queryOptions({
    queryKey: ["position", session],
    queryFn: () => answer<Position>(api.GET("/api/sessions/{id}/position", { params: { path: { id: session } } })),
    placeholderData: (previous) => previous,
  });

export const rulesQuery = queryOptions({
  queryKey: ["rules"],
  queryFn: () => answer<Rule[]>(api.GET("/api/rules")),
  staleTime: Infinity,
});

export const hundredQuery = queryOptions({
  queryKey: ["hundred"],
  queryFn: () => answer<Proof>(api.GET("/api/hundred")),
  staleTime: Infinity,
});

export const saddleQuery = (id: string, version: string) =>
  queryOptions({
    queryKey: ["saddle", id, version],
    queryFn: () => answer<SaddleView>(api.GET("/api/sessions/{id}/saddle", { params: { path: { id } } })),
    placeholderData: (previous) => previous,
  });

export const mapQuery = (id: string, version: string) =>
  queryOptions({
    queryKey: ["map", id, version],
    queryFn: () => answer<MapView>(api.GET("/api/sessions/{id}/saddle/map", { params: { path: { id } } })),
    placeholderData: (previous) => previous,
  });

/** The bars, with the front ends for a place of the hands where one is asked for. */
export const barsQuery = (id: string, version: string, at: Point | undefined) =>
  queryOptions({
    queryKey: ["bars", id, version, at?.[0], at?.[1]],
    queryFn: () =>
      answer<BarsView>(
        api.GET("/api/sessions/{id}/bars", { params: { path: { id }, query: at ? { x: at[0], y: at[1] } : {} } }),
      ),
    placeholderData: (previous) => previous,
  });

/** The position on pads, turned as one piece. */
export const aeroQuery = (id: string, version: string, by: number) =>
  queryOptions({
    queryKey: ["aero", id, version, by],
    queryFn: () => answer<AeroView>(api.GET("/api/sessions/{id}/aero", { params: { path: { id }, query: { by } } })),
    placeholderData: (previous) => previous,
  });

export const offRoadQuery = (id: string, version: string) =>
  queryOptions({
    queryKey: ["off-road", id, version],
    queryFn: () => answer<OffRoadView>(api.GET("/api/sessions/{id}/off-road", { params: { path: { id } } })),
    placeholderData: (previous) => previous,
  });

export const gradeQuery = (id: string, version: string, percent: number) =>
  queryOptions({
    queryKey: ["grade", id, version, percent],
    queryFn: () =>
      answer<OnGrade>(api.GET("/api/sessions/{id}/grade", { params: { path: { id }, query: { percent } } })),
    placeholderData: (previous) => previous,
  });

/** The off-road sizes of the frame library for a rider. */
export const sizingQuery = (id: string, version: number) =>
  queryOptions({
    queryKey: ["sizing", id, version],
    queryFn: () => answer<Sizing>(api.GET("/api/riders/{id}/sizing", { params: { path: { id } } })),
  });

export const planeQuery = (id: string, version: string) =>
  queryOptions({
    queryKey: ["plane", id, version],
    queryFn: () => answer<PlaneView>(api.GET("/api/sessions/{id}/bars/plane", { params: { path: { id } } })),
    placeholderData: (previous) => previous,
  });

export const partsQuery = (id: string, version: string, setback: number) =>
  queryOptions({
    queryKey: ["parts", id, version, setback],
    queryFn: () =>
      answer<SetbackParts>(
        api.GET("/api/sessions/{id}/saddle/parts", { params: { path: { id }, query: { setback } } }),
      ),
    retry: false,
  });

export const causesQuery = (id: string, version: string) =>
  queryOptions({
    queryKey: ["causes", id, version],
    queryFn: () => answer<CausesView>(api.GET("/api/sessions/{id}/causes", { params: { path: { id } } })),
    placeholderData: (previous) => previous,
  });

export const runQuery = (id: string) =>
  queryOptions({
    queryKey: ["run", id],
    queryFn: () => answer<RunView>(api.GET("/api/runs/{id}", { params: { path: { id } } })),
    refetchOnWindowFocus: true,
  });

export const judgeQuery = (id: string, version: string) =>
  queryOptions({
    queryKey: ["judge", id, version],
    queryFn: () => answer<JudgeView>(api.GET("/api/sessions/{id}/judge", { params: { path: { id } } })),
    placeholderData: (previous) => previous,
  });

/** One axis opened, with where the changes asked for would put it. */
export const axisQuery = (id: string, version: string, axis: JudgedAxis, changes: Change[]) =>
  queryOptions({
    queryKey: ["judge axis", id, version, axis, changes],
    queryFn: () =>
      answer<AxisOpen>(
        api.POST("/api/sessions/{id}/judge/axis", { params: { path: { id } }, body: { axis, changes } }),
      ),
    placeholderData: (previous) => previous,
  });

export const scoreQuery = queryOptions({
  queryKey: ["score"],
  queryFn: () => answer<AxisScore[]>(api.GET("/api/judge/score")),
});

export const houseJudgingQuery = queryOptions({
  queryKey: ["house judging"],
  queryFn: () => answer<HouseJudging>(api.GET("/api/judge/house")),
  staleTime: Infinity,
});

/** What is connected. */
export const devicesQuery = queryOptions({
  queryKey: ["devices"],
  queryFn: () => answer<DevicesView>(api.GET("/api/devices")),
});

/** Fits of practice. */
export const practiceQuery = queryOptions({
  queryKey: ["practice"],
  queryFn: () => answer<PracticeView>(api.GET("/api/practice")),
});

/** One fit of practice, with its truth once it is ended. */
export const practisedQuery = (rider: string) =>
  queryOptions({
    queryKey: ["practice", rider],
    queryFn: () => answer<PracticeOpen>(api.GET("/api/practice/{rider}", { params: { path: { rider } } })),
  });

/** What two scales tell of a fit as it stands. */
export const weighedQuery = (id: string, front_kg: number, rear_kg: number, version: number) =>
  queryOptions({
    queryKey: ["weighed", id, front_kg, rear_kg, version],
    queryFn: () =>
      answer<WeighedView>(
        api.GET("/api/sessions/{id}/weighed", { params: { path: { id }, query: { front_kg, rear_kg } } }),
      ),
    retry: false,
  });
