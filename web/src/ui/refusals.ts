import { useState } from "react";
import { Refused } from "../api/client";

/** What of an attempt was refused, in words. */
export const saysNo = (e: unknown) =>
  e instanceof Refused
    ? (e.problem.errors?.map((x) => x.say).join(" ") ?? e.message)
    : "The program does not answer: try again.";

/** Tries one thing at a time, and keeps what was refused to be shown. */
export function useTry() {
  const [refused, setRefused] = useState("");
  const [busy, setBusy] = useState(false);
  const attempt = async (what: () => Promise<unknown>) => {
    setBusy(true);
    setRefused("");
    try {
      await what();
      return true;
    } catch (e) {
      const say = saysNo(e);
      setRefused(say.charAt(0).toUpperCase() + say.slice(1));
      return false;
    } finally {
      setBusy(false);
    }
  };
  return { refused, busy, attempt };
}
