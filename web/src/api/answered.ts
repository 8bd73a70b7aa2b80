import type { QueryClient, QueryKey } from "@tanstack/react-query";

/**
 * Shows what a write answered. A question under way at that moment may have been answered from before the write: what
 * it brings is not shown, and it is asked again, as it may as well tell of what another has changed since.
 */
export function answered(cache: QueryClient, queryKey: QueryKey, data: unknown) {
  const of = { queryKey, exact: true };
  const underWay = cache.isFetching(of) > 0;
  cache.setQueryData(queryKey, data);
  if (!underWay) return;
  void cache.cancelQueries(of);
  void cache.invalidateQueries(of);
}
