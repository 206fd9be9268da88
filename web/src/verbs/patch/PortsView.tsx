import { useState } from "react";
import styled from "styled-components";
import type { ClosetPatching, Edit, PatchFor, PortLine } from "../../api/client";
import { useChosen, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { SheetWord } from "../../instruments/SheetWord";
import { Choice, Chooser } from "../../kit/Choice";
import { exact, length, lengthUnit, speed } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { Loom, told } from "./Loom";
import { PortTable } from "./PortTable";
import { useNetworks, usePatch, usePatchedCloset, useThreads } from "./usePatch";

const w = words.patch;

/** Which jack is which position is which port: drawn as a loom, listed beside it, and moved as little as can be. */
export function PortsView() {
  const patch = usePatch();
  const { here, pick } = usePatchedCloset(patch);
  const { choose: chooseWith } = useWork();
  const { drops } = useChosen();
  const [end, setEnd] = useState<string | null>(null);
  if (!patch) return null;
  if (!here) return <Empty>{w.nothing}</Empty>;
  const together = here.lines.find((line) => line.drop_id != null && drops.has(line.drop_id));
  const line = here.lines.find((one) => one.key === end) ?? together;
  const choose = (key: string | null) => {
    const next = here.lines.find((one) => one.key === key);
    setEnd(next && next.drop_id == null ? next.key : null);
    chooseWith({ drops: new Set(next?.drop_id != null ? [next.drop_id] : []) });
  };
  const chosen = line?.key ?? null;
  return (
    <Surface>
      <div className="front">
        <Tools patch={patch} here={here} pick={pick} />
        <div className="cloth">
          <Loom here={here} chosen={chosen} choose={choose} />
        </div>
        <Threads patch={patch} />
        <Moves here={here} choose={choose} />
        <Findings verb="patch" />
      </div>
      <div className="list">
        {line && <LineSheet patch={patch} line={line} done={() => choose(null)} />}
        <PortTable here={here} chosen={chosen} choose={choose} />
      </div>
    </Surface>
  );
}

/** Which closet, and what is done with its list. */
function Tools({ patch, here, pick }: { patch: PatchFor; here: ClosetPatching; pick: (closet: number) => void }) {
  const { id, outcome, edit } = useWork();
  const isPlugged = outcome.project.patches?.some((one) => one.closet_id === here.closet_id);
  const hasBoxes = here.faces.some((face) => face.kind !== "panel");
  const cord = here.cord_m ? w.cord(`${length(here.cord_m, 2)} ${lengthUnit()}`, here.cords_unknown) : "";
  return (
    <>
      <div className="tools">
        {patch.closets.length > 1 && (
          <Chooser
            label={w.closet}
            value={String(here.closet_id)}
            options={patch.closets.map((one) => [String(one.closet_id), one.name] as const)}
            set={(next) => pick(Number(next))}
          />
        )}
        {hasBoxes && !isPlugged && <Word onPress={() => edit(here.edit as Edit)}>{w.plug}</Word>}
        {isPlugged && here.moves > 0 && <Word onPress={() => edit(here.edit as Edit)}>{w.moved(here.moves)}</Word>}
        {here.better && <Word onPress={() => edit(here.better?.edit as Edit)}>{w.better(here.better.moves)}</Word>}
        <SheetWord sheet="ports">{w.pdf}</SheetWord>
        <a href={`/api/projects/${id}/patch/ports.csv`}>{words.networks.csv}</a>
        <a href={`/api/projects/${id}/patch/ports.xlsx`}>{words.networks.xlsx}</a>
      </div>
      <p>{hasBoxes ? w.sums(here.hops_mbit, here.idle, cord, here.crossings) || w.hint : w.noBoxes}</p>
    </>
  );
}

/** What has to be moved, and what finds no place. */
function Moves({ here, choose }: { here: ClosetPatching; choose: (key: string) => void }) {
  const { outcome } = useWork();
  const isPlugged = outcome.project.patches?.some((one) => one.closet_id === here.closet_id);
  const moved = here.lines.filter((line) => line.moves);
  const short = new Map(here.faces.map((face) => [face.thing, face.short]));
  const places = (panel: string, position: number | null, box: string, port: string) =>
    [panel && `${short.get(panel) ?? "?"}${position ?? ""}`, box && `${short.get(box) ?? "?"}/${port}`]
      .filter(Boolean)
      .join(" ");
  const wrong = [
    here.unseated.length && w.unseated(here.unseated.length),
    here.without_position.length && w.withoutPosition(here.without_position.length),
    here.unheld.length && w.unheld(here.unheld.length),
  ].filter(Boolean);
  return (
    <section aria-label={w.moves(moved.length)}>
      <Heading>
        <h2>{moved.length ? w.moves(moved.length) : isPlugged ? w.none : w.unplugged}</h2>
        <span>{moved.length ? w.fewest(here.least_moves, here.proven) : isPlugged ? "" : w.plugWhy}</span>
      </Heading>
      <MoveList>
        {moved.map((line) => (
          <li key={line.key}>
            <button type="button" onClick={() => choose(line.key)}>
              {told(line)}
            </button>
            <span>
              {w.was(
                places(line.was_panel, line.was_position ?? null, line.was_box, String(line.was_port ?? "")),
                [line.at_panel, line.at_port].filter(Boolean).join(" "),
              )}
            </span>
          </li>
        ))}
        {wrong.map((text) => (
          <li key={String(text)} data-wrong>
            {text}
          </li>
        ))}
      </MoveList>
    </section>
  );
}

/** How the thread of each network is drawn. */
function Threads({ patch }: { patch: PatchFor }) {
  const networks = useNetworks();
  const dash = useThreads();
  if (!networks.size) return null;
  const counts = new Map<number, number>();
  for (const network of Object.values(patch.homes)) counts.set(network, (counts.get(network) ?? 0) + 1);
  return (
    <Key aria-label={w.threads}>
      {[...networks.values()].map((one) => (
        <li key={one.id}>
          <svg viewBox="0 0 30 8" aria-hidden="true">
            <path d="M1 4H29" strokeDasharray={dash(one.id) || undefined} />
          </svg>
          <b>{one.number}</b> {one.name} <i>{counts.get(one.id) ?? 0}</i>
        </li>
      ))}
    </Key>
  );
}

/** All that is known of a line, and what can be said of it. */
function LineSheet({ patch, line, done }: { patch: PatchFor; line: PortLine; done: () => void }) {
  const { outcome, edit } = useWork();
  const networks = useNetworks();
  const { drop_id: drop } = line;
  const room = outcome.project.rooms.find((one) => one.id === line.room_id);
  const home = patch.homes[String(drop)];
  const said = [...networks.values()].find((one) => drop != null && one.drop_ids?.includes(drop));
  const carried = line.tagged.map((one) => networks.get(one)?.number).filter((one) => one != null);
  return (
    <Sheet aria-label={told(line)}>
      <Heading>
        <h2>{told(line)}</h2>
        <Word onPress={done}>{w.close}</Word>
      </Heading>
      {room && <Line label={w.room}>{room.name}</Line>}
      {line.run_m != null && <Line label={w.run}>{`${length(line.run_m)} ${lengthUnit()}`}</Line>}
      {line.speed_mbit != null && (
        <Line label={w.gives}>
          {speed(line.speed_mbit)}, {line.poe_class == null ? w.noPoe : w.poe(line.poe_class)}
        </Line>
      )}
      {line.watts > 0 && <Line label={w.takes}>{exact(line.watts)} W</Line>}
      {line.injector && <Line label={w.injector}>{line.injector}</Line>}
      {drop != null && networks.size > 0 && (
        <Line label={w.network}>
          <Choice<string>
            label={w.network}
            value={said ? String(said.id) : ""}
            options={[
              ["", said ? w.asKind("") : w.asKind(networks.get(home ?? -1)?.name ?? "")],
              ...[...networks.values()].map((one) => [String(one.id), `${one.number} ${one.name}`] as const),
            ]}
            set={(next) =>
              edit({ type: "move_to_network", drop_ids: [drop], network_id: next === "" ? null : Number(next) })
            }
          />
        </Line>
      )}
      {carried.length > 0 && <Line label={w.carries}>{words.networks.tagged(carried.join(", "))}</Line>}
      {drop != null && line.port != null && (
        <div className="acts">
          {line.fixed ? (
            <Word onPress={() => edit({ type: "pin_cord", drop_id: drop, fixed: false })}>{w.let}</Word>
          ) : (
            <Word
              onPress={() =>
                edit({
                  type: "pin_cord",
                  drop_id: drop,
                  fixed: true,
                  box: line.box,
                  port: line.port,
                  ...(line.panel ? { panel: line.panel, position: line.position } : {}),
                })
              }
            >
              {w.pin}
            </Word>
          )}
        </div>
      )}
    </Sheet>
  );
}

const Empty = styled.p`padding: 20px 16px; color: var(--faint); font: 16px var(--voice);`;
const Surface = styled.div`
  display: grid; grid-template-columns: minmax(0, 1.28fr) minmax(0, 1fr); height: 100%; min-height: 0;
  > .front { display: grid; gap: 8px; align-content: start; grid-auto-rows: max-content; padding: 6px 16px 16px; overflow: auto; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  > .front > p { color: var(--faint); }
  > .list { border-left: 1px solid var(--rule); padding: 0 16px 12px; overflow: auto; margin-top: -28px; }
  > .list > section { padding: 8px 0 12px; }
  .tools { display: flex; gap: 4px 16px; align-items: baseline; flex-wrap: wrap; }
  .cloth { overflow-x: auto; }
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr); height: auto;
    > .list { border-left: 0; border-top: 1px solid var(--rule); margin-top: 0; }
  }
`;
const Key = styled.ul`
  display: flex; flex-wrap: wrap; gap: 2px 18px;
  li { white-space: nowrap; }
  svg { width: 30px; height: 8px; vertical-align: 1px; }
  path { stroke: var(--ink); stroke-width: 1.4; fill: none; }
  b { font-weight: 600; }
  i { font-style: normal; color: var(--faint); }
`;
const MoveList = styled.ul`
  border-top: 1px solid var(--ink);
  li { display: flex; justify-content: space-between; gap: 14px; padding: 2px 0; border-bottom: 1px solid var(--rule); }
  li[data-wrong] { color: var(--clay); font: 15px/1.35 var(--voice); }
  button { background: none; border: 0; padding: 0; cursor: pointer; text-align: left; }
  button:hover { text-decoration: underline; }
  span { color: var(--ochre); white-space: nowrap; }
`;
