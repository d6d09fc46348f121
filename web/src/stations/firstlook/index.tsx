import "./firstlook.css";
import type { StationEntry } from "../../fit/station";
import { CalibrationPage } from "./CalibrationPage";
import { FirstLook } from "./FirstLook";

export const firstLook: StationEntry = {
  Card: FirstLook,
  reads: true,
  fields: "look.",
  Page: CalibrationPage,
  opens: ({ closed, bench }) => closed && !bench,
};
