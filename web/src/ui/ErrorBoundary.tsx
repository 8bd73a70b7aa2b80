import { Alert, Box, Button, Stack, Typography } from "@mui/material";
import { Component, type ReactNode } from "react";
import { useOutbox } from "../api/queries";

/** What browsers say where a part of the program is not to be had that a page asks for later. */
const notToBeHad = /dynamically imported module|importing a module script|preload CSS/i;

/** Where a screen cannot be drawn: what happened, and the ways on. Nothing that was saved or waits is touched. */
export class ErrorBoundary extends Component<{ children: ReactNode }, { error?: Error }> {
  override state: { error?: Error } = {};

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  override render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    const gone = notToBeHad.test(error.message);
    return (
      <Box component="main" sx={{ maxWidth: 720, mx: "auto", p: 2 }}>
        <Typography variant="h1">This screen cannot be shown</Typography>
        <Alert severity="error" sx={{ my: 2 }}>
          {gone
            ? "The program was renewed since this page was opened, or the link has gone: this part has to be loaded."
            : error.message || "Something went wrong while it was drawn."}
        </Alert>
        <Kept />
        <Stack direction="row" sx={{ gap: 1, mt: 2 }}>
          <Button variant="contained" onClick={() => window.location.reload()}>
            Load again
          </Button>
          <Button onClick={() => window.location.assign("/")}>To the yard</Button>
        </Stack>
      </Box>
    );
  }
}

/** What is safe, and what is not yet. */
function Kept() {
  const { waiting, unkept } = useOutbox();
  const lost = waiting.filter((l) => unkept.includes(l.id)).map((l) => l.label);
  return (
    <>
      {lost.length > 0 && (
        <Alert severity="error" variant="filled" sx={{ mb: 2 }}>
          Not kept, as the storage here is full: {lost.join("; ")}. Leave this page open until there is a link.
        </Alert>
      )}
      <Typography>
        What was saved is safe{lost.length === 0 && ", and what still waits on this device will be sent"}. Load the page
        again; if that does not help, go to the yard and come back another way.
      </Typography>
    </>
  );
}
