/** The published schemas hold for what Wedge writes, and for nothing else. */
import { expect, test } from "@playwright/test";
import { Ajv2020 } from "ajv/dist/2020.js";
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { BINARY } from "./wedge";

const read = (path: string) => JSON.parse(readFileSync(path, "utf8")) as Record<string, unknown>;

function validator(format: string) {
  const ajv = new Ajv2020({ strict: false, validateFormats: false });
  return ajv.compile(read(`../docs/schemas/wedge.${format}.schema.json`));
}

test("positions hold to their schema", () => {
  const position = validator("position-1");
  for (const kind of ["road", "time-trial", "flat-bar", "gravel"]) {
    const written = execFileSync(BINARY, ["foresee", "--example", kind], { encoding: "utf8" });
    const example = JSON.parse(written) as { position: { frame: Record<string, unknown> } };
    expect(position(example), JSON.stringify(position.errors)).toBe(true);
    example.position.frame.colour = "green";
    expect(position(example), "an unknown key is no part of the format").toBe(false);
  }
});

test("riders and studios hold to theirs", () => {
  for (const [kind, file] of [
    ["rider", "tobin-arkle"],
    ["rider", "ilse-marrow"],
    ["rider", "maren-ostby"],
    ["studio", "time-trial-pair"],
  ] as const) {
    const demo = read(`../demo/${file}.wedge.json`);
    const format = String(demo.format);
    expect(format).toMatch(new RegExp(`^wedge\\.${kind}/\\d+$`));
    const valid = validator(format.replace("wedge.", "").replace("/", "-"));
    expect(valid(demo), JSON.stringify(valid.errors)).toBe(true);
    expect(valid({ ...demo, format: "wedge.rider/1" })).toBe(false);
  }
});
