import { useCallback, useEffect, useRef, useState } from "react";
import { memory } from "../api/memory";

const mutedName = "hevrin.prime.muted";

/** Whether the clocks of this device sound; said once for all of them. */
export function useMuted(): [boolean, () => void] {
  const [muted, setMuted] = useState(() => memory.text(mutedName) === "yes");
  const turn = () => {
    memory.set(mutedName, muted ? "no" : "yes");
    setMuted(!muted);
  };
  return [muted, turn];
}

const strong = [400, 150, 400, 150, 400]; // ms of vibration and of rest

/**
 * A beep and a short buzz, and a long low one for stop. No sound when muted or where the browser has none; a device
 * that can vibrate does so all the same: an engine space is loud.
 */
export function useBeep(muted: boolean) {
  const sound = useRef<AudioContext>(undefined);
  useEffect(() => () => void sound.current?.close(), []);
  return useCallback(
    (stop: boolean) => {
      if ("vibrate" in navigator) navigator.vibrate(stop ? strong : 80);
      if (muted || typeof AudioContext === "undefined") return;
      sound.current ??= new AudioContext();
      const now = sound.current.currentTime;
      const tone = sound.current.createOscillator();
      const loud = sound.current.createGain();
      tone.type = "square";
      tone.frequency.value = stop ? 440 : 880;
      loud.gain.setValueAtTime(0.25, now);
      loud.gain.exponentialRampToValueAtTime(0.001, now + (stop ? 0.8 : 0.15));
      tone.connect(loud).connect(sound.current.destination);
      tone.start(now);
      tone.stop(now + (stop ? 0.8 : 0.15));
    },
    [muted],
  );
}

/** The phone does not go dark while somebody waits by it. A browser lets go of a hidden page: it is asked anew. */
export function useAwake(on = true) {
  useEffect(() => {
    if (!on) return;
    let lock: WakeLockSentinel | undefined;
    let gone = false;
    const ask = () => {
      if (document.visibilityState !== "visible") return;
      navigator.wakeLock?.request("screen").then(
        (l) => {
          lock = l;
          if (gone) void l.release();
        },
        () => undefined, // not allowed here: it goes dark as it always does
      );
    };
    ask();
    document.addEventListener("visibilitychange", ask);
    return () => {
      gone = true;
      document.removeEventListener("visibilitychange", ask);
      void lock?.release();
    };
  }, [on]);
}
