import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { client } from "./client";
import { memory } from "./memory";
import { session } from "./session";

const kit = { mode: "yard", signed_in: true, rights: [], tiles: [], person: { id: "k", name: "Kit Venn" } };
const out = { mode: "yard", signed_in: false, rights: [], tiles: [] };

const yard = { up: false, asked: [] as string[], here: kit as unknown };

beforeEach(() => {
  localStorage.clear();
  Object.assign(yard, { up: false, asked: [], here: kit });
  memory.write("hevrin.session", kit);
  for (const method of ["GET", "DELETE", "POST"] as const)
    vi.spyOn(client, method).mockImplementation((() => {
      if (!yard.up) return Promise.reject(new TypeError("no link"));
      yard.asked.push(method);
      if (method === "DELETE") yard.here = out;
      return Promise.resolve({ data: yard.here });
    }) as never);
});
afterEach(() => {
  vi.restoreAllMocks();
  memory.write("hevrin.session", { mode: "alone", signed_in: true, rights: [], tiles: [] });
});

it("signs out without a link: nothing more is shown, and the yard is told before anybody is asked for", async () => {
  await session.signOut();
  expect(session.snapshot()).toEqual(out);
  await expect(session.refresh()).rejects.toThrow("no link");
  expect(session.snapshot()).toEqual(out);
  yard.up = true;
  await session.refresh();
  expect(yard.asked).toEqual(["DELETE", "GET"]);
  expect(session.snapshot()).toEqual(out);
  await session.refresh();
  expect(yard.asked, "told once").toEqual(["DELETE", "GET", "GET"]);
});

it("lets whoever signs in next not find the one before them signed in", async () => {
  await session.signOut();
  yard.up = true;
  await session.signIn({ name: "Tamsin Vane", passphrase: "kettle moss ladder orange" });
  expect(yard.asked).toEqual(["DELETE", "POST"]);
});

it("is not stuck where the yard had ended the sign-in meanwhile, and signs nobody out who came in after it", async () => {
  await session.signOut();
  yard.up = true;
  vi.spyOn(client, "DELETE").mockResolvedValue({
    error: { title: "t", status: 401, detail: "sign in first" },
  } as never);
  await session.accept("token", { passphrase: "kettle moss ladder orange" });
  await session.refresh();
  expect(yard.asked).toEqual(["POST", "GET"]);
});
