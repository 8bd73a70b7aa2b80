import { Alert, Box, Button } from "@mui/material";
import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { Refused } from "../api/client";
import { link } from "../api/link";
import { Outline } from "./Outline";
import { toHome } from "./toHome";

/** Shows what was asked for; while it comes, its outline; when it does not, why and what to do. */
export function Loaded<T>({ query, children }: { query: UseQueryResult<T>; children: (data: T) => ReactNode }) {
  if (query.data !== undefined) return children(query.data);
  if (query.isPending && !query.isError && query.failureCount === 0) return <Outline />;
  const refused = query.error instanceof Refused && query.error.problem.status === 404;
  return (
    <Box sx={{ p: 2 }}>
      <Alert
        severity="error"
        action={
          refused ? (
            <Button component={Link} to="/">
              {toHome}
            </Button>
          ) : (
            <Button onClick={() => void query.refetch()}>Try again</Button>
          )
        }
      >
        {refused
          ? "This is not on record: it may have been taken back on another device."
          : link.down()
            ? "There is no link, and this is not on this device: it comes once there is one."
            : "The program does not answer. Is it still running on this machine?"}
      </Alert>
    </Box>
  );
}
