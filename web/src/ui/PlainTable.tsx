import { Box } from "@mui/material";
import { Children, isValidElement, useState, type ReactNode } from "react";

type Element = { props: { children?: ReactNode } };

/** The words of what is drawn, as far as they stand in it. */
const wordsIn = (node: ReactNode): string =>
  Children.toArray(node)
    .map((n) => (isValidElement(n) ? wordsIn((n as Element).props.children) : String(n)))
    .join("");

const cellOf = (row: ReactNode, n: number) =>
  isValidElement(row) ? wordsIn(Children.toArray((row as Element).props.children)[n]) : "";

/** Figures by their value, words by the alphabet. */
const inOrder = new Intl.Collator(undefined, { numeric: true });

/** Fewer rows are seen at a glance. */
const least = 3;

/** A small table of words: a head by which it is sorted at a touch, and rows that a thin line parts. */
export function PlainTable({ head, children }: { head: string[]; children: ReactNode }) {
  const [by, setBy] = useState<{ column: number; down: boolean }>();
  const rows = Children.toArray(children);
  const turn = (column: number) =>
    setBy(by?.column !== column ? { column, down: false } : by.down ? undefined : { column, down: true });
  const sorted = by
    ? [...rows].sort((a, b) => (by.down ? -1 : 1) * inOrder.compare(cellOf(a, by.column), cellOf(b, by.column)))
    : rows;
  const order = (column: number) => (by?.column !== column ? "none" : by.down ? "descending" : "ascending");
  return (
    <Box
      component="table"
      sx={{
        width: "100%",
        borderCollapse: "collapse",
        "& td, & th": { textAlign: "left", py: 0.5, pr: 1, borderTop: 1, borderColor: "divider", fontWeight: 450 },
      }}
    >
      <thead>
        <tr>
          {head.map((h, i) => (
            <th key={h} scope="col" aria-sort={rows.length >= least ? order(i) : undefined}>
              {rows.length < least ? (
                h
              ) : (
                <Box component="button" type="button" onClick={() => turn(i)} sx={heading}>
                  {h}
                  <span aria-hidden="true">{{ none: "", ascending: " ↑", descending: " ↓" }[order(i)]}</span>
                </Box>
              )}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>{sorted}</tbody>
    </Box>
  );
}

const heading = {
  all: "unset",
  cursor: "pointer",
  minHeight: 48,
  display: "inline-flex",
  alignItems: "center",
  fontWeight: 600,
  "&:focus-visible": { outline: "3px solid currentColor" },
} as const;
