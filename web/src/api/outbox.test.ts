import { describe, expect, it, vi } from "vitest";
import { Refused } from "./client";
import { Outbox, type Letter } from "./outbox";

const letter = (id: string): Letter => ({ id, path: `/jobs/j/entries/${id}`, body: { kind: "note" }, label: id });
const answer = (status: number, body: unknown = {}) => new Response(JSON.stringify(body), { status });
const nap = () => Promise.resolve();

function shelf(kept = "") {
  const items = new Map([["hevrin.outbox", kept]]);
  return {
    getItem: (k: string) => items.get(k) ?? null,
    setItem: (k: string, v: string) => void items.set(k, v),
    items,
  };
}

describe("the outbox", () => {
  it("sends in the order of tapping, one at a time", async () => {
    const sent: string[] = [];
    const box = new Outbox(shelf(), async (path) => {
      sent.push(path);
      await nap();
      return answer(200);
    });
    await Promise.all(["a", "b", "c"].map((id) => box.post(letter(id))));
    expect(sent).toEqual(["a", "b", "c"].map((id) => `/jobs/j/entries/${id}`));
    expect(box.snapshot()).toEqual({ waiting: [], down: false });
  });

  it("keeps what cannot be sent on the device, and sends it again with the same id", async () => {
    const storage = shelf();
    const send = vi
      .fn<(path: string, body: unknown) => Promise<Response>>()
      .mockRejectedValueOnce(new TypeError("no link"))
      .mockResolvedValueOnce(answer(503))
      .mockResolvedValue(answer(200, { ok: 1 }));
    const box = new Outbox(storage, send, nap);
    const kept = box.post(letter("a"));
    expect(storage.items.get("hevrin.outbox")).toContain('"id":"a"');
    await expect(kept).resolves.toEqual({ ok: 1 });
    expect(send.mock.calls.map(([path]) => path)).toEqual(Array(3).fill("/jobs/j/entries/a"));
    expect(storage.items.get("hevrin.outbox")).toBe("[]");
  });

  it("takes up what an earlier page left behind", async () => {
    const send = vi.fn().mockResolvedValue(answer(200));
    const box = new Outbox(shelf(JSON.stringify([letter("left")])), send);
    box.hurry();
    await vi.waitFor(() => expect(box.snapshot().waiting).toEqual([]));
    expect(send).toHaveBeenCalledOnce();
  });

  it("lets go of what the program refuses, with its reason, and goes on", async () => {
    const send = vi
      .fn()
      .mockResolvedValueOnce(answer(422, { title: "t", status: 422, detail: "give it a name" }))
      .mockResolvedValue(answer(200));
    const box = new Outbox(shelf(), send);
    const [refused, kept] = await Promise.allSettled([box.post(letter("a")), box.post(letter("b"))]);
    expect(refused).toMatchObject({ status: "rejected", reason: expect.any(Refused) });
    expect((refused as PromiseRejectedResult).reason.message).toBe("give it a name");
    expect(kept.status).toBe("fulfilled");
  });

  it("tells of a refusal whose page was reloaded", async () => {
    const send = vi.fn().mockResolvedValue(answer(409, { title: "t", status: 409, detail: "the job is closed" }));
    const box = new Outbox(shelf(JSON.stringify([letter("left")])), send);
    box.onRefused = vi.fn();
    box.hurry();
    await vi.waitFor(() => expect(box.onRefused).toHaveBeenCalledOnce());
    expect(vi.mocked(box.onRefused).mock.calls[0]).toMatchObject([{ id: "left" }, { message: "the job is closed" }]);
  });

  it("starts empty when the inventory is unreadable", () => {
    expect(new Outbox(shelf("{broken"), vi.fn()).snapshot().waiting).toEqual([]);
  });

  it("does not take what the device cannot hold, and keeps what waits", async () => {
    const storage = shelf();
    const limit = 400; // a device's store is full after so many letters of text
    const small = {
      ...storage,
      setItem: (k: string, v: string) => {
        if (v.length > limit) throw new DOMException("full", "QuotaExceededError");
        storage.setItem(k, v);
      },
    };
    let link: (r: Response) => void = () => undefined;
    const box = new Outbox(small, () => new Promise<Response>((done) => (link = done)));
    const first = box.post(letter("a"));
    const photo = { ...letter("photo"), body: { kind: "photo", data: "x".repeat(500) } };
    await expect(box.post(photo)).rejects.toThrow(/this device holds no more. 1 things on it still wait/);
    expect(box.snapshot().waiting.map((l) => l.id)).toEqual(["a"]);
    expect(storage.items.get("hevrin.outbox")).not.toContain("photo");
    const second = box.post(letter("b")); // small taps still go in
    link(answer(200));
    await first;
    await vi.waitFor(() => expect(box.snapshot().waiting.map((l) => l.id)).toEqual(["b"]));
    link(answer(200));
    await second;
    expect(storage.items.get("hevrin.outbox")).toBe("[]");
  });
});
