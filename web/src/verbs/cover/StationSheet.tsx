import styled from "styled-components";
import type { Band, DropChanges, SignalFor, StationLine } from "../../api/client";
import { useWork } from "../../api/work";
import { Choice } from "../../kit/Choice";
import { Amount } from "../../kit/fields";
import { exact, figure, length, lengthUnit } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { Tick } from "../../kit/Tick";
import { words } from "../../words";
import { Caution } from "./page";
import { asked, useGoalName, useLooks, useSayOfRadio } from "./useSignal";

const w = words.station;
const WIDTHS = [20, 40, 80, 160] as const;

/** An access point: its model, where it hangs, and each of its bands as it is set, with the time that is asked of it. */
export function StationSheet({ station, signal }: { station: StationLine; signal: SignalFor }) {
  const { outcome, edit, choose } = useWork();
  const drop = outcome.project.drops.find((one) => one.id === station.drop_id);
  if (!drop) return null;
  const change = (changes: DropChanges) => edit({ type: "change_drops", ids: [drop.id], changes });
  const models = signal.models.map((model) => [model.key, model.name] as const);
  return (
    <Sheet aria-label={station.name}>
      <Heading>
        <h2>{station.name}</h2>
        <Word onPress={() => choose({ drops: new Set() })}>{w.done}</Word>
      </Heading>
      <Line label={w.model}>
        <Choice
          label={w.model}
          value={drop.model ?? ""}
          options={[["", w.usual], ...models]}
          set={(model) => change({ model: model || null })}
        />
      </Line>
      <Line label={w.height}>
        <Amount
          label={w.height}
          value={drop.height_m ?? null}
          usual={station.height_m}
          metres
          least={-10}
          most={100}
          set={(height_m) => change({ height_m })}
        />
        <i>
          {lengthUnit()} {words.viewSheet.heightWhy}
        </i>
      </Line>
      <Line label={w.points}>
        <Amount
          label={w.points}
          value={drop.bearing_deg ?? null}
          usual={0}
          most={359.99}
          set={(bearing_deg) => change({ bearing_deg })}
        />
        <i>{w.pointsWhy}</i>
      </Line>
      <Line label={w.fed}>
        <Tick label={w.fed} value={drop.over_wifi ?? false} set={(over_wifi) => change({ over_wifi })}>
          {w.overAir}
        </Tick>
      </Line>
      <Looks station={station} signal={signal} />
      {station.bands.map((band) => (
        <OneBand key={band} band={band} station={station} signal={signal} />
      ))}
      <Caution>{w.caution}</Caution>
    </Sheet>
  );
}

/** Moves for its looks, and what each costs of the goals that it changes. */
function Looks({ station, signal }: { station: StationLine; signal: SignalFor }) {
  const { outcome, edit } = useWork();
  const looks = useLooks(station.drop_id);
  const drop = outcome.project.drops.find((one) => one.id === station.drop_id);
  const nameOf = useGoalName();
  const share = (value: number | null | undefined) => figure((value ?? 0) * 100);
  return (
    <Line label={w.looks}>
      <Moves aria-busy={looks === undefined}>
        {looks?.length === 0 && <i>{w.looksNone}</i>}
        {looks?.map((one) => {
          const beside = signal.stations.find((other) => other.drop_id === one.in_line_with)?.name;
          const changed = one.goals.filter((goal) => share(goal.now) !== share(goal.then));
          return (
            <span key={one.look}>
              {w.lookBy(`${w.look[one.look]}${beside ? ` ${beside}` : ""}`, `${length(one.by_m, 1)} ${lengthUnit()}`)}
              {changed.map((goal) => (
                <i key={goal.goal_id} data-lost={goal.met_then === false || undefined}>
                  {w.lookGoal(nameOf(goal.goal_id), share(goal.now), share(goal.then))}
                </i>
              ))}
              <Word
                onPress={() =>
                  drop &&
                  edit({
                    type: "place_drops",
                    places: [{ id: drop.id, room_id: drop.room_id, x_m: one.x_m, y_m: one.y_m }],
                  })
                }
              >
                {w.move}
              </Word>
            </span>
          );
        })}
      </Moves>
    </Line>
  );
}

