import { Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useSearchParams } from "react-router";
import type { Catalogue } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { Drawn } from "../../ui/Drawn";
import { useDrawn } from "../../ui/drawings";
import { Loaded } from "../../ui/Loaded";
import { AllDrawings } from "./AllDrawings";
import { CheckEntry, FaultEntry, FindingEntry } from "./HandbookEntries";
import { chapterOf, search, type Chapter } from "./handbook";
import { wordsOf } from "../../ui/words";
import { useTitle } from "../../ui/title";

/** The trade: the catalogue as a handbook, by station or by search; what else a sign may mean. */
export function HandbookScreen() {
  useTitle("Handbook");
  const catalogue = useCatalogue();
  return (
    <Box component="main" sx={{ maxWidth: 1240, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Loaded query={catalogue}>{(c) => <Handbook catalogue={c} />}</Loaded>
    </Box>
  );
}

function Handbook({ catalogue }: { catalogue: Catalogue }) {
  const [params, setParams] = useSearchParams();
  const wanted = params.get("find") ?? "";
  const station = params.get("station") ?? "raw-pump";
  const chapter = wanted ? search(catalogue, wanted) : chapterOf(catalogue, station);
  const place = catalogue.stations.find((s) => s.id === station);
  const all = station === "drawings";
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "230px minmax(0, 1fr)" },
        gap: { xs: 2, md: 4 },
      }}
    >
      <Stack sx={{ gap: 1.5 }}>
        <TextField
          label="What do you look for?"
          value={wanted}
          onChange={(e) => setParams(e.target.value ? { find: e.target.value } : { station }, { replace: true })}
        />
        <Stack
          component="nav"
          aria-label="Stations"
          direction={{ xs: "row", md: "column" }}
          sx={{ overflowX: "auto", flexWrap: "nowrap" }}
        >
          <Button
            aria-pressed={!wanted && all}
            onClick={() => setParams({ station: "drawings" })}
            sx={chapterButton(!wanted && all)}
          >
            Good and bad
          </Button>
          {catalogue.stations.map((s) => (
            <Button
              key={s.id}
              aria-pressed={!wanted && s.id === station}
              onClick={() => setParams({ station: s.id })}
              sx={chapterButton(!wanted && s.id === station)}
            >
              {s.label}
            </Button>
          ))}
        </Stack>
      </Stack>
      <Box sx={{ minWidth: 0 }}>
        {!wanted && all ? (
          <AllDrawings catalogue={catalogue} />
        ) : (
          <Chapters
            {...{ catalogue, chapter, station }}
            title={wanted ? `“${wanted}”` : place?.label}
            said={wanted ? found(chapter) : place?.what}
            drawn={!wanted}
          />
        )}
      </Box>
    </Box>
  );
}

interface ChaptersProps {
  catalogue: Catalogue;
  chapter: Chapter;
  station: string;
  title?: string;
  said?: string;
  drawn: boolean;
}

function Chapters(p: ChaptersProps) {
  return (
    <>
      <Stack direction="row" sx={{ gap: 2, alignItems: "flex-end", justifyContent: "space-between", mb: 2 }}>
        <Box sx={{ minWidth: 0 }}>
          <Typography variant="h1">{p.title}</Typography>
          <Typography sx={{ color: "text.secondary" }}>{p.said}</Typography>
        </Box>
        {p.drawn && <PlaceDrawn station={p.station} />}
      </Stack>
      <Entries catalogue={p.catalogue} chapter={p.chapter} />
    </>
  );
}

const chapterButton = (on: boolean) => ({
  flex: "none",
  justifyContent: "flex-start",
  color: "text.primary",
  borderRadius: 0,
  boxShadow: on ? { xs: "inset 0 -4px", md: "inset 6px 0" } : "none",
  fontWeight: on ? 750 : 450,
});

function PlaceDrawn({ station }: { station: string }) {
  const drawn = useDrawn();
  const of = drawn.station(station);
  return <Drawn of={of} label={drawn.says(of)} width={172} />;
}

function found(c: Chapter) {
  const n = c.faults.length + c.checks.length + c.findings.length;
  return n === 0 ? "Nothing found. Try one word, as in weed, drip or gasket." : `${n} found`;
}

function Entries({ catalogue, chapter }: { catalogue: Catalogue; chapter: Chapter }) {
  const words = wordsOf(catalogue);
  return (
    <Stack sx={{ gap: 3 }}>
      {chapter.findings.length > 0 && (
        <Box component="section" aria-label="Signs">
          <Typography variant="h2">Signs, and what else they may mean</Typography>
          {chapter.findings.map((f) => (
            <FindingEntry key={f.id} finding={f} catalogue={catalogue} words={words} />
          ))}
        </Box>
      )}
      {chapter.faults.length > 0 && (
        <Box component="section" aria-label="Faults">
          <Typography variant="h2">What goes wrong</Typography>
          {chapter.faults.map((f) => (
            <FaultEntry key={f.id} fault={f} words={words} />
          ))}
        </Box>
      )}
      {chapter.checks.length > 0 && (
        <Box component="section" aria-label="Checks">
          <Typography variant="h2">How to look</Typography>
          {chapter.checks.map((k) => (
            <CheckEntry key={k.id} check={k} catalogue={catalogue} words={words} />
          ))}
        </Box>
      )}
    </Stack>
  );
}
