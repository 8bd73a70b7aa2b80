// Lets the phone's program answer, as a browser's worker does: a file of steps in, one JSON line for each out.
import { readFileSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { pathToFileURL } from "node:url";

const [wasm, steps, out] = process.argv.slice(2);
await import(pathToFileURL(join(dirname(wasm), "wasm_exec.js")));
const go = new globalThis.Go();
const begun = performance.now();
const { instance } = await WebAssembly.instantiate(readFileSync(wasm), go.importObject);
void go.run(instance);
while (!globalThis.hevrin) await new Promise((r) => setTimeout(r, 1));
const ready = performance.now() - begun;
const bytes = (x) => new TextEncoder().encode(typeof x === "string" ? x : JSON.stringify(x));
let lastBody;
const answers = readFileSync(steps, "utf8")
  .split("\n")
  .filter(Boolean)
  .map((line, i) => {
    const step = JSON.parse(line);
    // what is foreseen changes nothing: neither this that comes next, nor what came before
    if (i % 2 && step.request?.method === "PUT") {
      globalThis.hevrin.foresee(bytes(step.request));
      globalThis.hevrin.foresee(bytes({ ...step.request, body: lastBody }));
    }
    lastBody = step.request?.body ?? lastBody;
    const at = performance.now();
    if (step.along) {
      const wrong = globalThis.hevrin.forget() ?? globalThis.hevrin.take(bytes(step.along));
      return { status: wrong ? 500 : 200, body: wrong ?? "", ms: performance.now() - at };
    }
    const a = globalThis.hevrin.answer(bytes(step.request));
    return { status: a.status, body: new TextDecoder().decode(a.body), ms: performance.now() - at };
  });
writeFileSync(out, JSON.stringify({ ready, memory: instance.exports.mem.buffer.byteLength, answers }));
process.exit(0);
