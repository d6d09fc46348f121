import "./saddle.css";
import type { StationEntry } from "../../fit/station";
import { PlumbOnGrade } from "../kinds/PlumbOnGrade";
import { SaddleLead } from "./SaddleLead";
import { SaddlePage } from "./SaddlePage";
import { SaddlePanel } from "./SaddlePanel";
import { useSaddle } from "./useSaddle";

const saddle: StationEntry = {
  Lead: SaddleLead,
  Panel: SaddlePanel,
  useAnswered: () => useSaddle().data !== undefined,
  Page: SaddlePage,
};

export const saddleHeight: StationEntry = { ...saddle, picks: ["saddle_height"] };
export const setback: StationEntry = { ...saddle, Drawn: PlumbOnGrade, picks: ["setback", "sit_reference"] };
