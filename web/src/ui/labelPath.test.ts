import { expect, test } from "vitest";
import { labelPath } from "./labelPath";

const id = "f83e8f64-55a4-57c4-8e09-338728cb8368";

test.each([
  [`https://yard.test:8433/engines/${id}`, `/engines/${id}`],
  [`https://192.168.1.20/engines/${id}/feed`, `/engines/${id}/feed`],
  ["https://yard.test/parts?find=Impeller+kit&x=1", "/parts?find=Impeller+kit"],
  [`http://yard.test/engines/${id}`, undefined],
  [`https://yard.test/engines/${id}/../../people`, undefined],
  [`https://yard.test/join#${"x".repeat(43)}`, undefined],
  [`https://yard.test/engines/${id}#join`, undefined],
  ["javascript:alert(1)", undefined],
  ["a word", undefined],
])("%s leads to %s", (text, path) => {
  expect(labelPath(text)).toBe(path);
});
