/** A day and a time of it, in words. */
export const moment = (at: string) =>
  new Date(at).toLocaleString("en-GB", {
    day: "numeric",
    month: "long",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
  });
