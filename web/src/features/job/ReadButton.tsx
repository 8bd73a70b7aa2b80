import { Button, type SxProps } from "@mui/material";

/** Opens the figures of a check that is read off. */
export const ReadButton = ({ onRead, sx }: { onRead: () => void; sx?: SxProps }) => (
  <Button variant="contained" onClick={onRead} sx={{ minHeight: 52, ...sx }}>
    Type what was read
  </Button>
);
