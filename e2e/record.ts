/**
 * Records the clip from ahead that the browser tests look at: dots of a rider whose knees go as told, as a camera 3 m ahead and 3° to the
 * rider's right sees them. Run by hand, `npx tsx record.ts`; it writes samples/ahead.webm and samples/ahead.json.
 */
import { chromium } from "@playwright/test";
import config from "./playwright.config";
import { writeFileSync } from "node:fs";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";

const SECONDS = 6;
const RATE = 30;

/** An element of a Matroska file: its id, how long it is in eight bytes, what is in it (RFC 8794). */
const element = (id: number, ...parts: (Buffer | string)[]): Buffer => {
  const body = Buffer.concat(parts.map((part) => (typeof part === "string" ? Buffer.from(part) : part)));
  const head = Buffer.from(id.toString(16), "hex");
  const length = Buffer.alloc(8);
  length.writeBigUInt64BE(0x0100000000000000n + BigInt(body.length));
  return Buffer.concat([head, length, body]);
};
const whole = (value: number): Buffer => {
  const bytes = Buffer.alloc(4);
  bytes.writeUInt32BE(value);
  return bytes;
};
const real = (value: number): Buffer => {
  const bytes = Buffer.alloc(8);
  bytes.writeDoubleBE(value);
  return bytes;
};

/** A WebM of VP8 frames, evenly timed, a cluster a key frame, with cues (RFC 9559). */
function webm(frames: { key: boolean; bytes: number[] }[], [w, h]: readonly [number, number]): Buffer {
  const at = (frame: number) => Math.round((1000 * frame) / RATE);
  const info = element(
    0x1549a966,
    element(0x2ad7b1, whole(1_000_000)),
    element(0x4489, real(at(frames.length))),
    element(0x4d80, "Wedge"),
    element(0x5741, "Wedge"),
  );
  const video = element(0xe0, element(0xb0, whole(w)), element(0xba, whole(h)));
  const entry = [element(0xd7, whole(1)), element(0x73c5, whole(1)), element(0x83, whole(1)), element(0x86, "V_VP8")];
  const tracks = element(0x1654ae6b, element(0xae, ...entry, video));
  const clusters: Buffer[] = [];
  const cues: Buffer[] = [];
  let place = info.length + tracks.length;
  const starts = frames.flatMap(({ key }, frame) => (key ? [frame] : []));
  starts.forEach((start, index) => {
    const blocks = frames.slice(start, starts[index + 1]).map(({ key, bytes }, offset) => {
      const head = Buffer.from([0x81, 0, 0, key ? 0x80 : 0]);
      head.writeInt16BE(at(start + offset) - at(start), 1);
      return element(0xa3, head, Buffer.from(bytes));
    });
    const cluster = element(0x1f43b675, element(0xe7, whole(at(start))), ...blocks);
    const position = element(0xb7, element(0xf7, whole(1)), element(0xf1, whole(place)));
    cues.push(element(0xbb, element(0xb3, whole(at(start))), position));
    clusters.push(cluster);
    place += cluster.length;
  });
  const head = element(0x1a45dfa3, element(0x4282, "webm"), element(0x4287, whole(2)), element(0x4285, whole(2)));
  return Buffer.concat([head, element(0x18538067, info, tracks, ...clusters, element(0x1c53bb6b, ...cues))]);
}

