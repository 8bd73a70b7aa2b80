import {
  AppBar,
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Stack,
  TextField,
  Toolbar,
  Typography,
} from "@mui/material";
import { useState, useSyncExternalStore, type ReactNode } from "react";
import { Link } from "react-router";
import { writer } from "../api/writer";
import { turnLight, useLight } from "./light";
import { Waiting } from "./Waiting";

export const useWriter = () => useSyncExternalStore(writer.subscribe, writer.snapshot);

/** The bar above every screen: home, who is writing, the light; and below it what still waits for a link. */
export function Shell({ children }: { children: ReactNode }) {
  const name = useWriter();
  const light = useLight();
  const [asking, setAsking] = useState(false);
  return (
    <Box sx={{ minHeight: "100dvh" }}>
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
        <Toolbar variant="dense" sx={{ gap: 1, minHeight: 56, px: { xs: 1.5, md: 2.5 } }}>
          <Typography
            component={Link}
            to="/"
            sx={{
              fontWeight: 800,
              fontSize: "1.3rem",
              letterSpacing: "-0.02em",
              color: "text.primary",
              textDecoration: "none",
              mr: "auto",
              py: 1.25,
            }}
          >
            Hevrin
          </Typography>
          <Button component={Link} to="/calculators" sx={barButton}>
            Calculators
          </Button>
          <Button component={Link} to="/handbook" sx={barButton}>
            Handbook
          </Button>
          <Button
            onClick={() => setAsking(true)}
            sx={barButton}
            aria-label={name ? `${name} is writing: change` : undefined}
          >
            <Box component="span" sx={{ maxWidth: { xs: 110, md: 240 }, overflow: "hidden", textOverflow: "ellipsis" }}>
              {name || "Your name"}
            </Box>
          </Button>
          <Button
            onClick={turnLight}
            sx={barButton}
            aria-label={light === "deck" ? "Dark, for the engine space" : "Bright, for the deck"}
          >
            {light === "deck" ? "Dark" : "Bright"}
          </Button>
        </Toolbar>
      </AppBar>
      <Waiting />
      {children}
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </Box>
  );
}

const barButton = { color: "text.primary", px: { xs: 1, md: 2 }, minWidth: 48, whiteSpace: "nowrap" };

/** Asks for the name that stands beside everything noted on this device. */
export function WhoDialog({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState(writer.snapshot());
  const keep = () => {
    writer.set(name);
    onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="who-title">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim()) keep();
        }}
      >
        <DialogTitle id="who-title" component="h2">
          Who uses this device?
        </DialogTitle>
        <DialogContent>
          <Stack sx={{ gap: 2, pt: 1 }}>
            <Typography>Your name stands beside everything that you note.</Typography>
            <TextField
              label="Name"
              value={name}
              onChange={(e) => setName(e.target.value)}
              autoFocus
              slotProps={{ htmlInput: { maxLength: 80 } }}
            />
          </Stack>
        </DialogContent>
        <DialogActions sx={{ p: 2 }}>
          <Button onClick={onClose}>Not now</Button>
          <Button variant="contained" type="submit" disabled={!name.trim()}>
            That is me
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
