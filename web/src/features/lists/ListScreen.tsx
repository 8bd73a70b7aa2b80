import { Alert, Box, Button, Stack, Typography } from "@mui/material";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { Refused, lookAtList, takeList, type Schemas } from "../../api/client";
import { newID } from "../../api/ids";
import { base64Of } from "../../api/outbox";
import { useFresh, useLists } from "../../api/queries";
import { FileButton } from "../../ui/FileButton";
import { Loaded } from "../../ui/Loaded";
import { useNotice } from "../../ui/notices";
import { useWriter } from "../../ui/Shell";
import { WhoDialog } from "../../ui/WhoDialog";
import { useTitle } from "../../ui/title";
import { ListColumns } from "./ListColumns";
import { ListRows } from "./ListRows";
import { TakenLists } from "./TakenLists";

type Lists = Schemas["Lists"];

/** The yard's own list is brought in: chosen, looked at, its columns said, taken in; and taken back as one. */
export function ListScreen() {
  useTitle("Bring a list in");
  const lists = useLists();
  return (
    <Box component="main" sx={{ maxWidth: 1000, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Button component={Link} to="/" sx={{ px: 0 }}>
        ← Yard
      </Button>
      <Typography variant="h1">Bring a list in</Typography>
      <Typography sx={{ color: "text.secondary", mb: 1.5, maxWidth: 720 }}>
        Craft with their engines, parts, or past jobs, as the yard wrote them down before: a spreadsheet (.xlsx) or a
        table (.csv), columns in any order. Nothing goes on record before you have seen it, and a list can be taken back
        as one.
      </Typography>
      <Loaded query={lists}>{(l) => <Bring lists={l} />}</Loaded>
    </Box>
  );
}

interface Looked {
  /** The list's own id: it is brought in once, however often it is sent. */
  id: string;
  file: Schemas["ListFile"];
  look: Schemas["ListLook"];
}

function Bring({ lists }: { lists: Lists }) {
  const [looked, setLooked] = useState<Looked>();
  const [asking, setAsking] = useState(false);
  const { refused, busy, ask } = useAsk();
  const by = useWriter();
  const fresh = useFresh();
  const { kept } = useNotice();
  const asked = useRef(0);
  const look = async (file: Schemas["ListFile"], id: string) => {
    const now = ++asked.current;
    const found = await lookAtList(file);
    if (now === asked.current) setLooked({ id, file, look: found }); // of two that cross the newer one is shown
  };
  const choose = (f: File) => ask(async () => look({ name: f.name.slice(0, 200), data: await base64Of(f) }, newID()));
  const take = (l: Looked, leave_wrong: boolean) => {
    if (!by) return setAsking(true);
    void ask(async () => {
      const file = { ...l.file, kind: l.look.kind, columns: l.look.columns.map((c) => c.column) };
      await takeList(l.id, { by, file, leave_wrong });
      setLooked(undefined);
      fresh();
      kept("The list is on record");
    });
  };
  return (
    <Stack sx={{ gap: 2.5 }}>
      <FileButton
        name="The list's file"
        accept=".csv,.tsv,.txt,.xlsx,text/csv,text/plain,text/tab-separated-values"
        onFile={(f) => void choose(f)}
        variant={looked ? "outlined" : "contained"}
        disabled={busy}
        sx={{ minHeight: 56, alignSelf: "flex-start", color: looked ? "text.primary" : undefined }}
      >
        {looked ? "Another file" : "Choose the file"}
      </FileButton>
      {refused.length > 0 && (
        <Alert severity="error">
          {refused.map((r) => (
            <div key={r}>{r}</div>
          ))}
        </Alert>
      )}
      {looked && (
        <>
          <ListColumns
            kinds={lists.kinds}
            look={looked.look}
            file={looked.file}
            onChange={(file) => void ask(() => look(file, looked.id))}
          />
          <ListRows
            kind={lists.kinds.find((k) => k.id === looked.look.kind)}
            look={looked.look}
            busy={busy}
            onTake={(leave) => take(looked, leave)}
          />
        </>
      )}
      {!looked && <Samples />}
      <TakenLists lists={lists} />
      {asking && <WhoDialog onClose={() => setAsking(false)} />}
    </Stack>
  );
}

/** Asks the program one thing at a time, and says what it refused. */
function useAsk() {
  const [refused, setRefused] = useState<string[]>([]);
  const [busy, setBusy] = useState(false);
  const ask = async (what: () => Promise<void>) => {
    setBusy(true);
    setRefused([]);
    try {
      await what();
    } catch (e) {
      setRefused(
        e instanceof Refused
          ? (e.problem.errors?.map((x) => x.say) ?? [e.message])
          : ["The program does not answer: try again. Nothing of it is lost."],
      );
    }
    setBusy(false);
  };
  return { refused, busy, ask };
}

/** What a list looks like: headings that are known, for who begins one. */
function Samples() {
  return (
    <Box component="section" aria-label="What a list looks like">
      <Typography variant="h2">What a list looks like</Typography>
      <Typography sx={{ maxWidth: 720 }}>
        One row a thing, the headings in the first rows. Craft: boat, owner, berth, engine, cooling, fuel, power, hours.
        Parts: part, number, where, in stock, minimum, price. Past jobs: date, boat, engine, complaint, found, work
        done, hours.
      </Typography>
    </Box>
  );
}
