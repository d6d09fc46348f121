// Steps a saddle 2,000 times, one request after the other as the board does, then 50 a second beside a bare route.
const url = process.argv[2];
const get = async (path) => (await fetch(url + path)).json();
const rider = (await get("/api/riders")).find((r) => r.open);
const { input } = await get(`/api/sessions/${rider.open.session_id}`);
const body = (by) => JSON.stringify({ ...input, changes: [{ quantity: "saddle_height_mm", by }] });

/** How long an answer takes until its last byte is here. */
async function timed(request) {
  const begun = performance.now();
  const answer = await request();
  if (!answer.ok) throw new Error(await answer.text());
  await answer.arrayBuffer();
  return performance.now() - begun;
}
const foresee = (by) =>
  timed(() =>
    fetch(`${url}/api/foresee`, { method: "POST", headers: { "content-type": "application/json" }, body: body(by) }),
  );
const bare = () => timed(() => fetch(`${url}/api/health`));
const pause = (ms) => new Promise((go) => setTimeout(go, ms));

function report(what, times) {
  const sorted = times.toSorted((a, b) => a - b);
  const at = (share) => sorted[Math.floor(share * (sorted.length - 1))];
  const shown = (share) => at(share).toFixed(2);
  console.log(`${what}: median ${shown(0.5)} ms, 95 % ${shown(0.95)} ms, 99 % ${shown(0.99)} ms, worst ${shown(1)} ms`);
  return at;
}

for (let i = 0; i < 100; i++) await foresee(-1);
const one = [];
for (let i = 0; i < 2000; i++) one.push(await foresee((i % 41) / 2 - 10));
report("foresee, one after the other", one);

// In turn, so that both meet the same machine.
const [many, nothing] = [[], []];
for (let i = 0; i < 1000; i++) {
  many.push(foresee((i % 41) / 2 - 10));
  await pause(10);
  nothing.push(bare());
  await pause(10);
}
const foreseen = report("foresee, 50 a second", await Promise.all(many));
const answered = report("a bare route, 50 a second beside it", await Promise.all(nothing));
const ratio = (share) => (foreseen(share) / answered(share)).toFixed(1);
console.log(`foresee against the bare route: median ${ratio(0.5)} times, 99 % ${ratio(0.99)} times`);
