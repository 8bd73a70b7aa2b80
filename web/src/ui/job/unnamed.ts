const mark = "Not named yet";

const minute = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

/** The name of a craft that nobody named yet, told from others by when it was put in. */
export const notNamed = (at: Date) => `${mark}, ${minute.format(at)}`;

/** Whether a craft still waits for its name. */
export const isUnnamed = (name: string) => name.startsWith(mark);
