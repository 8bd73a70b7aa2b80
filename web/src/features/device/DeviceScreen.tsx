import { Alert, Box, Stack, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState, useSyncExternalStore } from "react";
import { along, type Craft } from "../../api/along";
import { clock } from "../../api/clock";
import { link } from "../../api/link";
import { useOutbox } from "../../api/queries";
import { LetterRow } from "../../ui/LetterRow";
import { useAlong } from "../../ui/TakeAlong";
import { useNotice } from "../../ui/notices";
import { useTitle } from "../../ui/title";
import { moment, size } from "../../ui/words";
import { thisDevice } from "../../ui/thisDevice";
import { ChoiceButton } from "../../ui/ChoiceButton";

/** What is on this device, how it stands with the yard, and what waits: so that one knows before the hatch shuts. */
export function DeviceScreen() {
  useTitle(`On ${thisDevice()}`);
  const craft = useAlong();
  const { waiting, aside, unkept } = useOutbox();
  const unread = useSyncExternalStore(along.subscribeUnread, along.howManyUnread);
  return (
    <Box component="main" sx={{ maxWidth: 720, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Typography variant="h1">On {thisDevice()}</Typography>
      <Stack sx={{ gap: 2.5, mt: 1 }}>
        <Standing />
        <Box component="section" aria-label="What waits">
          <Typography variant="h2">What waits to be sent</Typography>
          {[...aside, ...waiting].map((l) => (
            <LetterRow key={l.id} letter={l} kept={!unkept.includes(l.id)} />
          ))}
          {aside.length + waiting.length === 0 && <Typography>Nothing: the yard has it all.</Typography>}
        </Box>
        <Box component="section" aria-label={`Boats on ${thisDevice()}`}>
          <Typography variant="h2">Boats</Typography>
          <Typography sx={{ mb: 0.5 }}>
            What you open is taken along by itself; the oldest go when there is no room. One that you keep stays.
          </Typography>
          {unread > 0 && (
            <Alert severity="warning" sx={{ mb: 1 }}>
              {unread === 1 ? "One boat was" : `${unread} boats were`} taken along from another version of the program,
              and cannot be read here before there is a link. Then that is put right by itself.
            </Alert>
          )}
          {craft.map((c) => (
            <Boat key={c.id} craft={c} />
          ))}
          {craft.length === 0 && <Typography>None yet. Open an engine or a job while there is a link.</Typography>}
        </Box>
        <Room bytes={craft.reduce((sum, c) => sum + c.bytes, 0)} />
      </Stack>
    </Box>
  );
}

/** How the link is, whether the phone can go on by itself, whether its clock is right. */
function Standing() {
  const down = useSyncExternalStore(link.subscribe, link.down);
  const alone = useSyncExternalStore(link.subscribe, link.alone);
  const has = useHasProgram(alone);
  const off = Math.round(clock.off() / 60_000);
  const last = link.reached();
  return (
    <Box component="section" aria-label="Link">
      <Typography sx={{ fontSize: "1.2rem", fontWeight: 700 }}>
        {down ? `No link. Last with the yard ${last > 0 ? moment(last) : "never"}.` : "On line."}
      </Typography>
      <Typography>
        {has
          ? "Checks, readings, start lists and calculators are worked out here where no link is."
          : "The part that works things out without a link is not here yet: leave this open for a moment with a link."}
      </Typography>
      {off !== 0 && (
        <Alert severity="warning" sx={{ mt: 1 }}>
          The clock of {thisDevice()} is {Math.abs(off)} {Math.abs(off) === 1 ? "minute" : "minutes"}{" "}
          {off > 0 ? "behind" : "ahead of"} the yard&rsquo;s. What you tap is stamped by the yard&rsquo;s.
        </Alert>
      )}
    </Box>
  );
}

/** Whether the phone's own program lies here. */
function useHasProgram(alone: boolean): boolean {
  const lies = async () => (await (await caches.open("hevrin.program")).keys()).length > 0;
  const { data } = useQuery({ queryKey: ["program"], queryFn: lies, refetchInterval: 3000, retry: false });
  return alone || data === true;
}

function Boat({ craft: c }: { craft: Craft }) {
  const { failed } = useNotice();
  const [asking, setAsking] = useState(false);
  const anew = () => {
    setAsking(true);
    void along
      .take(c.id)
      .catch(failed)
      .finally(() => setAsking(false));
  };
  return (
    <Box role="group" aria-label={c.name} sx={{ borderTop: 1, borderColor: "divider", py: 1 }}>
      <Typography sx={{ fontWeight: 700 }}>{c.name}</Typography>
      <Typography variant="body2" sx={{ color: "text.secondary" }}>
        Last together with the yard {moment(Date.parse(c.at))}, {size(c.bytes)}
      </Typography>
      <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", mt: 0.5 }}>
        <ChoiceButton
          data-on={c.pinned}
          aria-pressed={c.pinned}
          onClick={() => along.pin(c.id, !c.pinned)}
          aria-label={`Keep ${c.name} on ${thisDevice()}`}
        >
          {c.pinned ? "Stays" : "Keep it here"}
        </ChoiceButton>
        <ChoiceButton onClick={anew} disabled={asking} aria-label={`Bring ${c.name} up to date`}>
          Bring up to date
        </ChoiceButton>
        <ChoiceButton onClick={() => void along.letGo([c.id])} aria-label={`Let ${c.name} go`}>
          Let go
        </ChoiceButton>
      </Stack>
    </Box>
  );
}

interface Taken {
  usage?: number;
  quota?: number;
  persisted?: boolean;
}

async function room(): Promise<Taken> {
  const storage = navigator.storage as StorageManager | undefined;
  return { ...(await storage?.estimate()), persisted: await storage?.persisted?.() };
}

/** How much room it takes, and whether the browser promised to keep it. */
function Room({ bytes }: { bytes: number }) {
  const { data, refetch } = useQuery({ queryKey: ["room"], queryFn: room, staleTime: 0 });
  const is = data ?? {};
  return (
    <Box component="section" aria-label="Room">
      <Typography variant="h2">Room</Typography>
      <Typography>
        Boats take {size(bytes)}
        {is.usage !== undefined && `, Hevrin as a whole ${size(is.usage)}`}
        {is.quota !== undefined && ` of the ${size(is.quota)} that the browser gives it`}.
      </Typography>
      {is.persisted === true && <Typography>The browser keeps it until you let it go.</Typography>}
      {is.persisted === false && (
        <Stack direction="row" sx={{ alignItems: "center", gap: 1.5, flexWrap: "wrap" }}>
          <Typography>The browser may throw it away when it is short of room.</Typography>
          <ChoiceButton onClick={() => void navigator.storage.persist().then(() => refetch())}>
            Ask it to keep it
          </ChoiceButton>
        </Stack>
      )}
    </Box>
  );
}
