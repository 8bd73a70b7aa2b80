import type { Schemas } from "../../api/client";

const words: [keyof Schemas["ListCounts"], string, string][] = [
  ["craft", "craft", "craft"],
  ["engines", "engine", "engines"],
  ["parts", "part", "parts"],
  ["jobs", "past job", "past jobs"],
  ["maintenance", "maintenance done", "times maintenance done"],
];

/** What a list adds, in words: "2 craft, 3 engines"; empty where it adds nothing. */
export const countWords = (counts: Schemas["ListCounts"]) =>
  words
    .flatMap(([key, one, more]) => {
      const n = counts[key] ?? 0;
      return n > 0 ? [`${n} ${n === 1 ? one : more}`] : [];
    })
    .join(", ");
