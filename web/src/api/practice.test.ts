import { afterEach, describe, expect, it, vi } from "vitest";

const id = "0b54c0de-1111-4222-8333-444455556666";

/** The module as it is on a page at an address: it decides once. */
async function onPage(path: string) {
  vi.resetModules();
  window.history.pushState({}, "", path);
  return import("./practice");
}

const answer = (body: unknown) => new Response(JSON.stringify(body), { status: 200 });

describe("practice", () => {
  afterEach(() => window.history.pushState({}, "", "/"));

  it("is a page whose address begins with it, and no other", async () => {
    expect((await onPage(`/practice/${id}/jobs/x`)).practice).toBe(id);
    expect((await onPage(`/practice/${id}`)).basename).toBe(`/practice/${id}`);
    for (const path of ["/practice", "/", "/jobs/x", `/practice/${id}x/jobs`, "/practice/none"])
      expect((await onPage(path)).practice, path).toBeUndefined();
  });

  it("asks everything of its own record, and only who is signed in of the yard's", async () => {
    const { inPractice } = await onPage(`/practice/${id}/jobs/x`);
    const sent: Request[] = [];
    const send = (r: Request) => {
      sent.push(r);
      return Promise.resolve(answer({ status: 200, body: { well: true }, dangers: [] }));
    };
    const base = `${location.origin}/api/v1`;
    const said = await inPractice(new Request(`${base}/calc/x?units=us`, { method: "POST", body: '{"a":1}' }), send);
    expect(await said?.json()).toEqual({ well: true });
    expect(new URL(sent[0]?.url ?? "").pathname).toBe(`/api/v1/practice/${id}/ask`);
    expect(await sent[0]?.json()).toEqual({ method: "POST", path: "/calc/x", query: { units: "us" }, body: { a: 1 } });
    for (const path of ["/session", "/session/push", "/practice", `/practice/${id}/review`, "/health"])
      expect(await inPractice(new Request(base + path), send), path).toBeUndefined();
    expect(await inPractice(new Request(`${base}/sessions`), send)).toBeDefined();
    const present = await inPractice(new Request(`${base}/jobs/x/present`, { method: "PUT", body: "{}" }), send);
    expect(await present?.json()).toEqual({ others: [] });
    expect(sent).toHaveLength(2);
  });

  it("tells of dangers, of changes, and of what is no part of it", async () => {
    const { inPractice, practiceNews } = await onPage(`/practice/${id}`);
    const walked: string[] = [];
    let changes = 0;
    practiceNews.onDangers((list) => walked.push(...list.map((d) => d.id)));
    practiceNews.onChange(() => changes++);
    const danger = { id: "flooding", label: "", happened: "", instead: "", ends: false };
    const put = () => new Request(`${location.origin}/api/v1/jobs/x/entries/y`, { method: "PUT", body: "{}" });
    const refused = await inPractice(put(), () =>
      Promise.resolve(answer({ status: 422, body: { detail: "no" }, dangers: [danger] })),
    );
    expect(refused?.status).toBe(422);
    expect([walked, changes]).toEqual([["flooding"], 1]);
    const get = new Request(`${location.origin}/api/v1/engines/x/live`);
    const none = await inPractice(get, () => Promise.resolve(answer({ status: 501, body: {}, dangers: [] })));
    expect(none?.status).toBe(501);
    expect(await none?.text()).toContain("no part of practice");
    expect(changes).toBe(1);
  });

  it("passes on that the yard is not reached", async () => {
    const { inPractice } = await onPage(`/practice/${id}`);
    const get = new Request(`${location.origin}/api/v1/yard`);
    await expect(inPractice(get, () => Promise.reject(new TypeError("gone")))).rejects.toThrow("gone");
    const cannot = await inPractice(get, () => Promise.resolve(new Response("{}", { status: 503 })));
    expect(cannot?.status).toBe(503);
  });
});
