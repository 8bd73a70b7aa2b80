import { Box, Button, Stack, Typography } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { changePerson, inviteAgain, invitePerson, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { usePeople, useSession } from "../../api/queries";
import { Loaded } from "../../ui/Loaded";
import { useNotice } from "../../ui/notices";
import { useTitle } from "../../ui/title";
import { InviteDialog } from "./InviteDialog";
import { InvitationDialog } from "./InvitationDialog";
import { PersonDialog } from "./PersonDialog";
import { StandingLinks } from "./StandingLinks";
import { ChoiceButton } from "../../ui/ChoiceButton";

type Person = Schemas["Person"];

/** Who works in the yard: invited, given a role, switched off; never off the record. */
export function PeopleScreen() {
  useTitle("People");
  const people = usePeople();
  return (
    <Box component="main" sx={{ maxWidth: 900, mx: "auto", px: { xs: 1.5, md: 3 }, py: 2.5 }}>
      <Typography variant="h1">People</Typography>
      <Loaded query={people}>{(p) => <Roster roster={p} />}</Loaded>
    </Box>
  );
}

function Roster({ roster }: { roster: Schemas["People"] }) {
  const leads = useSession()?.rights.includes("lead") ?? false;
  const [inviting, setInviting] = useState(false);
  const [made, setMade] = useState<Schemas["InvitationMade"]>();
  const [changing, setChanging] = useState<Person>();
  const cache = useQueryClient();
  const { failed, kept } = useNotice();
  const again = (p: Person) =>
    inviteAgain(p.id).then((m) => {
      setMade(m);
      void cache.invalidateQueries({ queryKey: keys.people() });
    }, failed);
  return (
    <>
      {leads && (
        <Stack direction="row" sx={{ gap: 1, flexWrap: "wrap", my: 1.5 }}>
          <Button variant="contained" onClick={() => setInviting(true)} sx={{ minHeight: 52 }}>
            Invite somebody
          </Button>
          <Button component={Link} to="/audit" variant="choice">
            Audit log
          </Button>
        </Stack>
      )}
      <Box component="ul" aria-label="People" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {roster.people.map((p) => (
          <Row key={p.id} person={p} leads={leads} onAgain={() => void again(p)} onChange={() => setChanging(p)} />
        ))}
      </Box>
      {leads && <StandingLinks />}
      <Roles roles={roster.roles} />
      {inviting && (
        <InviteDialog
          roles={roster.roles}
          onClose={() => setInviting(false)}
          onInvite={async (body) => {
            setMade(await invitePerson(body));
            setInviting(false);
            void cache.invalidateQueries({ queryKey: keys.people() });
          }}
        />
      )}
      {made && <InvitationDialog made={made} onClose={() => setMade(undefined)} />}
      {changing && (
        <PersonDialog
          person={changing}
          roles={roster.roles}
          names={roster.names}
          onClose={() => setChanging(undefined)}
          onSave={async (to) => {
            cache.setQueryData(keys.people(), await changePerson(changing.id, to));
            setChanging(undefined);
            kept("Changed");
          }}
        />
      )}
    </>
  );
}

/** How somebody stands with their sign-in, in words. */
function standing(p: Person) {
  if (p.off) return "switched off; what they noted stays";
  if (p.invited_to)
    return p.account ? "invited anew, until they take it the old passphrase holds" : "invited, not here yet";
  return p.account === false ? "the invitation ran out" : undefined;
}

function Row(p: { person: Person; leads: boolean; onAgain: () => void; onChange: () => void }) {
  const { person } = p;
  return (
    <Stack
      component="li"
      direction="row"
      sx={{ gap: 1, borderTop: 1, borderColor: "divider", py: 0.75, alignItems: "center", flexWrap: "wrap" }}
    >
      <Box sx={{ flex: "1 1 200px", minWidth: 0, opacity: person.off ? 0.75 : 1 }}>
        <Typography sx={{ fontWeight: 650, overflowWrap: "anywhere" }}>{person.name}</Typography>
        <Typography variant="body2" sx={{ color: "text.secondary" }}>
          {[person.role_label, standing(person)].filter(Boolean).join(": ")}
        </Typography>
      </Box>
      {p.leads && (
        <>
          {!person.off && <Button onClick={p.onAgain}>New invitation</Button>}
          <ChoiceButton onClick={p.onChange} aria-label={`Change ${person.name}`}>
            Change
          </ChoiceButton>
        </>
      )}
    </Stack>
  );
}

function Roles({ roles }: { roles: Schemas["RoleDescription"][] }) {
  return (
    <Box component="section" aria-label="Roles" sx={{ mt: 3 }}>
      <Typography variant="h2">What each role may do</Typography>
      {roles.map((r) => (
        <Typography key={r.id} sx={{ mt: 0.5 }}>
          <strong>{r.label}</strong>: {r.does.charAt(0).toLowerCase() + r.does.slice(1)}.
        </Typography>
      ))}
    </Box>
  );
}
