// The licences of everything of npm that ends up in the page, by what is installed; an unknown one fails.
import { readdirSync, readFileSync, existsSync } from "node:fs";
import { join } from "node:path";

const ALLOWED = /^\(?(MIT|MIT-0|ISC|0BSD|Apache-2\.0|BSD-[23]-Clause|CC0-1\.0|OFL-1\.1|Unlicense|CC-BY-4\.0)( (OR|AND) [\w.-]+)*\)?$/;
const lock = JSON.parse(readFileSync("package-lock.json", "utf8"));
const web = JSON.parse(readFileSync("web/package.json", "utf8"));

/** Where a package lies as seen from another: the nearest of that name. */
function found(name, from) {
  for (let at = from; ; at = at.replace(/(^|\/)node_modules\/(@[^/]+\/)?[^/]+$|(^|\/)[^/]+$/, "")) {
    const place = join(at, "node_modules", name);
    if (lock.packages[place]) return place;
    if (at === "") return undefined;
  }
}

const seen = new Set();
const waiting = Object.keys(web.dependencies).map((name) => found(name, "web"));
while (waiting.length > 0) {
  const place = waiting.pop();
  if (!place || seen.has(place)) continue;
  seen.add(place);
  const entry = lock.packages[place];
  waiting.push(...Object.keys(entry.dependencies ?? {}).map((name) => found(name, place)));
}

console.log("\nWhat the page is made of, and under which licences.");
let unknown = 0;
for (const place of [...seen].sort()) {
  if (!existsSync(place)) continue;
  const { name, version, license } = JSON.parse(readFileSync(join(place, "package.json"), "utf8"));
  if (!ALLOWED.test(license ?? "")) {
    console.error(`${name} ${version}: ${license ?? "no licence"} is not let in`);
    unknown += 1;
  }
  console.log(`\n${name} ${version}: ${license}`);
  const text = readdirSync(place).find((file) => /^licen[cs]e/i.test(file));
  if (text) console.log(readFileSync(join(place, text), "utf8").trim());
}
if (seen.size < 5) unknown += 1;
process.exit(unknown > 0 ? 1 : 0);
