import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema } from "../api/client";
import { useChange } from "../api/hooks";
import { counted } from "../shell/counted";
import { momentWords } from "../shell/dates";
import { Awaited, ProblemNote } from "../shell/said";
import { useAccess, useDoors } from "./queries";

type Kind = "full" | "guest";
type NewCode = Schema["NewCode"];

const NAMES: Record<Kind, string> = { full: "Full code", guest: "Guest code" };

/** Which codes are in force, and which devices came in with them. */
export function DoorsPart() {
  const access = useAccess();
  const open = access.data?.asked === true;
  const doors = useDoors(open);
  return (
    <Box component="section" aria-labelledby="doors" sx={{ my: 3 }}>
      <h2 id="doors">Who may come in</h2>
      {open ? (
        <Awaited query={doors}>
          {(known) => <Doors doors={known} authority={access.data?.authority === true} />}
        </Awaited>
      ) : (
        <p>
          Only this computer. To let a phone or a colleague in, start the application with{" "}
          <code>--host 0.0.0.0 --tls</code>: it then asks every device for an access code.
        </p>
      )}
    </Box>
  );
}

function Doors({ doors, authority }: { doors: Schema["Doors"]; authority: boolean }) {
  const [shown, setShown] = useState<{ kind: Kind; code: NewCode } | null>(null);
  const change = useChange(async (kind: Kind) => {
    const code = await answered(api.POST("/api/access/codes/{kind}", { params: { path: { kind } } }));
    setShown({ kind, code });
  }, "access");
  const revoke = useChange(
    (kind: Kind) => answered(api.DELETE("/api/access/codes/{kind}", { params: { path: { kind } } })),
    "access",
  );
  const putOut = useChange(
    (id: number) => answered(api.DELETE("/api/access/devices/{device_id}", { params: { path: { device_id: id } } })),
    "access",
  );
  return (
    <>
      <Code
        kind="full"
        madeAt={doors.full_made_at}
        words="Lets a device see and change everything. A new one puts the other devices out."
        onNew={() => change.mutate("full")}
      />
      <Code
        kind="guest"
        madeAt={doors.guest_made_at}
        words="Lets a guest or a class look at everything and change nothing."
        onNew={() => change.mutate("guest")}
        onRevoke={() => revoke.mutate("guest")}
      />
      {shown && <ShownCode kind={shown.kind} code={shown.code} />}
      <ProblemNote error={change.error ?? revoke.error ?? putOut.error} />
      {authority && (
        <p>
          <Button href="/api/access/certificate" download sx={{ px: 0 }}>
            Certificate for phones
          </Button>{" "}
          A phone that trusts it opens this address without a warning.
        </p>
      )}
      <AtTheDoor events={doors.events} />
      <h3>Devices</h3>
      <Box component="ul" aria-label="Devices" sx={{ listStyle: "none", p: 0 }}>
        {doors.devices.map((one) => (
          <Box
            component="li"
            key={one.id}
            sx={{
              display: "flex",
              flexWrap: "wrap",
              gap: 1,
              alignItems: "center",
              py: 0.5,
              borderBottom: 1,
              borderColor: "divider",
            }}>
            <Box sx={{ flex: "1 1 220px" }}>
              {one.name}
              {one.is_this && " (this one)"}
              <Box sx={{ color: "text.secondary", fontSize: 13 }}>
                {one.kind === "guest" ? "as a guest, " : ""}in since {momentWords(one.came_in_at)}, last seen{" "}
                {momentWords(one.seen_at)}
              </Box>
            </Box>
            <Button onClick={() => putOut.mutate(one.id)} aria-label={`Put out ${one.name}`}>
              Put out
            </Button>
          </Box>
        ))}
      </Box>
    </>
  );
}

function Code(props: { kind: Kind; madeAt: string | null; words: string; onNew: () => void; onRevoke?: () => void }) {
  return (
    <Box
      role="group"
      aria-label={NAMES[props.kind]}
      sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center", py: 0.5 }}>
      <Box sx={{ flex: "1 1 220px" }}>
        <strong>{NAMES[props.kind]}</strong> {props.words}
        <Box sx={{ color: "text.secondary", fontSize: 13 }}>
          {props.madeAt
            ? `In force since ${momentWords(props.madeAt)}; only a scrambled form of it is kept`
            : "There is none"}
        </Box>
      </Box>
      <Button variant="outlined" onClick={props.onNew}>
        {props.madeAt ? "Change it" : "Make one"}
      </Button>
      {props.madeAt && props.onRevoke && <Button onClick={props.onRevoke}>Revoke it</Button>}
    </Box>
  );
}

function ShownCode({ kind, code }: { kind: Kind; code: NewCode }) {
  return (
    <Box
      role="group"
      aria-label="The new code"
      sx={{
        border: 1,
        borderColor: "text.primary",
        p: 2,
        my: 1,
        display: "flex",
        flexWrap: "wrap",
        gap: 3,
        alignItems: "center",
      }}>
      <img src={code.square} width={176} height={176} alt={`Square code of ${code.link}`} />
      <Box sx={{ flex: "1 1 220px", overflowWrap: "anywhere" }}>
        <Box sx={{ fontSize: 26, fontWeight: 700, letterSpacing: 1 }}>{code.code}</Box>
        <p>
          Write it down or photograph it now: it is not shown again. Devices that came in with the{" "}
          {kind === "full" ? "full" : "guest"} code before have to enter this one
          {kind === "full" ? ", but for the one in your hand" : ""}.
        </p>
        <div>{code.link}</div>
      </Box>
    </Box>
  );
}

function AtTheDoor({ events }: { events: Schema["AccessLine"][] }) {
  const wrong = events.filter((one) => one.what === "wrong code").length;
  if (events.length === 0) return null;
  return (
    <Box component="details" sx={{ my: 1.5 }}>
      <summary>Lately at the door{wrong > 0 && `: ${counted(wrong, "wrong code")}`}</summary>
      <Box component="ul" aria-label="Lately at the door" sx={{ pl: 2.5, fontSize: 14 }}>
        {events.map((one, i) => (
          <li key={i}>
            {momentWords(one.at)}: {one.what}, {one.words || "unnamed"}, from {one.come_from || "here"}
          </li>
        ))}
      </Box>
    </Box>
  );
}