function OneBand({ band, station, signal }: { band: Band; station: StationLine; signal: SignalFor }) {
  const { outcome } = useWork();
  const sayOf = useSayOfRadio();
  const say = (said: Parameters<typeof sayOf>[2]) => sayOf(station.drop_id, band, said);
  const row = outcome.project.radios?.find((one) => one.drop_id === station.drop_id && one.band === band);
  const radio = station.radios.find((one) => one.band === band);
  const title = w.band(band);
  const width = row?.width_mhz ?? radio?.width_mhz ?? 20;
  const channels = signal.channels.filter((one) => one.band === band && one.width_mhz === width);
  const listed = channels.map(
    (one) => [String(one.channel), `${one.channel}${one.radar ? `, ${w.radar}` : ""}`] as const,
  );
  const stray = row?.channel && !channels.some((one) => one.channel === row.channel) ? [String(row.channel)] : [];
  return (
    <>
      <Line label={title}>
        <Tick label={title} value={row?.on ?? true} set={(on) => say({ on })}>
          {w.on}
        </Tick>
      </Line>
      {radio && (
        <>
          <Line label={w.channel}>
            <Choice
              label={`${w.channel}, ${title}`}
              value={row?.channel ? String(row.channel) : ""}
              options={[["", w.noChannel], ...stray.map((one) => [one, one] as const), ...listed]}
              set={(channel) => say({ channel: channel ? Number(channel) : null })}
            />
            <Choice
              label={`${w.width}, ${title}`}
              value={String(width)}
              options={WIDTHS.filter((one) => signal.channels.some((c) => c.band === band && c.width_mhz === one)).map(
                (one) => [String(one), `${one} MHz`] as const,
              )}
              set={(next) => say({ width_mhz: Number(next) as (typeof WIDTHS)[number] })}
            />
          </Line>
          <Line label={w.power}>
            <Amount
              label={`${w.power}, ${title}`}
              value={row?.power_dbm ?? null}
              usual={radio.usual_power_dbm}
              least={-10}
              most={36}
              set={(power_dbm) => say({ power_dbm })}
            />
            <i>{w.eirp(exact(radio.eirp_dbm))}</i>
          </Line>
          <Line label={w.own}>
            <span>{w.ownIs(figure(radio.associated), figure(radio.demand_mbit), figure(radio.own * 100))}</span>
          </Line>
          <Line label={w.shared}>
            <span>{w.sharedIs(figure(radio.shared * 100), radio.heard.length)}</span>
          </Line>
          {radio.throughput_mbit != null && (
            <Line label={w.speed}>
              <span>{w.speedIs(figure(radio.throughput_mbit))}</span>
            </Line>
          )}
        </>
      )}
    </>
  );
}

/** Every access point; pressing one chooses it. */
export function StationList({ signal }: { signal: SignalFor }) {
  const { outcome, choose } = useWork();
  const roomOf = new Map(outcome.project.drops.map((drop) => [drop.id, drop.room_id]));
  const told = (station: StationLine) =>
    station.radios
      .map((radio) =>
        w.radio(words.signal.bands[radio.band], radio.channel, radio.width_mhz, figure(asked(radio) * 100)),
      )
      .join(" · ");
  return (
    <section aria-label={words.signal.stations}>
      <Heading>
        <h2>{words.signal.stations}</h2>
      </Heading>
      <List>
        {signal.stations.map((station) => (
          <li key={station.drop_id}>
            <button
              type="button"
              onClick={() => choose({ drops: new Set([station.drop_id]), roomId: roomOf.get(station.drop_id) ?? null })}
            >
              <b>{station.name}</b>
              <span>{told(station)}</span>
            </button>
          </li>
        ))}
      </List>
    </section>
  );
}

const List = styled.ul`
  border-top: 1px solid var(--ink);
  li { border-bottom: 1px solid var(--rule); }
  button {
    display: grid; width: 100%; background: none; border: 0; padding: 4px 0; text-align: left; cursor: pointer;
  }
  button:hover { background: var(--earth); }
  b { font-weight: 550; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  span { color: var(--faint); font-stretch: 84%; }
`;
const Moves = styled.span`
  display: grid; gap: 4px; width: 100%;
  > span { display: flex; flex-wrap: wrap; gap: 0 8px; }
  [data-lost] { color: var(--clay); }
`;
