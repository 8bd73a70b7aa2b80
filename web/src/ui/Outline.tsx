import { Skeleton, Stack } from "@mui/material";

/** The outline of what is coming: a screen that is fetched, or what it shows. */
export const Outline = () => (
  <Stack sx={{ p: 2, gap: 1 }} aria-busy="true">
    <Skeleton height={48} />
    <Skeleton height={48} width="70%" />
  </Stack>
);
