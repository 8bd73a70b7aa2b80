import { Alert, Box, Button, Stack, Typography } from "@mui/material";
import { lazy, Suspense, useDeferredValue, useEffect, useState, useSyncExternalStore } from "react";
import { link } from "../api/link";
import type { Letter } from "../api/letters";
import type { State, Trouble } from "../api/outbox";
import { useOutbox } from "../api/queries";
import { stuck } from "./stuck";
import { moment } from "./words";
import { thisDevice } from "./thisDevice";

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

const linkLine = stuck("--link-line");

/**
 * What the link does: without one, whether this device goes on by itself, and from when; what still waits on it and
 * why; what stepped aside, which can be sent again or dropped.
 */
export function Waiting() {
  const { waiting, aside, trouble, unkept } = useDeferredValue(useOutbox()); // no answer waits for it
  const lost = waiting.filter((l) => unkept.includes(l.id));
  const kept = waiting.filter((l) => !unkept.includes(l.id));
  const down = useSyncExternalStore(link.subscribe, link.down);
  const [open, setOpen] = useState(false);
  const told = aside.length > 0 || (!down && trouble !== "none" && kept.length > 0);
  const show = () => setOpen(true);
  return (
    <>
      {(down || told || lost.length > 0) && (
        <Box ref={linkLine} sx={{ position: "sticky", top: "var(--practice-line, 0px)", zIndex: 5 }}>
          {lost.length > 0 && <Unkept list={lost} onShow={show} />}
          {down && <NoLink waiting={kept.length} full={lost.length > 0} onShow={show} />}
          {told && <Told {...{ waiting: down ? [] : kept, aside, trouble, unkept }} onShow={show} />}
        </Box>
      )}
      <Suspense>{open && <WaitingDialog {...{ waiting, aside, unkept }} onClose={() => setOpen(false)} />}</Suspense>
    </>
  );
}

/** While the program is not reached: whether this device goes on, from when what stands here is, how much waits. */
function NoLink({ waiting, full, onShow }: { waiting: number; full: boolean; onShow: () => void }) {
  const alone = useSyncExternalStore(link.subscribe, link.alone);
  const last = link.reached();
  return (
    <Stack
      direction="row"
      role="status"
      aria-label="No link"
      sx={{
        bgcolor: "text.primary",
        color: "background.paper",
        px: { xs: 1.5, md: 2.5 },
        alignItems: "center",
      }}
    >
      <Typography sx={{ py: 0.5, lineHeight: 1.3, mr: "auto" }}>
        <strong>No link{alone ? `: ${thisDevice()} goes on.` : "."}</strong>{" "}
        {last > 0 && `${alone ? "Last with the yard" : "As it stood"} ${moment(last)}. `}
        {waiting === 0
          ? !alone && !full && "What you tap is kept, and sent once there is one."
          : `${things(waiting)} ${waiting === 1 ? "waits" : "wait"}.`}
      </Typography>
      {waiting > 0 && (
        <Button color="inherit" onClick={onShow} sx={{ flex: "none" }}>
          Show
        </Button>
      )}
    </Stack>
  );
}

/** What this device could not keep: said at once, until it is sent, and before the page is left. */
function Unkept({ list, onShow }: { list: Letter[]; onShow: () => void }) {
  useEffect(() => {
    const ask = (e: BeforeUnloadEvent) => e.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, []);
  return (
    <Alert
      severity="error"
      variant="filled"
      role="alert"
      sx={{ borderRadius: 0 }}
      action={
        <Button color="inherit" onClick={onShow}>
          Show
        </Button>
      }
    >
      <strong>Not kept:</strong> {briefly(list)}. The storage of {thisDevice()} is full. Leave this page open until it
      is sent, or make room.
    </Alert>
  );
}

function Told({ waiting, aside, trouble, onShow }: State & { onShow: () => void }) {
  return (
    <Alert
      severity={aside.length > 0 ? "error" : "warning"}
      role="status"
      sx={{ borderRadius: 0 }}
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
