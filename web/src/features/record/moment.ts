/** A day and a time of it, in words. */
export const moment = (at: string) =>
  new Date(at).toLocaleString("en-GB", {
    day: "numeric",
    month: "long",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
  });

/** How large a file is, to two digits. */
export const size = (bytes: number) =>
  bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${Number((bytes / 1e6).toPrecision(2))} MB`;
