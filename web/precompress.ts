import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Plugin } from "vite";

/** Files of these kinds are worth packing; fonts and pictures are packed already. */
const kinds = /\.(js|css|html|svg|json|wasm)$/;
/** Below this many bytes packing saves nothing. */
const least = 700;
/** Above this many the tightest packing takes a minute for a twentieth more. */
const large = 4_000_000;

function* filesIn(folder: string): Generator<string> {
  for (const name of readdirSync(folder)) {
    const file = join(folder, name);
    if (statSync(file).isDirectory()) yield* filesIn(file);
    else yield file;
  }
}

/** Leaves a .br and a .gz beside every file of the build that is worth it: the program serves them as they lie. */
export function precompress(): Plugin {
  let folder = "dist";
  return {
    name: "precompress",
    apply: "build",
    configResolved: (config) => void (folder = config.build.outDir),
    closeBundle: () => {
      for (const file of filesIn(folder)) {
        if (!kinds.test(file) || statSync(file).size < least) continue;
        const raw = readFileSync(file);
        const params = {
          [constants.BROTLI_PARAM_QUALITY]: raw.length > large ? 10 : 11,
          [constants.BROTLI_PARAM_LGWIN]: 24,
          [constants.BROTLI_PARAM_SIZE_HINT]: raw.length,
        };
        writeFileSync(`${file}.br`, brotliCompressSync(raw, { params }));
        writeFileSync(`${file}.gz`, gzipSync(raw, { level: 9 }));
      }
    },
  };
}
