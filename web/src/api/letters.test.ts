import { forceCloseDatabase } from "fake-indexeddb";
import { deleteDB, unwrap, type IDBPDatabase } from "idb";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { answer, device, freshDevice, letter, open, soon, stored, tab, type Send } from "../testing/device";
import { openLetters, storedLetters, takeOver } from "./letters";

beforeEach(freshDevice);

describe("letters on the device", () => {
  it("loses no tap of a page that is killed before the device has stored it", async () => {
    const never = storedLetters(() => () => new Promise(() => undefined), `t${device.base}.`); // the page dies while the database opens
    const dead = tab(() => Promise.reject(new TypeError("no link")), never);
    void dead.post(letter("a"));
    void dead.post(letter("b"));
    device.lock = Promise.resolve(); // a page that is gone holds no lock
    const sent: string[] = [];
    const box = tab((path) => {
      sent.push(path);
      return Promise.resolve(answer(200));
    });
    await soon(() => expect(sent).toEqual(["/jobs/j/entries/a", "/jobs/j/entries/b"]));
    await soon(() => expect(box.snapshot().waiting).toEqual([]));
    expect(Object.keys(localStorage)).toEqual([]);
  });

  it("keeps a tap over a reload where the database is refused, once, and lets it go when it is saved", async () => {
    const refused = () => storedLetters(() => () => Promise.reject(new Error("refused")), `t${device.base}.`);
    let link = false;
    const send = vi.fn<Send>(() => (link ? Promise.resolve(answer(200)) : Promise.reject(new TypeError("no link"))));
    const first = tab(send, refused());
    void first.post(letter("a"));
    await soon(() => expect(first.snapshot()).toMatchObject({ waiting: [{ id: "a" }], trouble: "no-link" }));
    expect(await refused().all()).toMatchObject([{ id: "a" }]);
    link = true;
    await soon(() => expect(first.snapshot().waiting).toEqual([]));
    expect(Object.keys(localStorage)).toEqual([]);
  });

  it("keeps the order of taps where the database is refused and the device's clock is set back between them", async () => {
    const refused = () => storedLetters(() => () => Promise.reject(new Error("refused")), `t${device.base}.`);
    const now = vi.spyOn(Date, "now");
    for (const [at, id] of [
      [1_900_000_000_000, "z"],
      [1_900_000_000_000, "a"],
      [1_800_000_000_000, "m"],
    ] as const) {
      now.mockReturnValue(at);
      await refused().add(letter(id)); // jotted down, it outlives the page
    }
    now.mockRestore();
    const photo = { ...letter("photo"), photo: new Blob(["x"]) };
    await expect(refused().add(photo), "too big to be jotted down").rejects.toThrow("refused");
    expect((await refused().all()).map((l) => l.id)).toEqual(["z", "a", "m"]);
  });

  it("stores what waits anew when the device is emptied under the open page, and sends it once, in order", async () => {
    let db: IDBPDatabase | undefined;
    const name = `t${device.base}`;
    const opener = (gone: () => void) => {
      const opened = openLetters(gone, name);
      return async () => (db = await opened());
    };
    let link = false;
    const sent: string[] = [];
    const box = tab(
      (path) => {
        if (!link) return Promise.reject(new TypeError("no link"));
        sent.push(path.split("/").at(-1) ?? "");
        return Promise.resolve(answer(path.endsWith("c") ? 422 : 200));
      },
      storedLetters(opener, `${name}.`),
    );
    void box.post(letter("a"));
    void box.post(letter("b"));
    await soon(async () => expect(await stored()).toEqual(["a", "b"]));
    await soon(() => expect(box.snapshot().waiting).toHaveLength(2));
    if (db) forceCloseDatabase(unwrap(db) as unknown as Parameters<typeof forceCloseDatabase>[0]);
    await deleteDB(name);
    localStorage.clear();
    device.letters = storedLetters(open(name), `${name}.`);
    await soon(async () => expect(await stored()).toEqual(["a", "b"]));
    expect(box.snapshot().waiting.map((l) => l.id)).toEqual(["a", "b"]);
    void box.post(letter("c")).catch(() => undefined);
    link = true;
    await soon(() => expect(sent).toEqual(["a", "b", "c"]));
    await soon(async () => expect(await stored()).toEqual(["c"]));
    await soon(() => expect(box.snapshot().aside.map((l) => l.id)).toEqual(["c"]));
  });

  it("lets a letter step aside whose picture the device has lost, and the rest goes on", async () => {
    const send = vi.fn<Send>(() => Promise.resolve(answer(200)));
    const photo = { arrayBuffer: () => Promise.reject(new Error("gone")) } as unknown as Blob;
    const all = async () => (await device.letters.all()).map((l) => (l.id === "p" ? { ...l, photo } : l));
    const box = tab(send, { ...device.letters, all });
    void box.post(letter("p")).catch(() => undefined);
    void box.post(letter("q", "other"));
    await soon(() =>
      expect(box.snapshot().aside.map((l) => l.aside)).toEqual([expect.stringContaining("take it again")]),
    );
    await soon(() => expect(send.mock.calls.map(([path]) => path)).toEqual(["/jobs/other/entries/q"]));
  });

  it("takes over what an older version stored, by today's addresses, whatever else lies there", async () => {
    localStorage.setItem(
      "hevrin.outbox",
      JSON.stringify([{ ...letter("a"), path: "/shelf/entries/a" }, 7, null, letter("b")]),
    );
    await takeOver(device.letters);
    expect((await device.letters.all()).map((l) => l.path)).toEqual(["/inventory/entries/a", "/jobs/j/entries/b"]);
    expect(localStorage.getItem("hevrin.outbox")).toBeNull();
    localStorage.setItem("hevrin.outbox", "{broken");
    await takeOver(device.letters);
    expect(await stored()).toHaveLength(2);
  });
});

