import { Box, Button, Stack, Typography } from "@mui/material";
import {
  createContext,
  startTransition,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useState,
  useSyncExternalStore,
  type ReactNode,
} from "react";
import { Refused } from "../api/client";
import { link } from "../api/link";
import { outbox } from "../api/outbox";
import { thisDevice } from "./thisDevice";

interface Notice {
  text: string;
  severity: "success" | "error";
  /** It was saved on this device, and waits for the yard. */
  waits?: boolean;
  undo?: () => void;
}

const Context = createContext<(n: Notice) => void>(() => undefined);

const Shown = createContext<{ notice?: Notice; close: () => void }>({ close: () => undefined });

/** Keeps what was saved, with a way back, or what was refused and why: NoticeStrip says it. */
export function Notices({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Notice>();
  useEffect(() => {
    outbox.onRefused = (letter, why) => setNotice({ text: `Not saved: ${letter.label}. ${why}`, severity: "error" });
  }, []);
  const close = useCallback(() => setNotice(undefined), []);
  const shown = useMemo(() => ({ notice, close }), [notice, close]);
  return (
    <Context.Provider value={setNotice}>
      <Shown.Provider value={shown}>{children}</Shown.Provider>
    </Context.Provider>
  );
}

const staysFor = { success: 8000, error: 15000 };

/**
 * The notice, over the bar at the top: nothing moves under a finger when it comes and goes. It bars nothing: a touch
 * goes through it to what lies below, and takes what was saved away with it.
 */
export function NoticeStrip() {
  const { notice: newest, close } = useContext(Shown);
  const { unkept } = useSyncExternalStore(outbox.subscribe, outbox.snapshot);
  // of what waits here, and is not kept here, the red line tells
  const notice = newest?.waits && unkept.length > 0 ? undefined : newest;
  useEffect(() => {
    if (!notice) return;
    const at = setTimeout(close, staysFor[notice.severity]);
    const touched = (e: Event) => {
      if (notice.severity === "success" && !(e.target as Element).closest("[data-notice]")) close();
    };
    window.addEventListener("pointerdown", touched, { capture: true });
    return () => {
      clearTimeout(at);
      window.removeEventListener("pointerdown", touched, { capture: true });
    };
  }, [notice, close]);
  return (
    <Box
      sx={{
        position: "fixed",
        top: 0,
        insetInline: 0,
        zIndex: 1200,
        pointerEvents: "none",
        "& button": { pointerEvents: "auto" },
        "@media print": { display: "none" },
      }}
    >
      {notice && (
        <Stack
          data-notice
          role="alert"
          direction="row"
          sx={{
            bgcolor: notice.severity === "error" ? "error.main" : "text.primary",
            color: "background.paper",
            alignItems: "center",
            px: { xs: 1.5, md: 2.5 },
            minHeight: 52,
            gap: 1,
          }}
        >
          <Typography sx={{ mr: "auto", fontWeight: 600, lineHeight: 1.25, overflowWrap: "anywhere" }}>
            {notice.text}
            {notice.waits && `. On ${thisDevice()}: the yard has it once there is a link.`}
          </Typography>
          {notice.undo && (
            <Button
              color="inherit"
              sx={{ flex: "none" }}
              onClick={() => {
                notice.undo?.();
                close();
              }}
            >
              Take back
            </Button>
          )}
          {notice.severity === "error" && (
            <Button color="inherit" onClick={close}>
              Close
            </Button>
          )}
        </Stack>
      )}
    </Box>
  );
}

export function useNotice() {
  const show = useContext(Context);
  /** Something was saved: by the yard, or by this device alone where no link is. What it led to is drawn first. */
  const kept = useCallback(
    (text: string, undo?: () => void) => {
      const notice: Notice = { text, severity: "success", undo, waits: link.down() };
      startTransition(() => show(notice));
    },
    [show],
  );
  /** Something was done here that the yard has no part in. */
  const done = useCallback((text: string) => show({ text, severity: "success" }), [show]);
  const failed = useCallback(
    (e: unknown) => show({ text: e instanceof Refused ? e.problem.detail : String(e), severity: "error" }),
    [show],
  );
  return useMemo(() => ({ kept, done, failed }), [kept, done, failed]);
}
