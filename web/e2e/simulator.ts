import { rmSync } from "node:fs";
import { spawn, type ChildProcess } from "node:child_process";
import { createInterface } from "node:readline";

/** A simulator of a test's own: an engine of 60 kW behind a gateway, told what to do line by line. */
export class Rig {
  private constructor(
    private readonly process: ChildProcess,
    readonly address: string,
  ) {}

  static start(faults: string): Promise<Rig> {
    const args = [
      "simulator",
      "--addr",
      "127.0.0.1:0",
      "--type",
      "diesel",
      "--speed",
      "120",
      "--every",
      "2",
      "--seed",
      "5",
      "--leash",
    ];
    const child = spawn("../bin/hevrin", [...args, "--script", "60:0", ...(faults ? ["--faults", faults] : [])], {
      stdio: ["pipe", "pipe", "inherit"],
    });
    return new Promise((resolve, reject) => {
      child.once("exit", () => reject(new Error("the simulator did not start")));
      createInterface({ input: child.stdout }).on("line", (line) => {
        const address = /simulated gateway is at (\S+)/.exec(line)?.[1];
        if (address) resolve(new Rig(child, address));
      });
    });
  }

  say(line: string) {
    this.process.stdin?.write(`${line}\n`);
  }

  stop() {
    this.process.removeAllListeners("exit");
    this.process.kill();
  }
}

/** A demo of a test's own, in an empty folder, with the milliseconds from its start to its first answer. */
export async function demo(
  port: number,
  begin = true,
): Promise<{ address: string; milliseconds: number; stop: () => Promise<void> }> {
  const address = `http://127.0.0.1:${port}`;
  const folder = `test-results/demo-${port}`;
  if (begin) rmSync(folder, { recursive: true, force: true }); // else it goes on with what is there
  const taken = await fetch(`${address}/api/v1/health`).catch(() => undefined);
  if (taken) throw new Error(`something listens at ${port} already: end what an earlier run left`);
  const begun = performance.now();
  const child = spawn("../bin/hevrin", ["demo", "--data", folder, "--addr", `127.0.0.1:${port}`], { stdio: "ignore" });
  for (;;) {
    const up = await fetch(`${address}/api/v1/yard`).then(
      (r) => r.ok,
      () => false,
    );
    if (up) break;
    if (child.exitCode !== null) throw new Error(`the demo at ${port} ended with ${child.exitCode}`);
    await new Promise((done) => setTimeout(done, 20));
  }
  const ended = new Promise<void>((done) => child.once("exit", () => done()));
  const stop = () => {
    child.kill();
    return ended;
  };
  return { address, milliseconds: performance.now() - begun, stop };
}
