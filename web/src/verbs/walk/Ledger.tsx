import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import type { Drop, DropChanges } from "../../api/client";
import { useWork } from "../../api/work";
import { Amount, Choice, Text } from "../../kit/fields";
import { speed } from "../../kit/figures";
import { Heading, Tick, Word } from "../../kit/parts";
import { words } from "../../words";

const w = words.ledger;
const ROW = 26;
const SPEEDS = [100, 1000, 2500, 5000, 10000];
const CLASSES = [0, 1, 2, 3, 4, 5, 6, 7, 8];
const CATEGORIES = ["5", "5e", "6", "6A"];
const ROWS_SHOWN = 12;

/** One line a drop, edited in place; chosen lines change together. */
export function Ledger() {
  const { outcome, chosen, choose, edit, kinds } = useWork();
  const { rooms, drops } = outcome.project;
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set());
  const scroll = useRef<HTMLElement>(null);
  const room = rooms.find((candidate) => candidate.id === chosen.roomId);

  useEffect(() => {
    if (chosen.drops.size) setTicked(chosen.drops);
  }, [chosen.drops]);
  const lines = useMemo(() => {
    const place = new Map(rooms.map((candidate, index) => [candidate.id, index]));
    const order = new Map(kinds.map((kind, index) => [kind.key, index]));
    return [...drops].sort(
      (a, b) =>
        (place.get(a.room_id) ?? 0) - (place.get(b.room_id) ?? 0) ||
        (order.get(a.kind) ?? 0) - (order.get(b.kind) ?? 0) ||
        a.id - b.id,
    );
  }, [rooms, drops, kinds]);
  const numbers = useMemo(() => numbered(lines), [lines]);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const first = lines.findIndex((drop) => drop.room_id === room?.id && (!chosen.kind || drop.kind === chosen.kind));
  const target = first >= 0 ? first : lines.findIndex((drop) => drop.room_id === room?.id);
  useEffect(() => {
    if (target >= 0) rows.scrollToIndex(target, { align: "start" });
  }, [target, rows]);
  const here = useMemo(() => new Set(drops.map((drop) => drop.id)), [drops]);
  const together = [...ticked].filter((id) => here.has(id));
  const change = (drop: Drop, changes: DropChanges) => {
    const ids = together.length > 1 && ticked.has(drop.id) ? together : [drop.id];
    return edit({ type: "change_drops", ids, changes });
  };
  const tick = (id: number) =>
    setTicked((now) => {
      const next = new Set(now);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const names = new Map(rooms.map((candidate) => [candidate.id, candidate.name]));
  const kindNames = new Map(kinds.map((kind) => [kind.key, kind.name]));
  const c = w.columns;
  return (
    <section aria-label={w.title}>
      <Heading>
        <h2>{w.title}</h2>
        <span>
          {room ? `${w.from(room.name)} · ${w.summary}` : w.summary}
          {together.length > 1 && ` · ${w.chosen(together.length)}`}
        </span>
        <div>
          {together.length > 0 && (
            <Word
              onPress={() => {
                edit({ type: "remove_drops", ids: together });
                setTicked(new Set());
                choose({ drops: new Set() });
              }}
            >
              {w.remove(together.length)}
            </Word>
          )}
        </div>
      </Heading>
      <Paper>
        <Head aria-hidden="true">
          <span />
          <span>{c.room}</span>
          <span className="r">{c.no}</span>
          <span>{c.kind}</span>
          <span>{c.label}</span>
          <span>{c.place}</span>
          <span>{c.speed}</span>
          <span>{c.poe}</span>
          <span className="r">{c.draw}</span>
          <span className="r">{c.run}</span>
          <span>{c.category}</span>
          <span>{c.jacket}</span>
          <span>{c.use}</span>
        </Head>
        {lines.length === 0 && <p>{w.none}</p>}
        <section
          ref={scroll}
          className="scroll"
          aria-label={w.lines}
          tabIndex={lines.length > ROWS_SHOWN ? 0 : undefined}
          style={{ height: Math.min(lines.length, ROWS_SHOWN) * ROW }}
        >
          <ul style={{ height: rows.getTotalSize() }}>
            {rows.getVirtualItems().map((item) => {
              const drop = lines[item.index];
              if (!drop) return null;
              const name = `${kindNames.get(drop.kind)} ${numbers.get(drop.id)}, ${names.get(drop.room_id)}`;
              const lit = ticked.has(drop.id) || (drop.room_id === chosen.roomId && drop.kind === chosen.kind);
              return (
                <li key={drop.id} data-lit={lit || undefined} style={{ transform: `translateY(${item.start}px)` }}>
                  <input
                    type="checkbox"
                    aria-label={w.choose(name)}
                    checked={ticked.has(drop.id)}
                    onChange={() => tick(drop.id)}
                  />
                  <span title={names.get(drop.room_id)}>{names.get(drop.room_id)}</span>
                  <span className="r">{numbers.get(drop.id)}</span>
                  <span>{kindNames.get(drop.kind)}</span>
                  <Text label={`${c.label}: ${name}`} value={drop.label} set={(label) => change(drop, { label })} />
                  <Text label={`${c.place}: ${name}`} value={drop.place} set={(place) => change(drop, { place })} />
                  <Choice
                    label={`${c.speed}: ${name}`}
                    value={String(drop.speed_mbit)}
                    options={SPEEDS.map((value) => [String(value), speed(value)])}
                    set={(value) => change(drop, { speed_mbit: Number(value) as Drop["speed_mbit"] })}
                  />
                  <Choice
                    label={`${c.poe}: ${name}`}
                    value={drop.poe_class == null ? "" : String(drop.poe_class)}
                    options={[["", "–"], ...CLASSES.map((value): [string, string] => [String(value), `cl. ${value}`])]}
                    set={(value) => change(drop, { poe_class: value === "" ? null : Number(value) })}
                    powered={drop.poe_class != null}
                  />
                  <Amount
                    label={`${c.draw}: ${name}`}
                    value={drop.poe_class == null && !drop.draw_w ? null : drop.draw_w}
                    set={(value) => change(drop, { draw_w: value ?? 0 })}
                    powered={drop.poe_class != null}
                  />
                  <Amount
                    label={`${c.run}: ${name}`}
                    value={drop.run_m ?? null}
                    usual={kinds.find((kind) => kind.key === drop.kind)?.run_m}
                    metres
                    set={(value) => change(drop, { run_m: value })}
                  />
                  <Choice
                    label={`${c.category}: ${name}`}
                    value={drop.category}
                    options={CATEGORIES.map((value) => [value, value])}
                    set={(value) => change(drop, { category: value as Drop["category"] })}
                  />
                  <Choice
                    label={`${c.jacket}: ${name}`}
                    value={drop.outdoor_jacket ? "out" : "in"}
                    options={[
                      ["in", w.indoor],
                      ["out", w.outdoor],
                    ]}
                    set={(value) => change(drop, { outdoor_jacket: value === "out" })}
                  />
                  <Tick label={`${c.use}: ${name}`} value={drop.in_use} set={(in_use) => change(drop, { in_use })} />
                </li>
              );
            })}
          </ul>
        </section>
      </Paper>
    </section>
  );
}

/** Running number of each drop among those of its kind in its room. */
function numbered(lines: readonly Drop[]): Map<number, number> {
  const seen = new Map<string, number>();
  const numbers = new Map<number, number>();
  for (const drop of lines) {
    const key = `${drop.room_id}-${drop.kind}`;
    const number = (seen.get(key) ?? 0) + 1;
    seen.set(key, number);
    numbers.set(drop.id, number);
  }
  return numbers;
}

const COLUMNS =
  "22px minmax(86px,1.2fr) 24px minmax(84px,1fr) minmax(70px,1.3fr) minmax(54px,.8fr) 58px 52px 52px 50px 44px 72px 42px";

const Head = styled.div`
  display: grid; grid-template-columns: ${COLUMNS}; gap: 0 6px; font-size: 12.5px; font-stretch: 82%; color: var(--faint);
  border-bottom: 1px solid var(--ink); padding: 3px 0; min-width: 760px;
  .r { text-align: right; padding-right: 3px; }
`;

const Paper = styled.div`
  overflow-x: auto;
  > p { font: 15px var(--voice); color: var(--faint); padding: 10px 2px; }
  .scroll { overflow: hidden auto; min-width: 760px; scrollbar-width: thin; }
  ul { position: relative; }
  li {
    position: absolute; left: 0; right: 0; height: ${ROW}px; display: grid; grid-template-columns: ${COLUMNS}; gap: 0 6px;
    align-items: center; border-bottom: 1px solid var(--rule);
  }
  li[data-lit] { background: var(--earth); font-weight: 550; }
  li > span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  .r { text-align: right; }
  input:not([type="checkbox"]), select {
    background: none; border: 0; border-radius: 0; padding: 2px; width: 100%; min-width: 0; appearance: none;
    text-overflow: ellipsis;
  }
  option { background: var(--sheet); color: var(--ink); }
  input:hover, select:hover { box-shadow: inset 0 -1px 0 var(--faint); }
  input::placeholder { color: var(--faint); opacity: 1; }
  input[type="checkbox"] { accent-color: var(--clay); justify-self: center; margin: 0; }
  [data-power] { color: var(--clay); font-weight: 600; }
  [aria-invalid] { color: var(--clay); text-decoration: underline wavy; }
`;
