import { Box, Button, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { Schemas } from "../../api/client";

/** A stretch of the year: what is overdue, or a month. */
export interface Stretch {
  /** "overdue", or the month as 2026-05. */
  id: string;
  label: string;
  count: number;
}

const month = new Intl.DateTimeFormat("en-GB", { month: "short", timeZone: "UTC" });

/** Where in the year an item stands, as Stretch.id has it; nothing where nobody knows. */
export function stretchOf(item: Schemas["DueItem"], today: string): string | undefined {
  if (item.state === "overdue") return "overdue";
  if (!item.when) return undefined;
  return item.when < today ? today.slice(0, 7) : item.when.slice(0, 7);
}

/** What is overdue, and the twelve months from a day on, each with how many items are due in it. */
export function yearFrom(today: string, items: Schemas["DueItem"][]): Stretch[] {
  const count = (id: string) => items.filter((i) => stretchOf(i, today) === id).length;
  const [y = 0, m = 1] = today.split("-").map(Number);
  const months = Array.from({ length: 12 }, (_, i) => {
    const at = new Date(Date.UTC(y, m - 1 + i, 1));
    const id = at.toISOString().slice(0, 7);
    return { id, label: month.format(at), count: count(id) };
  });
  return [{ id: "overdue", label: "Overdue", count: count("overdue") }, ...months];
}

interface Props {
  year: Stretch[];
  chosen?: string;
  onChoose: (id: string | undefined) => void;
}

/** The year ahead as a strip: how much is due when, as height and number. A touch shows that stretch alone. */
export function YearStrip({ year, chosen, onChoose }: Props) {
  const { water } = useTheme();
  const most = Math.max(1, ...year.map((s) => s.count));
  return (
    <Box
      role="group"
      aria-label="The year ahead"
      sx={{ display: "grid", gridTemplateColumns: "1.6fr repeat(12, minmax(0, 1fr))", overflowX: "auto", mb: 1.5 }}
    >
      {year.map((s) => (
        <Button
          key={s.id}
          aria-pressed={chosen === s.id}
          onClick={() => onChoose(chosen === s.id ? undefined : s.id)}
          sx={{
            minWidth: 0,
            p: 0,
            height: 96,
            flexDirection: "column-reverse",
            justifyContent: "flex-start",
            borderRadius: 0,
            color: "text.primary",
            borderBottom: 4,
            borderColor: chosen === s.id ? "text.primary" : "divider",
          }}
        >
          <Typography sx={{ fontSize: { xs: "0.72rem", md: "0.85rem" }, lineHeight: 1.5 }}>{s.label}</Typography>
          <Box
            sx={{
              width: "70%",
              height: `${(44 * s.count) / most}px`,
              bgcolor: s.id === "overdue" ? water.found : water.raw,
            }}
          />
          {s.count > 0 && <Typography sx={{ fontWeight: 750, lineHeight: 1.1 }}>{s.count}</Typography>}
        </Button>
      ))}
    </Box>
  );
}
