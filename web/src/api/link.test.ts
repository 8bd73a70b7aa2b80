import { afterEach, describe, expect, it, vi } from "vitest";

/** One of its own: what other files of the window show does not go by it. */
async function fresh() {
  const own = "./link?own";
  return (await import(/* @vite-ignore */ own)) as typeof import("./link");
}

afterEach(() => vi.unstubAllGlobals());

const answers = (status: number, type: string, body = "{}") =>
  vi.stubGlobal("fetch", () => Promise.resolve(new Response(body, { status, headers: { "Content-Type": type } })));

describe("what stands before the program", () => {
  it("is no link where it answers because the program does not, for questions and for what is saved", async () => {
    const { asked, link } = await fresh();
    for (const status of [502, 503, 504])
      for (const method of ["GET", "PUT"]) {
        answers(status, "text/html", "<h1>Bad gateway</h1>");
        await expect(asked("/api/v1/session", { method })).rejects.toThrow(TypeError);
        expect(link.down(), `${status} ${method}`).toBe(true);
        answers(200, "application/json");
        await asked("/api/v1/session", { method: "PUT" });
        expect(link.down()).toBe(false);
      }
  });

  it("is told from the program, which says what is wrong with the record", async () => {
    const { asked, link } = await fresh();
    answers(503, "application/problem+json", '{"type": "/problems/record/full"}');
    expect((await asked("/api/v1/session")).status).toBe(503);
    answers(500, "application/problem+json");
    expect((await asked("/api/v1/session")).status).toBe(500);
    expect(link.down()).toBe(false);
  });
});
