import { isRecord, memory } from "./memory";
import { client, Refused, type Schemas } from "./client";

export type Session = Schemas["Session"];
export type Right = Schemas["Right"];

/** Under which a device remembers who used it last: so that it opens without a link as it was. */
const name = "hevrin.session";

const isSession = (x: unknown): x is Session =>
  isRecord(x) &&
  (x.mode === "alone" || x.mode === "yard") &&
  typeof x.signed_in === "boolean" &&
  Array.isArray(x.rights);

let held: { text?: string; session?: Session } = {};

/** Who uses this device, as far as it is known; undefined before the program was ever asked. */
function snapshot(): Session | undefined {
  const text = memory.text(name);
  if (text !== held.text || !held.session) held = { text, session: memory.read(name, isSession) };
  return held.session;
}

/** Takes in what the program says of who uses this device. */
function set(s: Session): Session {
  memory.write(name, s);
  return s;
}

type Asked = Promise<{ data?: Session; error?: Schemas["Problem"] }>;

/** How often somebody signed in or out here: what was asked before that says nothing of what is now. */
let acts = 0;

async function read(answer: Asked): Promise<Session> {
  const { data, error } = await answer;
  if (error || !data) throw new Refused(error ?? { title: "No answer", status: 0, detail: "No answer." });
  return data;
}

/** Somebody signs in or out, or becomes another. */
async function told(answer: Asked): Promise<Session> {
  const data = await read(answer);
  acts++;
  return set(data);
}

/** Under which a device remembers that it was signed out without a link, until the yard knows. */
const leaving = "hevrin.signing-out";

/** Signs out. Without a link nothing more is shown here from now on, and the yard is told once there is one. */
async function signOut(): Promise<Session> {
  try {
    return await told(client.DELETE("/session"));
  } catch (e) {
    if (!(e instanceof TypeError)) throw e; // it was answered
    memory.set(leaving, "yes");
    acts++;
    return set({ mode: "yard", signed_in: false, rights: [], tiles: [] });
  }
}

/** Tells the yard of a sign-out of before; whoever signs in next is not to find the one before them signed in. */
async function tellLeaving() {
  if (memory.text(leaving) === undefined) return;
  try {
    await told(client.DELETE("/session"));
  } catch (e) {
    if (e instanceof TypeError) throw e; // not answered; else nobody is signed in here any more
  }
  memory.set(leaving, undefined);
}

/** Asks who uses this device; without a link what is remembered stands. */
async function refresh(): Promise<Session | undefined> {
  await tellLeaving();
  const asked = acts;
  const data = await read(client.GET("/session"));
  return asked === acts ? set(data) : snapshot();
}

export const session = {
  snapshot,
  subscribe: (l: () => void) => {
    const other = (e: StorageEvent) => e.key === name && l(); // another tab
    window.addEventListener("storage", other);
    const stop = memory.subscribe(name, l);
    return () => {
      stop();
      window.removeEventListener("storage", other);
    };
  },
  refresh,
  signIn: async (body: Schemas["SignIn"]) => {
    await tellLeaving();
    return told(client.POST("/session", { body }));
  },
  signOut,
  switchTo: (body: Schemas["SwitchPerson"]) => told(client.PUT("/session/person", { body })),
  changePassphrase: (body: Schemas["PassphraseChange"]) => told(client.PUT("/session/passphrase", { body })),
  setPIN: (body: Schemas["PINChange"]) => told(client.PUT("/session/pin", { body })),
  accept: async (token: string, body: Schemas["InvitationAccepted"]) => {
    await tellLeaving();
    return told(client.POST("/invitations/{token}", { params: { path: { token } }, body }));
  },
  /** What was refused for want of a sign-in: who uses this device is asked for once more. */
  lost: () => void refresh().catch(() => undefined),
};
