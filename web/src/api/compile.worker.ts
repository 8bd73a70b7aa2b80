/**
 * Compiles the phone's own program and is let go. What compiling leaves lying, as much as the program's size, goes with
 * it; a worker that stays keeps that until its next collection, which may not come while it sleeps.
 */
import { phoneProgram } from "./phoneProgram";

export type Compiled = { module: WebAssembly.Module } | { failed: string };

phoneProgram()
  .then((answer) => answer.arrayBuffer())
  .then((code) => WebAssembly.compile(code))
  .then(
    (module): Compiled => ({ module }),
    (x: unknown): Compiled => ({ failed: String(x) }),
  )
  .then((out) => self.postMessage(out))
  .catch(() => undefined);
