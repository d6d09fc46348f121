import type { ComponentType } from "react";
import type { Fit } from "./useFit";

/** What can be chosen of how a fit tapes. */
export type Pick = "saddle_height" | "setback" | "drop" | "bb_to_hand" | "sit_reference";

/** Where the board has a place of the bike, in its own pixels. */
export interface Paper {
  x: (mm: number) => number;
  y: (mm: number) => number;
}

/** A station: what it shows, and where. Its queries and keys are its components' own. */
export interface StationEntry {
  /** Its main view in the place of the board; then its panel is the whole panel. */
  Paper?: ComponentType;
  /** A long page over the main view, and whether it can be opened: with the bike as found closed, when left out. */
  Page?: ComponentType;
  opens?: (fit: Fit) => boolean;
  /** First in the panel, also beside a trial. */
  Lead?: ComponentType;
  /** In the place of "Your change" while nothing is changed and no trial stands; `early`: before the bike as found is closed too. */
  Card?: ComponentType;
  early?: boolean;
  /** What it draws on the board besides. */
  Drawn?: ComponentType<{ paper: Paper }>;
  /** What can be taken hold of on the board itself. */
  Handle?: ComponentType<{ paper: Paper }>;
  /** Whether its card shows the values itself. */
  reads?: boolean;
  /** Below the card. */
  Panel?: ComponentType;
  /** Whether what its panel asks for is there: all below it comes with it, so that nothing moves once it is seen. */
  useAnswered?: () => boolean;
  /** Last in the panel, while the fit goes on. */
  Foot?: ComponentType;
  /** Where the focus lands on coming here: what leads in the panel, or the main view's first field a Tab away. */
  lands?: "main";
  /** The first of the fields F goes to, where they are not on the board: what their keys begin with. */
  fields?: string;
  /** The conventions that are asked about here. */
  picks?: Pick[];
}
