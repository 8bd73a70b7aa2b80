/** Runs the phone's own program (WebAssembly): the same use cases as the yard's, over what was taken along. */
import "../../generated/wasm_exec.js";
import type { Compiled } from "./compile.worker";

export interface Asked {
  n: number;
  /** Forget everything, then take these along. */
  take?: string[];
  request?: unknown;
  /** A request that may come: what follows it is worked out ahead, and nothing saved. */
  foresee?: unknown;
  /** What was practised on this device, to be taken in again. */
  restore?: string;
  /** Give what was practised. */
  tries?: boolean;
}
export interface Told {
  n: number;
  status?: number;
  type?: string;
  body?: Uint8Array<ArrayBuffer>;
  /** What could not be taken along, each with why. */
  wrong?: string[];
  failed?: string;
}

interface Program {
  forget(): string | null;
  take(raw: Uint8Array): string | null;
  restore(raw: Uint8Array): string | null;
  tries(): Uint8Array<ArrayBuffer>;
  foresee(request: Uint8Array): null;
  answer(request: Uint8Array): { status: number; type: string; body: Uint8Array<ArrayBuffer> };
}
declare const Go: new () => { importObject: WebAssembly.Imports; run(i: WebAssembly.Instance): Promise<void> };

const scope = self as unknown as {
  hevrin?: Program;
  postMessage(m: Told, transfer?: Transferable[]): void;
  onmessage: ((e: MessageEvent<Asked>) => void) | null;
};

async function compiled(): Promise<WebAssembly.Module> {
  const compiler = new Worker(new URL("./compile.worker.ts", import.meta.url), { type: "module" });
  const out = await new Promise<Compiled>((done) => {
    compiler.onmessage = (e: MessageEvent<Compiled>) => done(e.data);
    compiler.onerror = () => done({ failed: "the program on this device cannot be read" });
  });
  compiler.terminate();
  if ("failed" in out) throw new Error(out.failed);
  return out.module;
}

async function begin(): Promise<Program> {
  const go = new Go();
  void go.run(await WebAssembly.instantiate(await compiled(), go.importObject));
  while (!scope.hevrin) await new Promise((r) => setTimeout(r, 5));
  return scope.hevrin;
}

const program = begin();
const bytes = (s: string) => new TextEncoder().encode(s);

async function answerTo(asked: Asked): Promise<Told> {
  const p = await program;
  if (asked.take) {
    const failed = p.forget();
    if (failed) return { n: asked.n, failed };
    return { n: asked.n, wrong: asked.take.flatMap((raw) => p.take(bytes(raw)) ?? []) };
  }
  if (asked.restore !== undefined) {
    const failed = p.restore(bytes(asked.restore));
    return failed ? { n: asked.n, failed } : { n: asked.n };
  }
  if (asked.foresee) {
    p.foresee(bytes(JSON.stringify(asked.foresee)));
    return { n: asked.n };
  }
  if (asked.tries) return { n: asked.n, body: p.tries() };
  return { n: asked.n, ...p.answer(bytes(JSON.stringify(asked.request))) };
}

scope.onmessage = (e) => {
  answerTo(e.data)
    .catch((x: unknown): Told => ({ n: e.data.n, failed: String(x) }))
    .then((told) => scope.postMessage(told, told.body ? [told.body.buffer] : []))
    .catch(() => undefined);
};