const browser = await chromium.launch(config.use?.launchOptions);
const page = await browser.newPage();
// Encoders are there for pages of a safe origin alone.
const server = createServer((_, answer) => answer.end("<!doctype html>"));
await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
await page.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
// Helpers of the compiler are not in the page.
await page.evaluate("globalThis.__name = (own) => own");
const made = await page.evaluate(
  async ([seconds, rate]) => {
    const [w, h, f, distance, lens, aside] = [720, 1100, 1350, 3000, 680, (3 * Math.PI) / 180];
    const rpm = 84;
    // Each knee off the line from toe to hip while pushing and rising, mm outward.
    const goes = { right: [-22, 2], left: [3, 17] } as const;
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [w, h];
    const context = canvas.getContext("2d");
    if (!context) throw new Error("no canvas");
    const pixel = ([x, y, z]: readonly [number, number, number]): [number, number] => {
      const [s, c] = [Math.sin(aside), Math.cos(aside)];
      const q = [x - distance * c, y - lens, z - distance * s] as const;
      const far = -(q[0] * c + q[2] * s);
      return [w / 2 + (f * (q[0] * s - q[2] * c)) / far, h / 2 - (f * q[1]) / far];
    };
    const dots = (crank: number) => {
      const all: Record<string, [number, number]> = {};
      for (const side of ["right", "left"] as const) {
        const out = side === "right" ? 1 : -1;
        const own = ((crank + (side === "right" ? 0 : 180)) * Math.PI) / 180;
        const [px, py] = [170 * Math.sin(own), 170 * Math.cos(own)];
        // Two bones in the plane of the side view, the foot held as it is.
        const [hip, ankle] = [
          [-190, 690],
          [px - 130, py + 120],
        ] as const;
        const [thigh, shank] = [430, 425];
        const [dx, dy] = [ankle[0] - hip[0], ankle[1] - hip[1]];
        const far = Math.hypot(dx, dy);
        const along = (thigh ** 2 - shank ** 2 + far ** 2) / (2 * far);
        const off = Math.sqrt(Math.max(0, thigh ** 2 - along ** 2));
        const knee = [hip[0] + (dx * along - dy * off) / far, hip[1] + (dy * along + dx * off) / far] as const;
        const toe = [px + 40, py + 60, out * 125] as const;
        const top = [hip[0] + 90, hip[1], out * 90] as const;
        const share = (knee[1] - toe[1]) / (top[1] - toe[1]);
        const [push, rise] = goes[side];
        const wave = Math.cos(own - Math.PI / 2) / 0.827;
        const aside = (push + rise) / 2 + ((push - rise) / 2) * wave;
        const line = toe[2] + (top[2] - toe[2]) * share;
        all[`${side}.toe`] = pixel(toe);
        all[`${side}.knee`] = pixel([knee[0] + 55, knee[1], line + out * aside]);
        all[`${side}.hip`] = pixel(top);
      }
      return all;
    };
    const draw = (crank: number) => {
      context.fillStyle = "#5b6168";
      context.fillRect(0, 0, w, h);
      context.fillStyle = "#2e333a";
      context.fillRect(w / 2 - 120, 110, 240, 480);
      for (const [u, v] of Object.values(dots(crank))) {
        context.fillStyle = "#f4d21f";
        context.beginPath();
        context.arc(u, v, 7, 0, 2 * Math.PI);
        context.fill();
      }
    };
    const points = {
      plumb_high: pixel([0, 900, 500]),
      plumb_low: pixel([0, -200, 500]),
      pedal_right: pixel([0, 170, 170]),
      pedal_left: pixel([0, -170, -170]),
      tyre: pixel([590, -270, 0]),
    };
    const frames: { key: boolean; bytes: number[] }[] = [];
    const encoder = new VideoEncoder({
      output: (chunk) => {
        const bytes = new Uint8Array(chunk.byteLength);
        chunk.copyTo(bytes);
        frames.push({ key: chunk.type === "key", bytes: [...bytes] });
      },
      error: (error) => {
        throw error;
      },
    });
    encoder.configure({ codec: "vp8", width: w, height: h, bitrate: 900_000, framerate: rate });
    const crankAt = (frame: number) => 30 + (6 * rpm * frame) / rate;
    for (let frame = 0; frame < seconds * rate; frame++) {
      draw(crankAt(frame));
      const shown = new VideoFrame(canvas, { timestamp: Math.round((1e6 * frame) / rate) });
      encoder.encode(shown, { keyFrame: frame % 15 === 0 });
      shown.close();
    }
    await encoder.flush();
    return { frames, points: { ...points, ...dots(crankAt(0)) }, size: [w, h] as const, truth: goes, cadence_rpm: rpm };
  },
  [SECONDS, RATE] as const,
);
await browser.close();
server.close();
const { frames, ...rest } = made;
const bytes = webm(frames, rest.size);
writeFileSync("../samples/ahead.webm", bytes);
writeFileSync("../samples/ahead.json", `${JSON.stringify(rest, null, 2)}\n`);
console.log(`${frames.length} frames, ${bytes.length} bytes`);
