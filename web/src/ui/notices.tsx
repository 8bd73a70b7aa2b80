import { Alert, Button, Snackbar } from "@mui/material";
import { createContext, useCallback, useContext, useEffect, useMemo, useState, type ReactNode } from "react";
import { Refused } from "../api/client";
import { outbox } from "../api/outbox";

interface Notice {
  text: string;
  severity: "success" | "error";
  undo?: () => void;
}

const Context = createContext<(n: Notice) => void>(() => undefined);

/** Says at the foot of the screen what was kept, with a way back, or what was refused and why. */
export function Notices({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Notice>();
  useEffect(() => {
    outbox.onRefused = (letter, why) => setNotice({ text: `Not saved: ${letter.label}. ${why}`, severity: "error" });
  }, []);
  return (
    <Context.Provider value={setNotice}>
      {children}
      <Snackbar
        key={notice?.text}
        open={notice !== undefined}
        autoHideDuration={notice?.severity === "error" ? 12000 : 5000}
        onClose={(_, reason) => reason !== "clickaway" && setNotice(undefined)}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        // on a phone the foot is where the hands are
        sx={{ bottom: { xs: "auto", md: 108 }, top: { xs: 8, md: "auto" } }}
      >
        <Alert
          severity={notice?.severity}
          variant="filled"
          icon={false}
          sx={{
            bgcolor: notice?.severity === "error" ? "error.main" : "text.primary",
            color: "background.paper",
            alignItems: "center",
          }}
          action={
            notice?.undo ? (
              <Button
                color="inherit"
                onClick={() => {
                  notice.undo?.();
                  setNotice(undefined);
                }}
              >
                Take back
              </Button>
            ) : undefined
          }
        >
          {notice?.text}
        </Alert>
      </Snackbar>
    </Context.Provider>
  );
}

export function useNotice() {
  const show = useContext(Context);
  const kept = useCallback((text: string, undo?: () => void) => show({ text, severity: "success", undo }), [show]);
  const failed = useCallback(
    (e: unknown) => show({ text: e instanceof Refused ? e.problem.detail : String(e), severity: "error" }),
    [show],
  );
  return useMemo(() => ({ kept, failed }), [kept, failed]);
}
