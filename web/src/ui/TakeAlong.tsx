import { Stack, Typography } from "@mui/material";
import { useState, useSyncExternalStore } from "react";
import { along } from "../api/along";
import { useNotice } from "./notices";
import { moment } from "./words";
import { thisDevice } from "./thisDevice";
import { ChoiceButton } from "./ChoiceButton";

/** The craft on this device, the last opened first. */
export const useAlong = () => useSyncExternalStore(along.subscribe, along.snapshot);

/** When a craft was last together with the yard, in words; empty where it is not on this device. */
export function useTogether(craft: string): string {
  const c = useAlong().find((x) => x.id === craft);
  return c ? moment(Date.parse(c.at)) : "";
}

/** Takes a craft along to where no link is, and says since when it is on this device. */
export function TakeAlong({ craft, name }: { craft: string; name: string }) {
  const is = useAlong().find((c) => c.id === craft);
  const [taking, setTaking] = useState(false);
  const { done, failed } = useNotice();
  const take = () => {
    setTaking(true);
    void along
      .take(craft, true)
      .then(() => done(`${name} is on ${thisDevice()}`), failed)
      .finally(() => setTaking(false));
  };
  return (
    <Stack direction="row" sx={{ alignItems: "center", columnGap: 1.5, flexWrap: "wrap" }}>
      {is?.pinned ? (
        <ChoiceButton data-on aria-pressed onClick={() => along.pin(craft, false)}>
          Along on {thisDevice()}
        </ChoiceButton>
      ) : (
        <ChoiceButton onClick={take} disabled={taking}>
          {taking ? "Taking it along …" : "Take this boat along"}
        </ChoiceButton>
      )}
      {is && (
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          Last together with the yard {moment(Date.parse(is.at))}
        </Typography>
      )}
    </Stack>
  );
}
