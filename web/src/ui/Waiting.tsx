import { Alert, Button } from "@mui/material";
import { lazy, Suspense, useState } from "react";
import type { Letter, State, Trouble } from "../api/outbox";
import { useOutbox } from "../api/queries";

const WaitingDialog = lazy(() => import("./WaitingDialog").then((m) => ({ default: m.WaitingDialog })));

const reasons: Record<Exclude<Trouble, "none">, string> = {
  "no-link": "No link to the program.",
  "cannot-save": "The program answers, but cannot save.",
  "signed-out": "This device is signed out.",
  full: "The disk that holds the record is full: make room on it.",
  "read-only": "The record cannot be written: let Hevrin write in its data folder.",
  damaged: "The record is damaged, and nothing more is written to it: restore the last good backup.",
  gone: "The record's file was moved or removed: stop Hevrin, put it back, and start again.",
  busy: "Many people write at once.",
};

const things = (n: number) => (n === 1 ? "1 thing" : `${n} things`);

/** What still waits on this device and why, and what stepped aside: each can be sent again or dropped. */
export function Waiting() {
  const { waiting, aside, trouble } = useOutbox();
  const [open, setOpen] = useState(false);
  const told = aside.length > 0 || (trouble !== "none" && waiting.length > 0);
  return (
    <>
      {told && <Told {...{ waiting, aside, trouble }} onShow={() => setOpen(true)} />}
      <Suspense>{open && <WaitingDialog {...{ waiting, aside }} onClose={() => setOpen(false)} />}</Suspense>
    </>
  );
}

function Told({ waiting, aside, trouble, onShow }: State & { onShow: () => void }) {
  return (
    <Alert
      severity={aside.length > 0 ? "error" : "warning"}
      role="status"
      sx={{ borderRadius: 0, position: "sticky", top: 0, zIndex: 5 }}
      action={
        <Button color="inherit" onClick={onShow}>
          Show
        </Button>
      }
    >
      {trouble !== "none" && waiting.length > 0 && (
        <>
          {reasons[trouble]} {things(waiting.length)} {waiting.length === 1 ? "waits" : "wait"} on this device and will
          be sent: {briefly(waiting)}.{" "}
        </>
      )}
      {aside.length > 0 && `Not saved: ${briefly(aside)}.`}
    </Alert>
  );
}

const briefly = (list: Letter[]) =>
  list
    .slice(0, 3)
    .map((l) => l.label)
    .join("; ") + (list.length > 3 ? " …" : "");
