import { Box, Typography } from "@mui/material";
import type { ReactNode } from "react";
import type { Schemas, UnitSystem } from "../../api/client";
import { Drawn } from "../../ui/Drawn";
import { Chart } from "../../ui/chart/Chart";
import type { Units } from "../../ui/units";
import { day } from "../../ui/words";
import { ReportPath } from "./ReportPath";

type Report = Schemas["Report"];

const standings: Record<Schemas["Standing"], string> = {
  passed: "passed",
  failed: "FAILED",
  excused: "left out",
  waiting: "open",
};

/** The owner's report, as it is printed. */
export function ReportSheet({
  report: r,
  units,
  system,
  photosAt = "/api/v1/photos",
}: {
  report: Report;
  units: Units;
  system: UnitSystem;
  /** Where its photos lie. */
  photosAt?: string;
}) {
  return (
    <Box
      component="article"
      aria-label="The owner's report"
      sx={{
        bgcolor: "background.paper",
        px: { xs: 2, md: 5 },
        py: { xs: 2, md: 4 },
        maxWidth: 860,
        "@media print": { p: 0, maxWidth: "none" },
      }}
    >
      <Typography sx={{ color: "text.secondary" }}>Cooling report</Typography>
      <Typography variant="h1" sx={{ fontSize: { xs: "1.8rem", md: "2.3rem" } }}>
        {r.craft}
      </Typography>
      <Typography>{r.engine}</Typography>
      <Typography sx={{ color: "text.secondary" }}>
        {[r.owner, r.berth].filter(Boolean).join(", ")}
        {(r.owner || r.berth) && ". "}
        Job begun {day(r.opened)} by {r.by}
        {r.closed && `, closed ${day(r.closed)}`}
      </Typography>
      <Verdict report={r} />
      <Box sx={{ display: "grid", columnGap: 4, gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" } }}>
        <Wrong report={r} />
        <Numbers report={r} />
      </Box>
      {r.path && (
        <Kept>
          <ReportPath path={r.path} units={units} system={system} />
        </Kept>
      )}
      {r.pictures.map((p) => (
        <Kept key={p.title}>
          <Chart picture={p} units={units} system={system} />
        </Kept>
      ))}
      <List heading="What was done" lines={r.done} />
      <Parts report={r} />
      <Proof report={r} />
      <Photos report={r} at={photosAt} />
      <List heading="Due" lines={r.due.map((d) => `${d.what} ${d.when}: ${d.why}`)} />
      <List heading="Keep an eye on" lines={[...r.mind, ...r.cautions]} />
      <Typography variant="body2" sx={{ color: "text.secondary", mt: 3 }}>
        Made with Hevrin. It advises: the maker&apos;s manual, class and flag rules, local codes and licensed trades
        rule.
      </Typography>
    </Box>
  );
}

/** A table of words and figures; figures stand to the right. */
const rows = {
  width: "100%",
  borderCollapse: "collapse",
  "& td, & th": { textAlign: "right", py: 0.5, borderBottom: 1, borderColor: "divider", fontWeight: 450 },
  "& td:first-of-type, & th:first-of-type": { textAlign: "left" },
  "& th": { color: "text.secondary", fontSize: "0.87rem" },
} as const;

/** Stays on one sheet when it is printed. */
const Kept = ({ children }: { children: ReactNode }) => <Box sx={{ mt: 3, breakInside: "avoid" }}>{children}</Box>;

function Section({ heading, children }: { heading: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={heading} sx={{ mt: 2.5, breakInside: "avoid" }}>
      <Typography variant="h2" sx={{ borderBottom: 2, borderColor: "text.primary", pb: 0.5, mb: 1 }}>
        {heading}
      </Typography>
      {children}
    </Box>
  );
}

function List({ heading, lines }: { heading: string; lines: string[] }) {
  if (lines.length === 0) return null;
  return (
    <Section heading={heading}>
      <Lines lines={lines} />
    </Section>
  );
}

const Lines = ({ lines }: { lines: string[] }) => (
  <Box component="ul" sx={{ m: 0, pl: 2.5, listStyle: "square" }}>
    {lines.map((l, i) => (
      <Typography component="li" key={i} sx={{ overflowWrap: "anywhere" }}>
        {l}
      </Typography>
    ))}
  </Box>
);

/** Framed: whole where it is cured, broken where it is not. */
function Verdict({ report: r }: { report: Report }) {
  const cured = r.outcome === "cured";
  return (
    <Box sx={{ border: 4, borderStyle: cured ? "solid" : "dashed", borderColor: "text.primary", p: 2, mt: 2 }}>
      <Typography sx={{ fontSize: "1.7rem", fontWeight: 800, lineHeight: 1.1 }}>{r.verdict}</Typography>
      <Typography>
        {r.says} {r.signed}
      </Typography>
    </Box>
  );
}

function Wrong({ report: r }: { report: Report }) {
  return (
    <Section heading="What was wrong">
      {r.complaint && <Typography sx={{ overflowWrap: "anywhere" }}>“{r.complaint}”</Typography>}
      <Lines lines={r.signs} />
      {r.one_of && <Typography sx={{ mt: 1, fontWeight: 650 }}>{r.one_of}</Typography>}
      {r.causes.map((c) => (
        <Box key={c.label} sx={{ mt: 1, "&::after": { content: '""', display: "block", clear: "both" } }}>
          <Typography variant="h3">{c.label}</Typography>
          <Box sx={{ float: "right", ml: 1.5 }}>
            <Drawn of={c.drawing} label={`${c.label}, drawn`} width={148} />
          </Box>
          <Lines lines={c.evidence} />
          <Typography>Cure: {c.remedy}</Typography>
        </Box>
      ))}
      {r.causes.length === 0 && <Typography>No cause is named.</Typography>}
    </Section>
  );
}

function Numbers({ report: r }: { report: Report }) {
  const after = r.figures.some((f) => f.after);
  return (
    <Section heading="In numbers">
      {r.figures.length === 0 ? (
        <Typography>No readings were taken that tell it.</Typography>
      ) : (
        <>
          <Box component="table" sx={rows}>
            <thead>
              <tr>
                <th>share of healthy</th>
                <th>{after ? "before" : "read"}</th>
                {after && <th>after</th>}
              </tr>
            </thead>
            <tbody>
              {r.figures.map((f) => (
                <tr key={f.label}>
                  <td>{f.label}</td>
                  <td>{f.before}</td>
                  {after && (
                    <Box component="td" sx={{ fontWeight: "750 !important" }}>
                      {f.after}
                    </Box>
                  )}
                </tr>
              ))}
            </tbody>
          </Box>
          {r.against && (
            <Typography variant="body2" sx={{ color: "text.secondary", mt: 0.75 }}>
              Compared with {r.against}. ± is one standard deviation.
            </Typography>
          )}
        </>
      )}
    </Section>
  );
}

function Parts({ report: r }: { report: Report }) {
  if (r.parts.length === 0) return null;
  return (
    <Section heading="Parts used">
      <Box component="table" sx={rows}>
        <thead>
          <tr>
            <th>part</th>
            <th>quantity</th>
            <th>price</th>
          </tr>
        </thead>
        <tbody>
          {r.parts.map((p, i) => (
            <tr key={i}>
              <td>{[p.label, p.number, p.state].filter(Boolean).join(", ")}</td>
              <td>{p.quantity}</td>
              <td>{p.price > 0 ? p.price.toFixed(2) : ""}</td>
            </tr>
          ))}
          {r.total > 0 && (
            <tr>
              <td colSpan={2}>Together</td>
              <td>{r.total.toFixed(2)}</td>
            </tr>
          )}
        </tbody>
      </Box>
    </Section>
  );
}

function Proof({ report: r }: { report: Report }) {
  if (r.proof.length === 0) return null;
  return (
    <Section heading="The test run">
      {r.proof.map((p) => (
        <Box
          key={p.label}
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "1fr auto", sm: "150px 84px 1fr" },
            columnGap: 1.5,
            borderBottom: 1,
            borderColor: "divider",
            py: 0.6,
          }}
        >
          <Typography>{p.label}</Typography>
          <Typography sx={{ fontWeight: 750 }}>{standings[p.standing]}</Typography>
          <Typography sx={{ gridColumn: { xs: "1 / -1", sm: "auto" }, color: { xs: "text.secondary", sm: "inherit" } }}>
            {p.say}
          </Typography>
        </Box>
      ))}
    </Section>
  );
}

function Photos({ report: r, at }: { report: Report; at: string }) {
  if (r.photos.length === 0) return null;
  return (
    <Section heading="Photos">
      <Box sx={{ display: "grid", gap: 2, gridTemplateColumns: "repeat(auto-fill, minmax(160px, 1fr))" }}>
        {r.photos.map((p) => (
          <Box component="figure" key={p.id} sx={{ m: 0 }}>
            <Box
              component="img"
              src={`${at}/${p.id}`}
              alt={p.words || "Photo of the job"}
              sx={{ width: "100%", display: "block" }}
            />
            <Typography component="figcaption" variant="body2">
              {[p.words, day(p.at)].filter(Boolean).join(", ")}
            </Typography>
          </Box>
        ))}
      </Box>
      {r.more_photos > 0 && <Typography variant="body2">{r.more_photos} more are kept with the job.</Typography>}
    </Section>
  );
}
