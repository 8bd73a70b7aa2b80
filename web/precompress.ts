import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Plugin } from "vite";

/** Files of these kinds are worth packing; fonts and pictures are packed already. */
const kinds = /\.(js|css|html|svg|json|wasm)$/;
/** Below this many bytes packing saves nothing. */
const least = 700;

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
        writeFileSync(`${file}.br`, brotliCompressSync(raw, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }));
        writeFileSync(`${file}.gz`, gzipSync(raw, { level: 9 }));
      }
    },
  };
}
