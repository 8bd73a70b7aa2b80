import { useQueryClient } from "@tanstack/react-query";
import {
  Box,
  Button,
  FormControl,
  FormControlLabel,
  InputLabel,
  MenuItem,
  OutlinedInput,
  Select,
  Stack,
  Switch,
  Typography,
} from "@mui/material";
import { useState, type FormEvent, type ReactNode } from "react";
import { Link } from "react-router";
import { sharePractice, type Schemas } from "../../api/client";
import { onThisDevice } from "../../api/practice";
import { keys } from "../../api/keys";
import { useMay, usePracticeHome, usePracticePeople, useSession } from "../../api/queries";
import { writer } from "../../api/writer";
import { useBegin, type Choice } from "../../ui/practice/begin";
import { Loaded } from "../../ui/Loaded";
import { ScreenHead } from "../../ui/ScreenHead";
import { useTitle } from "../../ui/title";
import { minutes, when } from "../../ui/words";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Home = Schemas["PracticeHome"];

/** Practice: lessons, an engine of one's own choosing, a code, and how one's tries went. */
export function PracticeScreen() {
  const home = usePracticeHome();
  useTitle("Practice");
  return (
    <Box component="main" sx={{ maxWidth: 1080, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <ScreenHead title="Practice" drawing="practice">
        An engine with something hidden in it. Look, put right, prove: with the screens of a real job, and nothing of it
        in the yard&apos;s record.
      </ScreenHead>
      <Loaded query={home}>{(h) => <Choices home={h} />}</Loaded>
    </Box>
  );
}

function Choices({ home }: { home: Home }) {
  const { begin, busy, failed } = useBegin();
  return (
    <>
      {failed && (
        <Typography role="alert" sx={{ my: 1, fontWeight: 700 }}>
          {failed}
        </Typography>
      )}
      <Part title="Lessons">
        <Box
          sx={{ display: "grid", gap: 1, gridTemplateColumns: { xs: "minmax(0,1fr)", md: "repeat(2, minmax(0,1fr))" } }}
        >
          {home.lessons.map((l) => (
            <ChoiceButton
              key={l.id}
              disabled={busy}
              onClick={() => begin({ lesson: l.number })}
              sx={{ justifyContent: "flex-start", textAlign: "left", gap: 1.5, py: 1, px: 1.5, minHeight: 64 }}
            >
              <Box component="span" sx={{ fontWeight: 850, fontSize: "1.5rem", minWidth: 34 }}>
                {l.number}
              </Box>
              <Box component="span" sx={{ minWidth: 0 }}>
                <Box component="span" sx={{ display: "block", fontWeight: 750 }}>
                  {l.title}
                </Box>
                <Box component="span" sx={{ display: "block", fontWeight: 450 }}>
                  {l.point}
                </Box>
                {l.tried > 0 && (
                  <Box component="span" sx={{ display: "block", fontWeight: 450, color: "text.secondary" }}>
                    {l.cured ? "Cured" : "Not cured yet"}, tried {l.tried === 1 ? "once" : `${l.tried} times`}
                  </Box>
                )}
              </Box>
            </ChoiceButton>
          ))}
        </Box>
      </Part>
      <Part title="An engine by chance">
        <ByChance home={home} busy={busy} onBegin={begin} />
      </Part>
      <Part title="The same engine as somebody else">
        <ByCode busy={busy} onBegin={begin} />
      </Part>
      <Button component={Link} to="/practice/bench" sx={{ mt: 2, px: 0 }}>
        Try your own way of searching against a thousand of these
      </Button>
      <Progress home={home} />
      <Here listed={home.tries} />
      <Sharing home={home} />
      <Others />
    </>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ mt: 3 }}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}

interface BeginProps {
  busy: boolean;
  onBegin: (choice: Choice) => void;
}

function ByChance({ home, busy, onBegin }: BeginProps & { home: Home }) {
  const [kind, setKind] = useState(home.kinds[0]?.id ?? "");
  const [level, setLevel] = useState(home.levels[0]?.id ?? "");
  const pick = (id: string, label: string, value: string, of: Home["kinds"], onPick: (id: string) => void) => (
    <FormControl sx={{ minWidth: { xs: "100%", sm: 320 } }}>
      <InputLabel id={id}>{label}</InputLabel>
      <Select labelId={id} label={label} value={value} onChange={(e) => onPick(e.target.value)}>
        {of.map((o) => (
          <MenuItem key={o.id} value={o.id}>
            {o.label}
          </MenuItem>
        ))}
      </Select>
    </FormControl>
  );
  return (
    <>
      <Stack direction="row" sx={{ gap: 1.5, flexWrap: "wrap", alignItems: "center" }}>
        {pick("practice-engine", "Engine", kind, home.kinds, setKind)}
        {pick("practice-level", "How hard", level, home.levels, setLevel)}
        <Button
          variant="contained"
          disabled={busy}
          onClick={() =>
            onBegin({ kind: kind as Schemas["PracticeKindID"], level: level as Schemas["PracticeLevelID"] })
          }
        >
          Begin
        </Button>
      </Stack>
      <Typography sx={{ mt: 0.75, color: "text.secondary" }}>{home.levels.find((l) => l.id === level)?.why}</Typography>
    </>
  );
}

function ByCode({ busy, onBegin }: BeginProps) {
  const [code, setCode] = useState("");
  const send = (e: FormEvent) => {
    e.preventDefault();
    if (code.trim()) onBegin({ code: code.trim() });
  };
  return (
    <Stack component="form" direction="row" onSubmit={send} sx={{ gap: 1.5, flexWrap: "wrap", alignItems: "center" }}>
      <FormControl>
        <InputLabel htmlFor="practice-code">Code</InputLabel>
        <OutlinedInput
          id="practice-code"
          label="Code"
          value={code}
          onChange={(e) => setCode(e.target.value)}
          inputProps={{ autoCapitalize: "characters", autoComplete: "off", spellCheck: false, maxLength: 20 }}
        />
      </FormControl>
      <ChoiceButton type="submit" disabled={busy || code.trim().length < 7}>
        Begin by code
      </ChoiceButton>
    </Stack>
  );
}

/** How one's own tries went: what one has found, what could be better, and each try. */
function Progress({ home }: { home: Home }) {
  if (home.tries.length === 0) return null;
  return (
    <Part title="Your tries">
      {home.faults.length > 0 && <Typography>Cured: {counted(home.faults)}.</Typography>}
      {home.habits.length > 0 && <Typography>To do better: {counted(home.habits)}.</Typography>}
      <Box component="ul" sx={{ listStyle: "none", p: 0, m: 0, mt: 1 }}>
        {home.tries.map((t) => (
          <Box
            component="li"
            key={t.id}
            sx={{ borderTop: 1, borderColor: "divider", py: 0.5, display: "flex", gap: 2, alignItems: "center" }}
          >
            <Box sx={{ mr: "auto", minWidth: 0 }}>
              <Typography sx={{ fontWeight: 650 }}>{t.title}</Typography>
              <Typography variant="body2" sx={{ color: "text.secondary" }}>
                {when(t.begun_at)}, {t.code}
                {t.result && `: ${resultWords(t.result)}`}
              </Typography>
            </Box>
            <Button href={`/practice/${t.id}/${t.over ? "review" : ""}`}>{t.over ? "How it went" : "Go on"}</Button>
          </Box>
        ))}
      </Box>
    </Part>
  );
}

/** Practices that this device runs by itself, begun without a link; the yard's list does not know them. */
function Here({ listed }: { listed: Home["tries"] }) {
  const rest = onThisDevice.ids().filter((id) => !listed.some((t) => t.id === id));
  if (rest.length === 0) return null;
  return (
    <Part title="On this device alone">
      <Typography>Begun without a link. They stay on this device.</Typography>
      {rest.map((id, i) => (
        <Button key={id} href={`/practice/${id}`}>
          {`Go on with number ${i + 1}`}
        </Button>
      ))}
    </Part>
  );
}

/** Where people sign in: whether who leads may see one's practice. Nobody sees it before one says so. */
function Sharing({ home }: { home: Home }) {
  const cache = useQueryClient();
  if (useSession()?.mode !== "yard") return null;
  const set = (shared: boolean) =>
    void sharePractice({ by: writer.by(), shared }).then((h) => void cache.setQueryData(keys.practiceHome(), h));
  return (
    <FormControlLabel
      sx={{ mt: 2, mx: 0, gap: 1 }}
      control={<Switch checked={home.shared} onChange={(e) => set(e.target.checked)} />}
      label="Whoever leads the yard may see how my practice goes"
    />
  );
}

/** For who leads: how the practice goes of those who let it be seen. */
function Others() {
  const [may, session] = [useMay("lead"), useSession()];
  const leads = may && session?.mode === "yard";
  const people = usePracticePeople(leads).data?.people ?? [];
  if (!leads || people.length === 0) return null;
  return (
    <Part title="How the others get on">
      {people.map((p) => (
        <Box key={p.name} sx={{ borderTop: 1, borderColor: "divider", py: 1 }}>
          <Typography sx={{ fontWeight: 700 }}>{p.name}</Typography>
          <Typography>
            {p.cured} of {p.over} cured, {p.lessons} {p.lessons === 1 ? "lesson" : "lessons"}, {p.dangers}{" "}
            {p.dangers === 1 ? "danger" : "dangers"}; looks {minutes(p.looking)} on average, {minutes(p.quickest)} by
            the program&apos;s order. Last {when(p.last)}.
          </Typography>
          {p.habits.length > 0 && <Typography>To do better: {counted(p.habits)}.</Typography>}
          {p.faults.length > 0 && <Typography>Cured: {counted(p.faults)}.</Typography>}
        </Box>
      ))}
    </Part>
  );
}

const counted = (list: Schemas["PracticeHabit"][]) =>
  list
    .slice(0, 6)
    .map((h) => (h.times > 1 ? `${h.label.toLowerCase()} (${h.times})` : h.label.toLowerCase()))
    .join(", ");

const resultWords = (r: Schemas["PracticeResult"]) =>
  `${r.cured ? "cured" : "not cured"}, ${minutes(r.looking)} of looks, the program's order ${minutes(r.quickest)}${
    r.dangers.length > 0 ? `, ${r.dangers.length === 1 ? "one danger" : `${r.dangers.length} dangers`}` : ""
  }`;
