/** Runs the phone's own program (WebAssembly): the same use cases as the yard's, over what was taken along. */
import "../../generated/wasm_exec.js";
import { phoneProgram } from "./phoneProgram";

export interface Asked {
  n: number;
  /** Forget everything, then take these along. */
  take?: string[];
  request?: unknown;
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
  answer(request: Uint8Array): { status: number; type: string; body: Uint8Array<ArrayBuffer> };
}
declare const Go: new () => { importObject: WebAssembly.Imports; run(i: WebAssembly.Instance): Promise<void> };

const scope = self as unknown as {
  hevrin?: Program;
  postMessage(m: Told, transfer?: Transferable[]): void;
  onmessage: ((e: MessageEvent<Asked>) => void) | null;
};

/**
 * Gives a buffer's memory back at once: the module has a copy of its own. Compiled as it streams in, the program leaves
 * twice its size lying until the worker's next collection, which may not come while it sleeps.
 */
const release = (buffer: ArrayBuffer) => (buffer as { transfer?: (size: number) => ArrayBuffer }).transfer?.(0);

async function begin(): Promise<Program> {
  const go = new Go();
  const code = await (await phoneProgram()).arrayBuffer();
  const module = await WebAssembly.compile(code);
  release(code);
  void go.run(await WebAssembly.instantiate(module, go.importObject));
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
  if (asked.tries) return { n: asked.n, body: p.tries() };
  return { n: asked.n, ...p.answer(bytes(JSON.stringify(asked.request))) };
}

scope.onmessage = (e) => {
  answerTo(e.data)
    .catch((x: unknown): Told => ({ n: e.data.n, failed: String(x) }))
    .then((told) => scope.postMessage(told, told.body ? [told.body.buffer] : []))
    .catch(() => undefined);
};
