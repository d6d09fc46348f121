// Writes a brotli and a gzip twin beside every text file of the build, so that the server never compresses one while it serves.
import { readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, gzipSync } from "node:zlib";

const dist = new URL("dist", import.meta.url).pathname;

function walk(folder) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) walk(path);
    else if (/\.(js|css|svg)$/.test(name)) {
      const plain = readFileSync(path);
      writeFileSync(`${path}.br`, brotliCompressSync(plain));
      writeFileSync(`${path}.gz`, gzipSync(plain, { level: 9 }));
    }
  }
}

walk(dist);
