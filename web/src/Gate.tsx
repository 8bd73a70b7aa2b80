import { useQueryClient } from "@tanstack/react-query";
import { Fragment, lazy, Suspense, useEffect, useRef, useState, type ReactNode } from "react";
import { signedOut } from "./api/client";
import { outbox } from "./api/outbox";
import { useSession } from "./api/queries";
import { session } from "./api/session";

const SignInScreen = lazy(() => import("./features/people/SignInScreen").then((m) => ({ default: m.SignInScreen })));

/**
 * Where people sign in, nothing of the record is drawn for who has not; what one person saw is not shown to the next.
 */
export function Gate({ children }: { children: ReactNode }) {
  const s = useSession();
  const cache = useQueryClient();
  const [asked, setAsked] = useState(false);
  const before = useRef(s?.person?.id);
  useEffect(() => {
    signedOut.heard = session.lost;
    void session
      .refresh()
      .catch(() => undefined) // no link: as it was
      .then(() => setAsked(true));
  }, []);
  useEffect(() => {
    if (before.current !== s?.person?.id) cache.clear();
    before.current = s?.person?.id;
    if (s?.signed_in) void outbox.signedIn();
    else outbox.nobodyWaits();
  }, [s?.person?.id, s?.signed_in, cache]);
  if (!s && !asked) return null;
  if (s?.mode === "yard" && !s.signed_in)
    return (
      <Suspense>
        <SignInScreen />
      </Suspense>
    );
  return <Fragment key={s?.person?.id}>{children}</Fragment>; // nothing half typed goes to the next person
}
