/** What was typed, read: a plain number here, anything with a unit by the server. */
import { answer, api, ApiError } from "../api/client";
import type { Spec } from "../api/types";
import { fromShown, parse } from "./format";

/** What is typed into: its unit, and its quantity where it has one. */
type Into = Pick<Spec, "unit"> & Partial<Pick<Spec, "quantity">>;

/** The number in the field's unit, or what would be right. */
export async function readTyped(text: string, into: Into): Promise<number | string> {
  const plain = parse(text);
  return plain === undefined ? asked(text, into) : fromShown(plain, into.unit);
}

/** The same for a field of a form that is sent as a whole: a number the quantity cannot be is said with the rest. */
export function readStrictly(text: string, into: Into): Promise<number | string> {
  const plain = parse(text);
  return asked(plain === undefined ? text : String(fromShown(plain, into.unit)), into);
}

async function asked(text: string, { unit, quantity }: Into): Promise<number | string> {
  try {
    const read = await answer<{ value: number }>(
      api.GET("/api/typed", { params: { query: { text, unit, quantity } } }),
    );
    return read.value;
  } catch (error) {
    return error instanceof ApiError ? (error.at("/value") ?? error.message) : "That could not be read: try again.";
  }
}