describe("a link that is cut", () => {
  const ids = ["a", "b", "c", "d", "e", "f", "g", "h"];
  /** A yard that takes each letter once, whatever is sent again, and a link that is cut as cut says. */
  function yardBehind(cut: (request: number) => "lost" | "answer lost" | "killed" | undefined) {
    const taken: string[] = [];
    let requests = 0;
    const send: Send = (path) => {
      const id = path.split("/").at(-1) ?? "";
      const how = cut(++requests);
      if (how !== "lost" && !taken.includes(id)) taken.push(id);
      if (how === "killed") return new Promise(() => undefined); // the page is gone, and hears no answer
      return how ? Promise.reject(new TypeError("cut")) : Promise.resolve(answer(200));
    };
    return { taken, send };
  }
  const begin = (send: Send) => {
    freshDevice();
    const box = tab(send);
    for (const id of ids) void box.post(letter(id)).catch(() => undefined);
  };
  const all = async (taken: string[]) => {
    await soon(() => expect(taken).toHaveLength(ids.length));
    await soon(async () => expect(await stored()).toEqual([]));
    expect(taken).toEqual(ids);
  };

  it("at each request in turn, before it or after it arrived, loses nothing, doubles nothing, and keeps the order", async () => {
    for (const how of ["lost", "answer lost"] as const)
      for (let at = 1; at <= ids.length; at++) {
        const { taken, send } = yardBehind((n) => (n === at ? how : undefined));
        begin(send);
        await all(taken);
      }
  });
  it("together with the page, at each request in turn: the next page sends the rest", async () => {
    for (let at = 1; at <= ids.length; at++) {
      const { taken, send } = yardBehind((n) => (n === at ? "killed" : undefined));
      begin(send);
      await soon(() => expect(taken).toHaveLength(at));
      device.lock = Promise.resolve(); // a page that is gone holds no lock
      device.channels = [];
      tab(send);
      await all(taken);
    }
  });
  it("again and again, as drawn", async () => {
    let seed = 20;
    const draw = () => (seed = (seed * 48271) % 2147483647) / 2147483647; // Park and Miller's, 1988
    for (let round = 0; round < 20; round++) {
      const { taken, send } = yardBehind(() => {
        const x = draw();
        return x < 0.3 ? "lost" : x < 0.5 ? "answer lost" : undefined;
      });
      begin(send);
      await all(taken);
    }
  });
});
