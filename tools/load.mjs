// Steps a saddle 2,000 times, one request after the other as the board does, then 50 a second.
const url = process.argv[2];
const get = async (path) => (await fetch(url + path)).json();
const rider = (await get("/api/riders")).find((r) => r.open);
const { input } = await get(`/api/sessions/${rider.open.session_id}`);
const body = (by) => JSON.stringify({ ...input, changes: [{ quantity: "saddle_height_mm", by }] });

async function foresee(by) {
  const begun = performance.now();
  const answer = await fetch(`${url}/api/foresee`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: body(by),
  });
  if (!answer.ok) throw new Error(await answer.text());
  await answer.arrayBuffer();
  return performance.now() - begun;
}

function report(what, times) {
  times.sort((a, b) => a - b);
  const at = (share) => times[Math.floor(share * (times.length - 1))].toFixed(2);
  console.log(`${what}: median ${at(0.5)} ms, 95 % ${at(0.95)} ms, 99 % ${at(0.99)} ms, worst ${at(1)} ms`);
}

for (let i = 0; i < 100; i++) await foresee(-1);
const one = [];
for (let i = 0; i < 2000; i++) one.push(await foresee((i % 41) / 2 - 10));
report("foresee, one after the other", one);

const many = [];
for (let i = 0; i < 500; i++) {
  many.push(foresee((i % 41) / 2 - 10));
  await new Promise((go) => setTimeout(go, 20));
}
report("foresee, 50 a second", await Promise.all(many));
