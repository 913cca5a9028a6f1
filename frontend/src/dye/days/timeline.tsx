import Box from "@mui/material/Box";
import { useTheme } from "@mui/material/styles";
import { useRef } from "react";

import { useRoom } from "../../shell/room";
import type { DayPlan, PlannedWork } from "./day-plan";
import { MINUTES_A_DAY, clockOf, dayOf, minutesOf } from "./own-time";

const LANE = 30;
const HEAD = 20;
const LEFT = 104;
const END = 8;
const LEAST_HOUR_PX = 62;
const MOST_HOUR_PX = 120;

interface Span {
  from: number;
  until: number;
}

/** One strip for each day that has work: a lane for the hands, and one for each vessel in use. */
export function Timeline({ plan, onChoose }: { plan: DayPlan; onChoose: (work: PlannedWork) => void }) {
  const place = useRef<HTMLDivElement>(null);
  const { width } = useRoom(place);
  const days = [...new Set(plan.work.map((one) => one.starts_at.slice(0, 10)))]
    .sort()
    .map((day) => ({ day, ...hoursOf(plan, day) }));
  const longest = Math.max(1, ...days.map(({ from, until }) => until - from));
  // All days have one measure, so that long days are seen to be long.
  const hourPx = Math.min(MOST_HOUR_PX, Math.max(LEAST_HOUR_PX, (width - LEFT - END) / longest));
  return (
    <Box ref={place} sx={{ my: 2, minWidth: 0 }}>
      <Box sx={{ fontSize: 13, color: "text.secondary", mb: 1 }}>
        Dark: hands. Grey: on the heat. Outlined: the bath stands in its vessel. Click one to go there, or to move it.
      </Box>
      {days.map((one) => (
        <DayStrip key={one.day} {...one} hourPx={hourPx} plan={plan} onChoose={onChoose} />
      ))}
    </Box>
  );
}

/** The whole hours of a day in which something happens. */
function hoursOf(plan: DayPlan, day: string): { from: number; until: number } {
  const midnight = minutesOf(`${day}T00:00:00`);
  const work = plan.work.filter((one) => one.starts_at.startsWith(day));
  return {
    from: Math.floor((Math.min(...work.map((one) => minutesOf(one.soak_from ?? one.starts_at))) - midnight) / 60),
    until: Math.min(24, Math.ceil((Math.max(...work.map((one) => minutesOf(one.ends_at))) - midnight) / 60) + 1),
  };
}

interface DayStripProps {
  day: string;
  from: number;
  until: number;
  hourPx: number;
  plan: DayPlan;
  onChoose: (work: PlannedWork) => void;
}

function DayStrip({ day, from, until, hourPx, plan, onChoose }: DayStripProps) {
  const { palette } = useTheme();
  const midnight = minutesOf(`${day}T00:00:00`);
  const work = plan.work.filter((one) => one.starts_at.startsWith(day));
  const stays = plan.stays.filter(
    (stay) => minutesOf(stay.starts_at) < midnight + MINUTES_A_DAY && minutesOf(stay.ends_at) > midnight,
  );
  const x = (minutes: number) =>
    LEFT + (Math.min(until * 60, Math.max(from * 60, minutes - midnight)) - from * 60) * (hourPx / 60);
  const pots = [...new Set(stays.map((stay) => stay.pot))].sort();
  const lane = (row: number) => HEAD + row * LANE;
  const width = LEFT + (until - from) * hourPx + END;
  const height = HEAD + (pots.length + 1) * LANE + 4;
  const bar = (span: Span) => ({ x: x(span.from), width: Math.max(2, x(span.until) - x(span.from)) });
  return (
    <Box sx={{ mb: 2 }}>
      <Box component="h3" sx={{ m: 0, fontSize: 15 }}>
        {dayOf(`${day}T00:00:00`)}
      </Box>
      <Box sx={{ overflowX: "auto" }}>
        <svg width={width} height={height} role="img" aria-label={`Hands and vessels on ${dayOf(`${day}T00:00:00`)}`}>
          {Array.from({ length: until - from + 1 }, (_, i) => (
            <g key={i}>
              <line x1={LEFT + i * hourPx} x2={LEFT + i * hourPx} y1={HEAD - 4} y2={height} stroke={palette.divider} />
              <text x={LEFT + i * hourPx + 2} y={HEAD - 7} fontSize="11" fill={palette.text.secondary}>
                {i < until - from ? `${from + i}:00` : ""}
              </text>
            </g>
          ))}
          <text x={0} y={lane(0) + 19} fontSize="13" fontWeight="700" fill={palette.text.primary}>
            Hands
          </text>
          {work.map((one) => {
            const hands = bar({ from: minutesOf(one.starts_at), until: minutesOf(one.hands_until) });
            return (
              <g key={one.task} onClick={() => onChoose(one)} style={{ cursor: "pointer" }}>
                <rect
                  {...hands}
                  y={lane(0) + 3}
                  height={LANE - 8}
                  fill={one.state === "done" ? palette.text.secondary : palette.text.primary}
                  stroke={palette.background.default}
                />
                <title>{`${one.vessel} ${one.words} ${clockOf(one.starts_at)} to ${clockOf(one.hands_until)}`}</title>
              </g>
            );
          })}
          {pots.map((pot, row) => (
            <text key={pot} x={0} y={lane(row + 1) + 19} fontSize="12" fill={palette.text.primary}>
              {pot.length > 17 ? `${pot.slice(0, 16)}…` : pot}
            </text>
          ))}
          {stays.map((stay) => (
            <Bath
              key={stay.vessel}
              stay={stay}
              work={plan.work}
              y={lane(pots.indexOf(stay.pot) + 1)}
              bar={bar}
              onChoose={onChoose}
            />
          ))}
        </svg>
      </Box>
    </Box>
  );
}

interface BathProps {
  stay: DayPlan["stays"][number];
  work: readonly PlannedWork[];
  y: number;
  bar: (span: Span) => { x: number; width: number };
  onChoose: (work: PlannedWork) => void;
}

/** A bath in its vessel: hatched while it stands, solid while it is on the heat. */
function Bath({ stay, work, y, bar, onChoose }: BathProps) {
  const { palette } = useTheme();
  const whole = bar({ from: minutesOf(stay.starts_at), until: minutesOf(stay.ends_at) });
  const hot = work.filter((one) => one.vessel === stay.vessel && one.runs);
  const first = work.find((one) => one.vessel === stay.vessel);
  return (
    <g onClick={() => first && onChoose(first)} style={{ cursor: "pointer" }}>
      <title>{`${stay.vessel} in ${stay.pot}, ${clockOf(stay.starts_at)} to ${clockOf(stay.ends_at)}`}</title>
      <rect
        {...whole}
        y={y + 4}
        height={LANE - 9}
        fill={palette.background.paper}
        stroke={palette.text.primary}
        strokeDasharray="3 2"
      />
      {hot.map((one) => (
        <rect
          key={one.task}
          {...bar({ from: minutesOf(one.hands_until), until: minutesOf(one.ends_at) })}
          y={y + 4}
          height={LANE - 9}
          fill={palette.text.secondary}
          opacity={0.45}
        />
      ))}
      <text x={whole.x + 4} y={y + 20} fontSize="13" fontWeight="700" fill={palette.text.primary}>
        {whole.width > 26 ? stay.vessel : ""}
      </text>
    </g>
  );
}
