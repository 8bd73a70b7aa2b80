import { Box, Button, Stack, Typography } from "@mui/material";
import { Link } from "react-router";

/** Where figures are taken in the middle of the hunt: by hand, from a gateway, from a logger's file. */
export function Measure({ job, engine }: { job: string; engine: string }) {
  const ways: [string, string][] = [
    ["A round of readings", `/jobs/${job}/round`],
    ["Readings over time, a logger's file", `/jobs/${job}/datalog`],
    ["Gateway", `/engines/${engine}/feed`],
  ];
  return (
    <Box component="section" aria-label="Measure">
      <Typography variant="h3" sx={{ mb: 0.75 }}>
        Measure
      </Typography>
      <Stack direction="row" sx={{ flexWrap: "wrap", gap: 0.75 }}>
        {ways.map(([label, to]) => (
          <Button key={to} component={Link} to={to} variant="choice">
            {label}
          </Button>
        ))}
      </Stack>
    </Box>
  );
}
