import { AppBar, Box, Button, Toolbar, Typography } from "@mui/material";
import { lazy, Suspense, useEffect, useState, useSyncExternalStore, type ReactNode, useCallback } from "react";
import { Link, useLocation } from "react-router";
import { useSession } from "../api/queries";
import { practice } from "../api/practice";
import { writer } from "../api/writer";
import { turnLight, useLight } from "./light";
import { Installed } from "./Installed";
import { NoticeStrip } from "./notices";
import { useFocusOnHeading } from "./title";
import { Waiting } from "./Waiting";

// not needed to begin with
const SearchDialog = lazy(() => import("./Search").then((m) => ({ default: m.SearchDialog })));
const WhoDialog = lazy(() => import("./WhoDialog").then((m) => ({ default: m.WhoDialog })));
const PracticeBar = lazy(() => import("./practice/PracticeBar").then((m) => ({ default: m.PracticeBar })));
const Keys = lazy(() => import("./Keys").then((m) => ({ default: m.Keys })));
const NumberPad = lazy(() => import("./NumberPad").then((m) => ({ default: m.NumberPad })));

/**
 * The number pad is there from the first on where the screen is touched; at a desk, where it takes in what is pasted,
 * a moment after the first screen.
 */
function Figures() {
  const [there, setThere] = useState(() => window.matchMedia?.("(any-pointer: coarse)").matches);
  useEffect(() => {
    const later = setTimeout(() => setThere(true), 1500);
    return () => clearTimeout(later);
  }, []);
  return there && <NumberPad />;
}

export const useWriter = () => useSyncExternalStore(writer.subscribe, writer.snapshot);

type Place = [string, string, RegExp];

/** Where the bar leads on a page of practice. */
const inPractice: Place[] = [
  ["/", "The job", /^\/($|jobs|engines)/],
  ["/calculators", "Calculators", /^\/calculators/],
  ["/handbook", "Handbook", /^\/handbook/],
];

/** Where the bar leads, and the addresses that belong to each. */
const places: Place[] = [
  ["/", "Yard", /^\/($|jobs|engines|methods|hindsight|lists|record|people|audit|setup|labels|me|device|practice)/],
  ["/due", "Due", /^\/due/],
  ["/parts", "Parts", /^\/parts/],
  ["/calculators", "Calculators", /^\/calculators/],
  ["/handbook", "Handbook", /^\/handbook/],
];

/** The bar of every screen: the places, search, who is writing, the light; below it what still waits for a link. */
export function Shell({ children }: { children: ReactNode }) {
  const name = useWriter();
  const light = useLight();
  const { pathname } = useLocation();
  const [asking, setAsking] = useState(false);
  const [searching, setSearching] = useState(false);
  const closeSearch = useCallback(() => setSearching(false), []);
  const [listing, setListing] = useState(false);
  useKey("/", () => setSearching(true));
  useKey("?", () => setListing(true));
  useFocusOnHeading();
  return (
    <Box sx={{ minHeight: "100dvh", pb: { xs: `${footHeight}px`, md: 0 }, "@media print": { pb: 0 } }}>
      <Box component="a" href="#content" sx={skip}>
        Skip to the content
      </Box>
      <AppBar
        position="static"
        color="transparent"
        elevation={0}
        sx={{
          borderBottom: 2,
          borderColor: "text.primary",
          bgcolor: "background.paper",
          "@media print": { display: "none" },
        }}
      >
        <Toolbar variant="dense" sx={{ gap: { xs: 0.25, md: 1 }, minHeight: 52, px: { xs: 1.5, md: 2.5 } }}>
          <Typography component={Link} to="/" sx={brand}>
            Hevrin
          </Typography>
          <Box component="nav" aria-label="Places" sx={{ display: { xs: "none", md: "flex" } }}>
            <Places />
          </Box>
          {practice && (
            <Button href="/practice" sx={{ ...barButton, display: { xs: "none", md: "inline-flex" } }}>
              Leave practice
            </Button>
          )}
          <Button onClick={() => setSearching(true)} sx={{ ...barButton, ml: "auto" }}>
            Search
          </Button>
          <Who name={name} onAsk={() => setAsking(true)} />
          <Button
            onClick={turnLight}
            sx={barButton}
            aria-label={light === "deck" ? "Dark, for the engine space" : "Bright, for the deck"}
          >
            {light === "deck" ? "Dark" : "Bright"}
          </Button>
        </Toolbar>
      </AppBar>
      {practice && (
        <Suspense>
          <PracticeBar />
        </Suspense>
      )}
      <Installed />
      <Waiting />
      <NoticeStrip />
      {/* which screen stands: while the next one is fetched, still the one before */}
      <Box id="content" data-at={pathname} tabIndex={-1} sx={{ outline: "none" }}>
        {children}
      </Box>
      <Box component="nav" aria-label="Places" sx={foot}>
        <Places />
      </Box>
      <Suspense>
        {listing && <Keys onClose={() => setListing(false)} />}
        <Figures />
        {searching && <SearchDialog onClose={closeSearch} />}
        {asking && <WhoDialog onClose={() => setAsking(false)} />}
      </Suspense>
    </Box>
  );
}

