import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { answered, api } from "../api/client";
import type { Schema, StudyView } from "../api/client";
import { inMyUnits } from "../settings/quantities";
import { durationWords } from "../shell/durations";
import { Awaited } from "../shell/said";
import { useLogging } from "./outbox";

type OtherPot = Schema["OtherPot"];

/** Seen when dry: the piece was in another pot than its own, or is gone. */
export function AnotherWay({ study, code }: { study: StudyView; code: string }) {
  const [open, setOpen] = useState(false);
  const log = useLogging(study.id);
  if (!open)
    return (
      <Button variant="outlined" color="secondary" onClick={() => setOpen(true)}>
        It went another way
      </Button>
    );
  const lose = () => {
    log({ kind: "deviation", deviation: "other", note: "lost", cure: "replace", swatches: [code] });
    setOpen(false);
  };
  return (
    <Box
      role="group"
      aria-label={`Where ${code} was`}
      sx={{ border: 1, borderColor: "divider", p: 1.5, maxWidth: 720 }}>
      <Pots study={study} code={code} done={() => setOpen(false)} />
      <Box sx={{ display: "flex", gap: 1, mt: 1.5 }}>
        <Button variant="outlined" color="secondary" onClick={lose}>
          It is lost
        </Button>
        <Button onClick={() => setOpen(false)}>Neither</Button>
      </Box>
    </Box>
  );
}

function Pots({ study, code, done }: { study: StudyView; code: string; done: () => void }) {
  const log = useLogging(study.id);
  const pots = useQuery({
    queryKey: ["study", study.id, "dye", "other-pots", code],
    queryFn: () =>
      answered(
        api.GET("/api/studies/{study_id}/dye/other-pots/{code}", { params: { path: { study_id: study.id, code } } }),
      ),
  });
  const say = (swatch: string, pot: OtherPot, levels: OtherPot["counts_as"]["levels"]) =>
    log({ kind: "placed", swatches: [swatch], levels, vessel: pot.vessel, instead_of: pot.instead_of, at: pot.at });
  return (
    <Awaited query={pots}>
      {(found) => (
        <>
          {found.length === 0 && <div>There was no other pot of this kind: it was in none, or in its own.</div>}
          {found.map((pot, i) => (
            <Box
              key={`${pot.instead_of} ${pot.vessel}`}
              sx={{ display: "flex", gap: 1.5, alignItems: "center", py: 0.5 }}>
              <Button
                variant={i === 0 ? "contained" : "outlined"}
                color={i === 0 ? "primary" : "secondary"}
                sx={{ flex: "none" }}
                onClick={() => {
                  say(code, pot, pot.counts_as.levels);
                  done();
                }}>
                It was in {pot.vessel}
              </Button>
              <Box sx={{ fontSize: 14 }}>
                Not in {pot.instead_of}: {inMyUnits(pot.counts_as.words)}.{" "}
                <Box component="span" sx={{ color: "text.secondary" }}>
                  {why(pot)}
                </Box>
              </Box>
            </Box>
          ))}
        </>
      )}
    </Awaited>
  );
}

/** What speaks for a pot: its colour, when it was filled, and who looks like having lain in this one. */
function why(pot: OtherPot): string {
  const minutes = Math.round(pot.hours_later * 60);
  const when =
    minutes === 0
      ? "Filled at the same time"
      : `Filled ${durationWords(Math.abs(minutes))} ${minutes > 0 ? "later" : "sooner"}`;
  const colour =
    pot.de00 != null && pot.own_de00 != null
      ? ` Its colour is ΔE00 ${pot.de00.toFixed(1)} from the likest piece there, ${pot.own_de00.toFixed(1)} in ${pot.instead_of}.`
      : "";
  const swapped = pot.swapped_with
    ? ` ${pot.swapped_with} looks as if it had been in ${pot.instead_of}: look at it too.`
    : "";
  return `${when}.${colour}${swapped}`;
}
