import { useRef } from "react";
import styled from "styled-components";
import type { SignalCut } from "../../api/client";
import { useWork } from "../../api/work";
import { ScaleBar } from "../../instruments/plan/floorParts";
import { Frame } from "../../instruments/plan/marks";
import { useView } from "../../instruments/plan/useView";
import { length, lengthUnit } from "../../kit/figures";
import { words } from "../../words";
import { SignalContours } from "./SignalContours";

const w = words.signal;
const MARGIN_M = 1;
const NEAR_M = 0.5;

/** Wi-Fi standing up: the rooms that a cut passes on every floor, the levels in them, access points at their heights. */
export function SignalCutView({ cut, names }: { cut: SignalCut; names: ReadonlyMap<number, string> }) {
  const { rooms } = useWork().outcome.project;
  const frame = useRef<HTMLDivElement>(null);
  const roomNames = new Map(rooms.map((room) => [room.id, room.name]));
  const left = Math.min(...cut.rooms.map((room) => room.from_m), 0);
  const right = Math.max(...cut.rooms.map((room) => room.to_m), left + 1);
  const top = Math.max(...cut.rooms.map((room) => room.high_m), 1);
  const low = Math.min(...cut.rooms.map((room) => room.low_m), 0);
  const whole = {
    x: left - MARGIN_M,
    y: -top - MARGIN_M,
    width: right - left + 2 * MARGIN_M,
    height: top - low + 2 * MARGIN_M,
  };
  const { view } = useView(frame, whole);
  const px = 1 / view.scale;
  const outlines = cut.rooms.map((room) => [
    [room.from_m, -room.high_m],
    [room.to_m, -room.high_m],
    [room.to_m, -room.low_m],
    [room.from_m, -room.low_m],
  ]);
  return (
    <Frame role="region" ref={frame} aria-label={w.cuts[cut.axis]}>
      {!cut.rooms.length && <None>{w.cutNone}</None>}
      {/* biome-ignore lint/a11y/noSvgWithoutTitle: the section around it is labelled, and the levels stand in the tables */}
      <svg viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`} fontSize={12 * px}>
        <rect x={view.x} y={0} width={view.width} height={Math.max(0, view.y + view.height)} fill="var(--earth)" />
        <line x1={view.x} x2={view.x + view.width} y1={0} y2={0} stroke="var(--ink)" strokeWidth={2 * px} />
        {cut.rooms.map((room) => (
          <rect
            key={`${room.room_id} ${room.from_m}`}
            className="room"
            data-outside={rooms.find((one) => one.id === room.room_id)?.outside || undefined}
            x={room.from_m}
            y={-room.high_m}
            width={room.to_m - room.from_m}
            height={room.high_m - room.low_m}
          />
        ))}
        {cut.picture && <SignalContours picture={cut.picture} within={outlines} px={px} />}
        {cut.rooms
          .filter((room) => (room.to_m - room.from_m) * view.scale > 70)
          .map((room) => (
            <text
              key={`${room.room_id} ${room.from_m}`}
              className="name"
              x={room.from_m + 6 * px}
              y={-room.low_m - 6 * px}
              strokeWidth={4 * px}
            >
              {roomNames.get(room.room_id)}
            </text>
          ))}
        {cut.stations
          .filter((one) => names.has(one.drop_id))
          .toSorted((one, other) => other.away_m - one.away_m)
          .map((one) => (
            <Hung key={one.drop_id} transform={`translate(${one.along_m} ${-one.z_m}) scale(${px})`}>
              <title>{`${names.get(one.drop_id)}, ${w.away(`${length(one.away_m, 1)} ${lengthUnit()}`)}`}</title>
              <path d="M0 -9L8 6L-8 6Z" data-far={one.away_m > NEAR_M || undefined} />
              {one.away_m <= NEAR_M && (
                <text x={11} y={18} fontSize={12} strokeWidth={4}>
                  {names.get(one.drop_id)}
                </text>
              )}
            </Hung>
          ))}
        <ScaleBar view={view} />
      </svg>
    </Frame>
  );
}

const None = styled.p`position: absolute; inset: 0; display: grid; place-items: center; color: var(--faint); z-index: 1;`;
const Hung = styled.g`
  path { fill: var(--ink); stroke: var(--ink); stroke-width: 1.6; }
  path[data-far] { fill: var(--sheet); stroke-dasharray: 2.5 2; }
  text { fill: var(--ink); stroke: var(--sheet); paint-order: stroke; font-stretch: 84%; }
`;
