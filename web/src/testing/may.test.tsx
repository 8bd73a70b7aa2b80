import { afterEach, expect, test } from "vitest";
import { screen } from "@testing-library/react";
import { memory } from "../api/memory";
import { May } from "../ui/May";
import { show } from "./show";

const signedIn = (rights: string[]) =>
  memory.write("hevrin.session", { mode: "yard", signed_in: true, rights, tiles: [] });

afterEach(() => memory.write("hevrin.session", { mode: "alone", signed_in: true, rights: [], tiles: [] }));

const sheet = (
  <May right="work">
    <button>Seacock shut</button>
  </May>
);

test.each([
  ["who may", ["read", "work"], true],
  ["who may not", ["read"], false],
])("%s", (_, rights, may) => {
  signedIn(rights);
  show(sheet);
  const button = screen.getByRole("button", { name: "Seacock shut" });
  if (may) expect(button).toBeEnabled();
  else expect(button).toBeDisabled();
  expect(screen.queryByText(/you read along/) === null).toBe(may);
});

test("alone, everybody may", () => {
  memory.write("hevrin.session", { mode: "alone", signed_in: true, rights: [], tiles: [] });
  show(sheet);
  expect(screen.getByRole("button", { name: "Seacock shut" })).toBeEnabled();
});
