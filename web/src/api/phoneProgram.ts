import address from "../../generated/phone.wasm?url";

/**
 * The phone's own program lies beside the shell, under a name that carries a hash of it: it is fetched once, and an
 * older one goes when a newer one came.
 */
export async function phoneProgram(): Promise<Response> {
  const cache = await caches.open("hevrin.program").catch(() => undefined);
  const kept = await cache?.match(address);
  if (kept) return kept;
  const answer = await fetch(address);
  if (!answer.ok || !cache) return answer;
  // it is read from where it is kept: a copy beside it would lie in memory until both are read
  await cache.put(address, answer).catch(() => undefined);
  for (const old of await cache.keys()) if (!old.url.endsWith(address)) await cache.delete(old);
  return (await cache.match(address)) ?? fetch(address); // there was no room: it is fetched again
}
