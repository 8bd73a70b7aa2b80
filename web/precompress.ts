import { createHash } from "node:crypto";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Plugin } from "vite";

/** Files of these kinds are worth packing; fonts and pictures are packed already. */
const kinds = /\.(js|css|html|svg|json|wasm)$/;
/** Below this many bytes packing saves nothing. */
const least = 700;
/** Above this many bytes the tightest packing takes a minute: it is kept, and taken again for the same file. */
const large = 4_000_000;
/** How tightly those are packed, 0 to 11. */
const tightness = Number(process.env.PACKING ?? 11);
const packedBefore = "node_modules/.cache/hevrin-packed";

function brotli(raw: Buffer, quality: number): Buffer {
  return brotliCompressSync(raw, {
    params: {
      [constants.BROTLI_PARAM_QUALITY]: quality,
      [constants.BROTLI_PARAM_LGWIN]: 24,
      [constants.BROTLI_PARAM_SIZE_HINT]: raw.length,
    },
  });
}

function packed(raw: Buffer): Buffer {
  if (raw.length < large) return brotli(raw, 11);
  const kept = join(packedBefore, `${createHash("sha256").update(raw).digest("hex")}.br`);
  if (existsSync(kept)) return readFileSync(kept);
  const small = brotli(raw, tightness);
  if (tightness < 11) return small;
  rmSync(packedBefore, { recursive: true, force: true }); // of earlier ones nothing is wanted
  mkdirSync(packedBefore, { recursive: true });
  writeFileSync(kept, small);
  return small;
}

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
        writeFileSync(`${file}.br`, packed(raw));
        writeFileSync(`${file}.gz`, gzipSync(raw, { level: 9 }));
      }
    },
  };
}
