import { Blob as NodeBlob } from "node:buffer";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { answer, device, freshDevice, later, letter, nap, no, soon, stored, tab, type Send } from "../testing/device";
import { Refused } from "./client";
import type { Letters } from "./letters";
import { mostTries, Outbox, type Surroundings } from "./outbox";

beforeEach(freshDevice);

describe("the phone's own program", () => {
  const noLink = () => Promise.reject(new TypeError("no link"));
  const alone = (onPhone: Surroundings["onPhone"], send: Send = noLink) =>
    new Outbox({ letters: device.letters, send, sleep: () => new Promise(() => undefined), onPhone, down: () => true });

  it("answers whoever waits where no link is; the letter waits on, and its answer is told as late", async () => {
    let up = false;
    const box = alone(
      () => Promise.resolve({ ok: true, data: { page: "worked out here" } }),
      () => (up ? Promise.resolve(answer(200, { page: "the yard's" })) : noLink()),
    );
    const late = vi.fn();
    box.onLate = late;
    await expect(box.post(letter("a"))).resolves.toEqual({ page: "worked out here" });
    await soon(async () => expect(await stored()).toEqual(["a"])); // it is answered while it is stored
    expect(late).not.toHaveBeenCalled();
    up = true;
    await soon(async () => {
      box.hurry();
      expect(await stored()).toEqual([]);
    });
    await soon(() => expect(late).toHaveBeenCalledOnce());
  });

  it("steps aside what it refuses, with its words and whose they are; sent all the same, the yard has the last one", async () => {
    let up = false;
    const box = alone(
      () =>
        Promise.resolve({ ok: false, error: new Refused({ title: "t", status: 409, detail: "None left in stock." }) }),
      () => (up ? Promise.resolve(answer(200)) : noLink()),
    );
    await expect(box.post(letter("a"))).rejects.toThrow("None left in stock.");
    await soon(() => expect(box.snapshot().aside[0]?.aside).toContain("As it is known here"));
    up = true;
    await box.again("a");
    await soon(async () => expect(await stored()).toEqual([]));
  });

  it("tells what was sent, for a link that goes before it is taken along, and what an earlier page left", async () => {
    await device.letters.add(letter("left"));
    const left = vi.fn();
    const box = new Outbox({ letters: device.letters, send: () => Promise.resolve(answer(200)), left });
    const sent: string[] = [];
    box.onSent = (l) => sent.push(l.id);
    await box.post(letter("a"));
    expect(left).toHaveBeenCalledOnce();
    expect(sent).toEqual(["left", "a"]);
    const again = vi.fn();
    await new Outbox({ letters: device.letters, send: () => Promise.resolve(answer(200)), left: again }).post(
      letter("b"),
    );
    expect(again).not.toHaveBeenCalled();
  });

  it("refuses what is still being stored only once it is: nothing is sent behind a form that stays open", async () => {
    const slowly: Letters = {
      ...device.letters,
      add: (l) =>
        nap()
          .then(nap)
          .then(nap)
          .then(() => device.letters.add(l)),
    };
    const problem = { title: "t", status: 422, detail: "Say how many." };
    const box = new Outbox({
      letters: slowly,
      send: noLink,
      sleep: () => new Promise(() => undefined),
      onPhone: () => Promise.resolve({ ok: false, error: new Refused(problem) }),
      down: () => true,
    });
    await expect(box.post({ ...letter("a"), form: true })).rejects.toThrow("Say how many.");
    await nap();
    expect(await stored()).toEqual([]);
    expect(box.snapshot()).toMatchObject({ waiting: [], aside: [] });
  });

  it("says nothing of what it does not know, or when it fails: the letter waits as ever", async () => {
    for (const onPhone of [() => Promise.resolve(undefined), () => Promise.reject(new Error("the worker died"))]) {
      const box = alone(onPhone);
      let settled = false;
      void box.post(letter(`w${String(onPhone).length}`)).finally(() => (settled = true));
      await nap();
      await nap();
      expect(settled).toBe(false);
      expect(box.snapshot().aside).toEqual([]);
    }
    await soon(async () => expect(await stored()).toHaveLength(2));
  });
});

