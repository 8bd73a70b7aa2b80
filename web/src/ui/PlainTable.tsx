import { Box } from "@mui/material";
import type { ReactNode } from "react";

/** A small table of words: a head, and rows that a thin line parts. */
export function PlainTable({ head, children }: { head: string[]; children: ReactNode }) {
  return (
    <Box
      component="table"
      sx={{
        width: "100%",
        borderCollapse: "collapse",
        "& td, & th": { textAlign: "left", py: 0.5, borderTop: 1, borderColor: "divider", fontWeight: 450 },
      }}
    >
      <thead>
        <tr>
          {head.map((h) => (
            <th key={h} scope="col">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </Box>
  );
}
