/** After the build: what browsers fetch stands beside itself packed, so that nobody packs it anew for each of them. */

import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";

const LEAST_BYTES = 1024;
const PACKED = /\.(js|css|svg|json|map)$/;
const folder = new URL("./dist/assets/", import.meta.url).pathname;

for (const name of readdirSync(folder).filter((file) => PACKED.test(file))) {
  const path = join(folder, name);
  const content = readFileSync(path);
  if (content.length < LEAST_BYTES) continue;
  writeFileSync(`${path}.gz`, gzipSync(content, { level: 9 }));
  writeFileSync(
    `${path}.br`,
    brotliCompressSync(content, { params: { [constants.BROTLI_PARAM_QUALITY]: constants.BROTLI_MAX_QUALITY } }),
  );
}