/** Who is writing on this device: where people sign in it leads to their own page, else the name is asked for. */
function Who({ name, onAsk }: { name: string; onAsk: () => void }) {
  const signedIn = useSession()?.mode === "yard";
  const does = signedIn ? { component: Link, to: "/me" } : { onClick: onAsk };
  return (
    <Button {...does} sx={barButton} aria-label={name ? `${name} is writing: change` : undefined}>
      <Box component="span" sx={{ maxWidth: { xs: 110, md: 240 }, overflow: "hidden", textOverflow: "ellipsis" }}>
        {name || "Your name"}
      </Box>
    </Button>
  );
}

/** How high the bar at the foot of a phone is. */
export const footHeight = 56;

function Places() {
  const { pathname } = useLocation();
  return (practice ? inPractice : places).map(([to, label, here]) => (
    <Button
      key={to}
      component={Link}
      to={to}
      aria-current={here.test(pathname) ? "page" : undefined}
      sx={{
        color: "text.primary",
        minWidth: 0,
        minHeight: footHeight - 4,
        flex: { xs: "1 1 auto", md: "none" },
        px: { xs: 0.5, md: 1.75 },
        fontSize: { xs: "0.86rem", md: "1rem" },
        borderRadius: 0,
        fontWeight: here.test(pathname) ? 800 : 550,
        boxShadow: here.test(pathname) ? { xs: "inset 0 4px", md: "inset 0 -4px" } : "none",
      }}
    >
      {label}
    </Button>
  ));
}

/** A key opens something; typing in a field is typing. */
function useKey(key: string, open: () => void) {
  useEffect(() => {
    const pressed = (e: KeyboardEvent) => {
      if (e.key !== key || (e.target as HTMLElement).closest("input, textarea, [role=dialog]")) return;
      e.preventDefault();
      open();
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  });
}

const brand = {
  fontWeight: 800,
  fontSize: "1.3rem",
  letterSpacing: "-0.02em",
  color: "text.primary",
  textDecoration: "none",
  mr: 1,
  py: 1.25,
};

const barButton = { color: "text.primary", px: { xs: 1, md: 2 }, minWidth: 48, whiteSpace: "nowrap" };

const foot = {
  display: { xs: "flex", md: "none" },
  position: "fixed",
  insetInline: 0,
  bottom: 0,
  height: footHeight,
  bgcolor: "background.paper",
  borderTop: 2,
  borderColor: "text.primary",
  zIndex: 4,
  "@media print": { display: "none" },
} as const;

const skip = {
  position: "absolute",
  left: -9999,
  "&:focus": { left: 8, top: 8, zIndex: 10, p: 1, bgcolor: "background.paper", color: "text.primary" },
};
