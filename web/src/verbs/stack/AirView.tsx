import styled from "styled-components";
import { changeIn, type Values } from "../../api/edits";
import { useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { Choice, Chooser, optionsOf } from "../../kit/Choice";
import { Amount } from "../../kit/fields";
import { exact, figure } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { Tick } from "../../kit/Tick";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { CoverPage } from "../cover/page";
import { Care } from "./ClosetView";
import { useCloset, useStack } from "./useStack";

const w = words.air;

/** What a closet always has: emptied, it is as usual again. */
const ALWAYS: ReadonlySet<string> = new Set(["near_m", "cord_space_mm", "amperes_most"]);

/** How warm and how loud a closet gets, and what is plugged in where. */
export function AirView() {
  const { outcome, edit } = useWork();
  const stack = useStack();
  const { closet, here, pick } = useCloset(stack);
  if (!closet || !here) return null;
  const { warmth, noise, mains } = here;
  const set = (values: Values<"closets">) => edit(changeIn("closets", closet.id, values));
  const amount = (
    label: string,
    key: "warm_c" | "near_m" | "cord_space_mm" | "front_mm" | "behind_mm" | "amperes_most",
    usual?: number,
    least = 0,
    most = 10000,
  ) => (
    <Amount
      label={label}
      value={closet[key] ?? null}
      usual={usual}
      least={least}
      most={most}
      set={(value) => set({ [key]: value ?? (ALWAYS.has(key) ? usual : null) })}
    />
  );
  return (
    <CoverPage>
      <div>
        {outcome.project.closets.length > 1 && (
          <Chooser
            label={words.stack.closet}
            value={String(closet.id)}
            options={outcome.project.closets.map((one) => [String(one.id), one.name] as const)}
            set={(next) => pick(Number(next))}
          />
        )}
        <Three>
          <Sheet aria-label={w.warmth}>
            <Heading>
              <h2>{w.warmth}</h2>
            </Heading>
            <Line label={w.heat}>
              <span>{w.heatIs(figure(warmth.heat_w), figure(warmth.btu_h))}</span>
            </Line>
            <Line label={w.room}>
              {amount(w.room, "warm_c", warmth.room_c, -20, 60)}
              <i>{w.roomWhy}</i>
            </Line>
            <Line label={w.area}>
              <span>{w.areaIs(exact(warmth.area_m2))}</span>
            </Line>
            <Line label={w.sides}>
              <Choice
                label={w.sides}
                value={String(closet.free_sides ?? 2)}
                options={["0", "1", "2"].map((n) => [n, n] as const)}
                set={(n) => set({ free_sides: Number(n) })}
              />
              <i>{w.sidesWhy}</i>
            </Line>
            <Line label={w.open}>
              <Tick label={w.open} value={closet.is_open ?? false} set={(is_open) => set({ is_open })}>
                {w.openWhy}
              </Tick>
            </Line>
            <Line label={w.fans}>
              <span>{w.fansIs(exact(warmth.fans_m3_h))}</span>
            </Line>
            <Line label={w.top}>
              <Told data-short={!warmth.holds || undefined}>{w.topIs(exact(warmth.top_c), exact(warmth.rise_k))}</Told>
            </Line>
            <Line label={w.bears}>
              <span>{w.bearsIs(exact(warmth.bears_c), warmth.weakest)}</span>
            </Line>
            {warmth.air_needed_m3_h > 0 && (
              <Line label={w.needs}>
                <span>{w.needsIs(figure(warmth.air_needed_m3_h))}</span>
              </Line>
            )}
            {here.helps.map((help) => (
              <Line key={help.what} label={w.with}>
                <Told data-short={!help.holds || undefined}>{w.withIs(help.what, exact(help.top_c))}</Told>
              </Line>
            ))}
            {warmth.hottest && (
              <Line label={w.sensor}>
                <span>{w.sensorIs(warmth.hottest, warmth.by_sensor)}</span>
              </Line>
            )}
          </Sheet>
          <Sheet aria-label={w.noise}>
            <Heading>
              <h2>{w.noise}</h2>
            </Heading>
            <Line label={w.near}>
              <Choice
                label={w.near}
                value={closet.near ?? ""}
                options={optionsOf(w.nears)}
                set={(near) => set({ near })}
              />
            </Line>
            <Line label={w.away}>
              {amount(w.away, "near_m", 3, 0, 100)}
              <i>m</i>
            </Line>
            <Line label={w.through}>
              <Choice
                label={w.through}
                value={closet.through ?? "door"}
                options={optionsOf(w.throughs)}
                set={(through) => set({ through })}
              />
            </Line>
            <Line label={w.heard}>
              <Told data-short={!noise.holds || undefined}>
                {noise.heard_dba == null
                  ? w.silent
                  : w.heardIs(
                      exact(Math.round(noise.heard_dba * 10) / 10),
                      noise.limit_dba == null ? "" : exact(noise.limit_dba),
                    )}
              </Told>
            </Line>
            {noise.parts.map((part) => (
              <Line key={part.name} label={`${exact(part.dba)} dB(A)`}>
                <span>{part.name}</span>
              </Line>
            ))}
          </Sheet>
          <Sheet aria-label={w.mains}>
            <Heading>
              <h2>{w.mains}</h2>
            </Heading>
            <Line label={w.sockets}>
              <Told data-short={mains.sockets > mains.there || undefined}>
                {w.socketsIs(mains.sockets, mains.there)}
              </Told>
            </Line>
            <Line label={w.battery}>
              <Told
                data-short={(mains.battery_outlets != null && mains.battery_plugs > mains.battery_outlets) || undefined}
              >
                {mains.battery_outlets == null ? w.noBattery : w.batteryIs(mains.battery_plugs, mains.battery_outlets)}
              </Told>
            </Line>
            <Line label={w.batteryFor}>
              <Choice
                label={w.batteryFor}
                value={closet.battery_for ?? "all"}
                options={optionsOf(w.batteryFors)}
                set={(battery_for) => set({ battery_for })}
              />
            </Line>
            <Line label={w.draw}>
              <Told data-short={mains.amperes > mains.amperes_most || undefined}>
                {w.drawIs(
                  figure(mains.mains_w),
                  figure(mains.va),
                  exact(Math.round(mains.amperes * 100) / 100),
                  exact(mains.amperes_most),
                )}
              </Told>
            </Line>
            <Line label={w.most}>
              {amount(w.most, "amperes_most", 10, 0.1, 63)}
              <i>A {w.mostWhy}</i>
            </Line>
            {mains.strips.map((strip) => (
              <Line key={strip.key} label={strip.name}>
                <Told data-short={!strip.holds || undefined}>
                  {w.stripIs(
                    strip.sockets,
                    strip.there,
                    figure(strip.mains_w),
                    exact(Math.round(strip.amperes * 100) / 100),
                    strip.assumed,
                  )}
                </Told>
              </Line>
            ))}
            <Line label={w.cords}>
              {amount(w.cords, "cord_space_mm", 60, 0, 500)}
              <i>mm {w.cordsWhy}</i>
            </Line>
            <Line label={w.before}>
              {amount(w.before, "front_mm")}
              <i>mm</i>
            </Line>
            <Line label={w.behind}>
              {amount(w.behind, "behind_mm")}
              <i>mm</i>
            </Line>
            <Care>{w.caution}</Care>
          </Sheet>
        </Three>
      </div>
      <div>
        <Findings verb="stack" />
      </div>
    </CoverPage>
  );
}

const Three = styled.div`
  display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)); gap: 26px; align-items: start;
  ${NARROW} { grid-template-columns: minmax(0, 1fr); }
`;
const Told = styled.span`&[data-short] { color: var(--clay); }`;
