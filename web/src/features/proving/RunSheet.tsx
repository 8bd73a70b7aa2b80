import { Box, Button, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useEffect, useRef } from "react";
import type { ProvingRun, Schemas } from "../../api/client";
import { standingWords, type StageID } from "./run";

/** The stages in their order, each with how it stands by shape and word; touching one opens it. */
export function RunSheet(p: { run: ProvingRun; chosen: StageID; onChoose: (s: StageID) => void }) {
  const theme = useTheme();
  const rail = useRef<HTMLElement>(null);
  useEffect(() => {
    const at = rail.current?.querySelector<HTMLElement>('[aria-current="step"]');
    if (rail.current && at) rail.current.scrollLeft = at.offsetLeft - rail.current.clientWidth / 2 + at.clientWidth / 2;
  }, [p.chosen]);
  return (
    <Box
      component="nav"
      ref={rail}
      aria-label="Stages of the run"
      sx={{
        display: "flex",
        flexDirection: { xs: "row", md: "column" },
        position: "relative",
        overflowX: { xs: "auto", md: "visible" },
        overflowY: { xs: "hidden", md: "visible" },
        borderBottom: { xs: 1, md: 0 },
        borderColor: "divider",
      }}
    >
      {p.run.stages.map((s, i) => (
        <Button
          key={s.id}
          aria-current={s.id === p.chosen ? "step" : undefined}
          onClick={() => p.onChoose(s.id)}
          sx={{
            flex: "none",
            flexDirection: { xs: "column", md: "row" },
            justifyContent: "flex-start",
            textAlign: { xs: "center", md: "left" },
            gap: { xs: 0.25, md: 1.25 },
            minWidth: { xs: 76, md: 0 },
            minHeight: 56,
            px: { xs: 0.5, md: 1 },
            color: "text.primary",
            borderRadius: 0,
            bgcolor: s.id === p.chosen ? "background.paper" : "transparent",
            borderLeft: { md: 5 },
            borderBottom: { xs: 4, md: 0 },
            borderColor: {
              xs: s.id === p.chosen ? "text.primary" : "transparent",
              md: s.id === p.chosen ? "text.primary" : "transparent",
            },
            lineHeight: 1.15,
          }}
        >
          <StandingMark standing={s.standing} />
          <span>
            <Box component="span" sx={{ fontWeight: s.id === p.chosen ? 750 : 550 }}>
              <Box component="span" sx={{ display: { xs: "none", md: "inline" } }}>
                {i + 1}.{" "}
              </Box>
              {s.label}
              <Box component="span" sx={unseen}>
                :{" "}
              </Box>
            </Box>
            <Typography
              component="span"
              variant="body2"
              sx={{ color: "text.secondary", display: { md: "block" }, [theme.breakpoints.down("md")]: unseen }}
            >
              {standingWords[s.standing]}
            </Typography>
          </span>
        </Button>
      ))}
    </Box>
  );
}

/** Told to those who listen, and not drawn. */
const unseen = {
  position: "absolute",
  width: 1,
  height: 1,
  overflow: "hidden",
  clipPath: "inset(50%)",
  whiteSpace: "nowrap",
} as const;

/** How something stands: an open ring, a tick, a cross in a box, a struck-out ring. */
export function StandingMark({ standing, size = 26 }: { standing: Schemas["Standing"]; size?: number }) {
  const { water, palette } = useTheme();
  const ink = palette.mode === "light" ? "#ffffff" : "#08191f";
  return (
    <svg
      width={size}
      height={size}
      viewBox="-13 -13 26 26"
      aria-hidden="true"
      style={{ flex: "none", display: "block" }}
    >
      {standing === "passed" && (
        <>
          <circle r="11" fill={water.clear} />
          <path d="M-5 0 L-1.5 4.5 L5.5 -4" fill="none" stroke={ink} strokeWidth="3" />
        </>
      )}
      {standing === "failed" && (
        <>
          <rect x="-11" y="-11" width="22" height="22" rx="2" fill={water.found} />
          <path d="M-5 -5 L5 5 M5 -5 L-5 5" fill="none" stroke={ink} strokeWidth="3.2" />
        </>
      )}
      {standing === "waiting" && <circle r="9.5" fill="none" stroke={palette.text.primary} strokeWidth="2.2" />}
      {standing === "excused" && (
        <>
          <circle r="9.5" fill="none" stroke={palette.text.secondary} strokeWidth="2.2" />
          <path d="M-8 8 L8 -8" stroke={palette.text.secondary} strokeWidth="2.6" />
        </>
      )}
    </svg>
  );
}
