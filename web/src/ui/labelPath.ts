/** Pages to which a label leads. */
const pages = /^\/(engines\/[0-9a-f-]{36}(\/feed)?|parts)$/;

/**
 * Where a scanned label leads within this program; undefined: it is no label of a yard. The name of the machine on it
 * is not looked at: a yard has several, and nothing but its own page is opened.
 */
export function labelPath(text: string): string | undefined {
  const url = URL.canParse(text) ? new URL(text) : undefined;
  if (url?.protocol !== "https:" || !pages.test(url.pathname) || url.hash) return undefined;
  const find = url.searchParams.get("find");
  return url.pathname + (find ? `?${new URLSearchParams({ find }).toString()}` : "");
}
