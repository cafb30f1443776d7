// Packs what the build made with Brotli at its best, beside each file, so that the
// server has nothing to pack while somebody waits. Names bear a hash of what is in
// them: what was packed once is taken again.
import { constants, brotliCompressSync } from "node:zlib";
import { copyFileSync, existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from "node:fs";
import { basename, join } from "node:path";

const dist = "dist/assets";
const kept = "../.data/packed";

mkdirSync(kept, { recursive: true });
for (const name of readdirSync(dist)) {
  if (!/\.(js|css|wasm|svg)$/.test(name)) continue;
  const packed = join(kept, basename(name) + ".br");
  if (!existsSync(packed)) {
    const data = readFileSync(join(dist, name));
    const params = { [constants.BROTLI_PARAM_QUALITY]: 11, [constants.BROTLI_PARAM_LGWIN]: 22 };
    writeFileSync(packed, brotliCompressSync(data, { params }));
  }
  copyFileSync(packed, join(dist, name + ".br"));
}
