/** What was typed, read: a plain number here, anything with a unit by the server. */
import { answer, api, ApiError } from "../api/client";
import type { Unit } from "../api/types";
import { fromShown, parse } from "./format";

/** The number in the field's unit, or what would be right. */
export async function readTyped(text: string, unit: Unit): Promise<number | string> {
  const plain = parse(text);
  if (plain !== undefined) return fromShown(plain, unit);
  try {
    const read = await answer<{ value: number }>(api.GET("/api/typed", { params: { query: { text, unit } } }));
    return read.value;
  } catch (error) {
    return error instanceof ApiError ? (error.at("/value") ?? error.message) : "That could not be read: try again.";
  }
}