describe("the outbox", () => {
  it("sends in the order of tapping, one at a time", async () => {
    const sent: string[] = [];
    const box = tab(async (path) => {
      sent.push(path);
      await nap();
      return answer(200);
    });
    await Promise.all(["a", "b", "c"].map((id) => box.post(letter(id))));
    expect(sent).toEqual(["a", "b", "c"].map((id) => `/jobs/j/entries/${id}`));
    await soon(() => expect(box.snapshot()).toEqual({ waiting: [], aside: [], trouble: "none", unkept: [] }));
  });

  it("stores what cannot be sent on the device, and sends it again with the same id", async () => {
    const send = vi.fn<Send>().mockRejectedValueOnce(new TypeError("no link"));
    const second = later<Response>();
    send.mockImplementationOnce(() => second.promise);
    send.mockImplementation(() => Promise.resolve(answer(200, { ok: 1 })));
    const box = tab(send);
    const kept = box.post(letter("a"));
    await soon(() => expect(send).toHaveBeenCalledTimes(2));
    expect(await stored()).toEqual(["a"]);
    expect(box.snapshot().trouble).toBe("no-link");
    second.resolve(answer(503));
    await expect(kept).resolves.toEqual({ ok: 1 });
    expect(send.mock.calls.map(([path]) => path)).toEqual(Array(3).fill("/jobs/j/entries/a"));
    await soon(async () => expect(await stored()).toEqual([]));
  });

  it("takes up what an earlier page left behind", async () => {
    await device.letters.add(letter("left"));
    const send = vi.fn<Send>(() => Promise.resolve(answer(200)));
    const box = tab(send);
    await soon(() => expect(send).toHaveBeenCalledOnce());
    await soon(() => expect(box.snapshot().waiting).toEqual([]));
  });

  it("goes on after a refusal without a word", async () => {
    const box = tab((path) => Promise.resolve(answer(path.endsWith("a") ? 422 : 200)));
    void box.post(letter("a")).catch(() => undefined);
    await box.post(letter("b"));
    expect(box.snapshot().aside.map((l) => l.aside)).toEqual(["The program refused it, and did not say why."]);
  });

  it("puts a refused letter aside with its reason and goes on; it is sent again or dropped by the person", async () => {
    let well = false;
    const send = vi.fn<Send>((path) =>
      Promise.resolve(path.endsWith("bad") && !well ? no(422, "give it a name") : answer(200)),
    );
    const box = tab(send);
    const [refused, kept] = await Promise.allSettled([box.post(letter("bad")), box.post(letter("b"))]);
    expect((refused as PromiseRejectedResult).reason).toBeInstanceOf(Refused);
    expect(kept.status).toBe("fulfilled");
    await soon(() => expect(box.snapshot().aside).toMatchObject([{ id: "bad", aside: "give it a name" }]));
    well = true;
    await box.again("bad");
    await soon(async () => expect(await stored()).toEqual([]));
    well = false;
    await box.post(letter("worse-bad")).catch(() => undefined);
    await box.drop("worse-bad");
    expect(await stored()).toEqual([]);
  });

  it("does not bring back a letter that was dropped while it was being put aside", async () => {
    await device.letters.add(letter("a"));
    await Promise.all([
      device.letters.change("a", () => undefined),
      device.letters.change("a", (l) => ({ ...l, aside: "why" })),
    ]);
    expect(await stored()).toEqual([]);
  });

  it("lets a refused letter go whose form is still open with what was typed", async () => {
    const box = tab(() => Promise.resolve(no(409, "somebody changed it")));
    await expect(box.post({ ...letter("a"), form: true })).rejects.toThrow("somebody changed it");
    await soon(async () => expect(await stored()).toEqual([]));
  });

  it("says what was refused when nobody waits for it any more, and keeps it", async () => {
    await device.letters.add(letter("old"));
    const box = tab(async () => {
      await nap();
      return no(409, "closed meanwhile");
    });
    const told = vi.fn();
    box.onRefused = told;
    await soon(() => expect(told).toHaveBeenCalledWith(expect.objectContaining({ id: "old" }), "closed meanwhile"));
    expect(await stored()).toEqual(["old"]);
  });

  it("is not blocked by a letter that the program can never save", async () => {
    const sent: string[] = [];
    const box = tab((path) => {
      sent.push(path);
      return Promise.resolve(path.endsWith("bad") ? no(500, "boom") : answer(200));
    });
    const bad = box.post(letter("bad"));
    bad.catch(() => undefined);
    await Promise.all([box.post(letter("later")), box.post(letter("other", "k"))]);
    await expect(bad).rejects.toThrow("could not save");
    expect(sent.filter((p) => p.endsWith("bad"))).toHaveLength(mostTries);
    expect(sent.indexOf("/jobs/k/entries/other")).toBeLessThan(sent.lastIndexOf("/jobs/j/entries/bad"));
    expect(sent.indexOf("/jobs/j/entries/later"), "the order of a job's own taps").toBeGreaterThan(
      sent.lastIndexOf("/jobs/j/entries/bad"),
    );
    await soon(() => expect(box.snapshot().aside.map((l) => l.id)).toEqual(["bad"]));
  });

  it("tells no link, cannot save and signed out apart, and keeps everything meanwhile", async () => {
    for (const [first, trouble] of [
      [() => Promise.reject(new TypeError("no")), "no-link"],
      [() => Promise.resolve(no(500, "boom")), "cannot-save"],
      [() => Promise.resolve(no(503, "wait")), "busy"],
      [() => Promise.resolve(no(429, "too many at once")), "busy"],
      [() => Promise.resolve(no(408, "broken off")), "busy"],
      [() => Promise.resolve(no(401, "who are you?")), "signed-out"],
      ...(["full", "read-only", "damaged", "gone", "busy"] as const).map(
        (kind) => [() => Promise.resolve(no(503, kind, `/problems/record/${kind}`)), kind] as const,
      ),
    ] as const) {
      const seen: string[] = [];
      const send = vi
        .fn<Send>()
        .mockImplementationOnce(first)
        .mockImplementation(() => Promise.resolve(answer(200)));
      const box = tab(send);
      box.subscribe(() => seen.push(`${box.snapshot().trouble} ${box.snapshot().waiting.length}`));
      await box.post(letter(`x-${trouble}`));
      expect(seen).toContain(`${trouble} 1`);
      await soon(() => expect(box.snapshot()).toEqual({ waiting: [], aside: [], trouble: "none", unkept: [] }));
    }
  });

  it("keeps what one person tapped for them, and asks when another is signed in", async () => {
    const people = { kit: { id: "k", name: "Kit Venn" }, tam: { id: "t", name: "Tamsin Vane" } };
    let now: (typeof people)["kit"] | undefined = people.kit;
    let up = false;
    const sent: string[] = [];
    const send: Send = (path) =>
      up ? (sent.push(path), Promise.resolve(answer(200))) : Promise.resolve(no(401, "who?"));
    const box = tab(send, device.letters, () => now);
    const waited = box.post({ ...letter("a"), form: true });
    waited.catch(() => undefined);
    await soon(() => expect(box.snapshot().trouble).toBe("signed-out"));
    box.nobodyWaits(); // its form is gone with the sign-in
    now = undefined; // signed out: it waits
    await new Promise((done) => setTimeout(done, 5));
    expect(box.snapshot().waiting.map((l) => l.id)).toEqual(["a"]);
    [now, up] = [people.tam, true];
    await soon(() => expect(box.snapshot().aside[0]?.aside).toContain("Kit Venn tapped this, and Tamsin Vane"));
    expect(sent).toEqual([]);
    await box.signedIn();
    expect(box.snapshot().aside).toHaveLength(1);
    now = people.kit; // and back: it goes by itself
    await box.signedIn();
    await soon(() => expect(sent).toHaveLength(1));
    now = people.tam;
    const other = box.post(letter("b"));
    await other;
    void box.post({ ...letter("c") }).catch(() => undefined);
    now = people.kit;
    await soon(() => expect(box.snapshot().waiting).toEqual([]));
    for (const l of box.snapshot().aside) await box.again(l.id); // Kit takes it on
    await soon(() => expect(sent).toHaveLength(3));
    expect(box.snapshot().aside).toEqual([]);
  });

  it("waits for ever when it is signed out, or the record's place is to blame: that is no fault of the letter", async () => {
    for (const answered of [
      () => no(401, "who?"),
      () => no(503, "full", "/problems/record/full"),
      () => no(429, "slower"),
    ]) {
      let times = 0;
      const box = tab(() => Promise.resolve(++times < 3 * mostTries ? answered() : answer(200, "in")));
      await expect(box.post(letter("a"))).resolves.toBe("in");
    }
  });

  it("is one for all tabs of a device: each letter is sent once, whoever sends, and each tab hears of its own", async () => {
    const sent: string[] = [];
    let up = false;
    const send: Send = (path) => {
      if (!up) return Promise.reject(new TypeError("down"));
      sent.push(path);
      return Promise.resolve(answer(200, path));
    };
    const [one, two] = [tab(send), tab(send)];
    const all = ["a", "b", "c", "d"].map((id, i) => (i % 2 ? one : two).post(letter(id)));
    await soon(() => {
      expect(one.snapshot().waiting).toHaveLength(4);
      expect(two.snapshot().waiting).toHaveLength(4);
    });
    up = true;
    expect(await Promise.all(all)).toHaveLength(4);
    expect([...sent].sort()).toEqual(["a", "b", "c", "d"].map((id) => `/jobs/j/entries/${id}`));
    await soon(() => expect(two.snapshot().waiting).toEqual([]));
  });

  it("says of what the device cannot store that it is not kept, until there is room again", async () => {
    let room = false;
    const full: Letters = {
      ...device.letters,
      add: (l) => (room ? device.letters.add(l) : Promise.reject(new DOMException("full", "QuotaExceededError"))),
    };
    let up = false;
    const box = tab(() => (up ? Promise.resolve(answer(200)) : Promise.reject(new TypeError("no link"))), full);
    const posted = box.post(letter("unkept"));
    await soon(() => expect(box.snapshot().unkept).toEqual(["unkept"]));
    expect(box.snapshot().waiting.map((l) => l.id)).toEqual(["unkept"]);
    expect(await stored()).toEqual([]);
    room = true;
    await soon(() => expect(box.snapshot().unkept).toEqual([]));
    expect(await stored()).toEqual(["unkept"]);
    up = true;
    await posted;
  });

  it("sends from the page what the device cannot store", async () => {
    const full: Letters = {
      ...device.letters,
      add: () => Promise.reject(new DOMException("full", "QuotaExceededError")),
    };
    let up = false;
    const box = tab(() => (up ? Promise.resolve(answer(200, "saved")) : Promise.reject(new TypeError("down"))), full);
    const kept = box.post(letter("a"));
    await soon(() => expect(box.snapshot().waiting.map((l) => l.id)).toEqual(["a"]));
    up = true;
    await expect(kept).resolves.toBe("saved");
  });

  it("works without any storage at all", async () => {
    const none = () => Promise.reject(new DOMException("refused", "SecurityError"));
    const box = tab(() => Promise.resolve(answer(200, "saved")), { all: none, add: none, change: none });
    await expect(box.post(letter("a"))).resolves.toBe("saved");
    await soon(() => expect(box.snapshot().waiting).toEqual([]));
  });

  it("stores a photo as it is and sends it in the form that the program takes", async () => {
    const bodies: unknown[] = [];
    const box = tab((_, body) => {
      bodies.push(body);
      return Promise.resolve(answer(200));
    });
    const photo = new NodeBlob([new Uint8Array([255, 216, 1])]) as unknown as Blob; // jsdom's own cannot be stored
    await box.post({ ...letter("a"), body: { kind: "photo", photo: { item: "i", data: "" } }, photo });
    expect(bodies).toEqual([{ kind: "photo", photo: { item: "i", data: "/9gB" } }]);
  });
});
