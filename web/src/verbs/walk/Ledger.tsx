import { useVirtualizer } from "@tanstack/react-virtual";
import { type ClipboardEvent, type CSSProperties, useCallback, useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import type { Drop, DropChanges } from "../../api/client";
import { useChosen, useWork } from "../../api/work";
import { ChoiceButton, Chooser } from "../../kit/Choice";
import { Field, Heading, Word } from "../../kit/parts";
import { useHeightLeft } from "../../kit/useHeightLeft";
import { words } from "../../words";
import { columnOf } from "./columns";
import { type Acts, LedgerLine } from "./LedgerLine";
import { changesOf, LEDGER_COLUMNS, pastedBlock } from "./ledgerColumns";

const w = words.ledger;
const ROW = 26;
const ROWS_LEAST = 12;
const MOST_PASTED = 500;
const GROUPS = ["none", "room", "kind", "floor"] as const;

type Line = { drop: Drop } | { head: string; count: number };

/** One line a drop, edited in place; sorted, filtered, grouped; chosen lines change together. */
export function Ledger() {
  const { outcome, edit, say, kinds, choose } = useWork();
  const chosen = useChosen();
  const { rooms, drops, floors, own_kinds: ownKinds } = outcome.project;
  const [filter, setFilter] = useState("");
  const [sort, setSort] = useState<{ key: string; down: boolean } | null>(null);
  const [group, setGroup] = useState<(typeof GROUPS)[number]>("none");
  const scroll = useRef<HTMLTableSectionElement>(null);
  const height = useHeightLeft(scroll, ROWS_LEAST * ROW);
  const lastTicked = useRef<number | null>(null);
  const ticked = chosen.drops;
  const room = rooms.find((candidate) => candidate.id === chosen.roomId);

  const names = useMemo(() => new Map(rooms.map((one) => [one.id, one.name])), [rooms]);
  const kindNames = useMemo(() => new Map(kinds.map((kind) => [kind.key, kind.name])), [kinds]);
  const ownNames = useMemo(() => new Map(ownKinds.map((own) => [own.id, own.name])), [ownKinds]);
  const inOrder = useMemo(() => {
    const place = new Map(rooms.map((candidate, index) => [candidate.id, index]));
    const order = new Map(kinds.map((kind, index) => [kind.key, index]));
    return [...drops].sort(
      (a, b) =>
        (place.get(a.room_id) ?? 0) - (place.get(b.room_id) ?? 0) ||
        (order.get(a.kind) ?? 0) - (order.get(b.kind) ?? 0) ||
        a.id - b.id,
    );
  }, [rooms, drops, kinds]);
  const lengths = outcome.balance.run_m;
  const numbers = useMemo(() => numbered(inOrder), [inOrder]);
  const what = useCallback(
    (drop: Drop) => ownNames.get(drop.own_kind_id ?? 0) ?? kindNames.get(drop.kind) ?? drop.kind,
    [ownNames, kindNames],
  );
  const shown = useMemo(() => {
    const wanted = filter.trim().toLowerCase().split(/\s+/).filter(Boolean);
    const found = inOrder.filter((drop) => {
      const text = `${names.get(drop.room_id)} ${what(drop)} ${drop.label} ${drop.place} ${drop.purpose}`.toLowerCase();
      return wanted.every((word) => text.includes(word));
    });
    const column = LEDGER_COLUMNS.find((one) => one.key === sort?.key);
    const byRun = (drop: Drop) => lengths[drop.id] ?? -1;
    const order = sort?.key === "run_m" ? byRun : (column?.order ?? (sort?.key === "kind" ? what : undefined));
    if (!order || !sort) return sort?.key === "room" && sort.down ? found.reverse() : found;
    const way = sort.down ? -1 : 1;
    return found.sort((a, b) => (order(a) < order(b) ? -way : order(a) > order(b) ? way : 0));
  }, [inOrder, filter, sort, names, what, lengths]);
  const lines = useMemo((): Line[] => {
    if (group === "none") return shown.map((drop) => ({ drop }));
    const floorOf = new Map(
      rooms.map((one) => [one.id, floors.find((floor) => floor.id === one.floor_id)?.name ?? ""]),
    );
    const key = (drop: Drop) =>
      (group === "room" ? names.get(drop.room_id) : group === "kind" ? what(drop) : floorOf.get(drop.room_id)) ?? "";
    const groups = new Map<string, Drop[]>();
    for (const drop of shown) groups.set(key(drop), [...(groups.get(key(drop)) ?? []), drop]);
    return [...groups].flatMap(([head, some]): Line[] => [
      { head, count: some.length },
      ...some.map((drop) => ({ drop })),
    ]);
  }, [shown, group, rooms, floors, names, what]);
  const flat = useMemo(() => lines.flatMap((line) => ("drop" in line ? [line.drop] : [])), [lines]);

  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const isHere = (line: Line, kind: string | null) =>
    "drop" in line && line.drop.room_id === room?.id && (!kind || columnOf(line.drop) === kind);
  const first = lines.findIndex((line) => isHere(line, chosen.kind));
  const target = first >= 0 ? first : lines.findIndex((line) => isHere(line, null));
  useEffect(() => {
    if (target >= 0) rows.scrollToIndex(target, { align: "start" });
  }, [target, rows]);

  const together = flat.filter((drop) => ticked.has(drop.id)).map((drop) => drop.id);
  const change = (drop: Drop, changes: DropChanges) => {
    const ids = together.length > 1 && ticked.has(drop.id) ? together : [drop.id];
    return edit({ type: "change_drops", ids, changes });
  };
  const tick = (id: number, range: boolean) => {
    const next = new Set(ticked);
    const from = flat.findIndex((drop) => drop.id === lastTicked.current);
    const to = flat.findIndex((drop) => drop.id === id);
    if (range && from >= 0) {
      for (const drop of flat.slice(Math.min(from, to), Math.max(from, to) + 1)) next.add(drop.id);
    } else if (!next.delete(id)) {
      next.add(id);
    }
    lastTicked.current = id;
    choose({ drops: next });
  };
  const paste = (event: ClipboardEvent, drop: Drop, column: number) => {
    const text = event.clipboardData.getData("text/plain");
    if (!/[\t\n]/.test(text.trimEnd())) return;
    event.preventDefault();
    const block = pastedBlock(text);
    const found = changesOf(block, flat, flat.indexOf(drop), column);
    if ("odd" in found) say(found.odd);
    else if (found.edits.length > MOST_PASTED) say(w.pastedMany(found.edits.length, MOST_PASTED));
    else {
      edit(...found.edits.map(({ id, changes }) => ({ type: "change_drops" as const, ids: [id], changes })));
      choose({ drops: new Set(found.edits.map(({ id }) => id)) });
    }
  };
  const acts = useRef<Acts>({ tick, change, paste });
  acts.current = { tick, change, paste };
  const c = w.columns;
  const sorted = (key: string) => (sort?.key === key ? (sort.down ? "descending" : "ascending") : undefined);
  const head = (key: string, text: string, right = false) => (
    <th key={key} scope="col" aria-sort={sorted(key) ?? "none"}>
      <button
        type="button"
        className={right ? "r" : undefined}
        aria-label={w.sortBy(text, sorted(key))}
        data-sorted={sorted(key)}
        onClick={() =>
          setSort((now) => (now?.key !== key ? { key, down: false } : now.down ? null : { key, down: true }))
        }
      >
        {text}
      </button>
    </th>
  );
  return (
    <section aria-label={w.title}>
      <Heading>
        <h2>{w.title}</h2>
        <span>
          {room ? `${w.from(room.name)} · ${w.summary}` : w.summary}
          {together.length > 1 && ` · ${w.chosen(together.length)}`}
        </span>
        <Tools>
          {together.length > 0 && (
            <Word
              onPress={() => {
                edit({ type: "remove_drops", ids: together });
                choose({ drops: new Set() });
              }}
            >
              {w.remove(together.length)}
            </Word>
          )}
          {shown.length > 0 && (filter || together.length > 0) && together.length < shown.length && (
            <Word onPress={() => choose({ drops: new Set(shown.map((drop) => drop.id)) })}>{w.all(shown.length)}</Word>
          )}
          {together.length > 0 && <Word onPress={() => choose({ drops: new Set() })}>{w.noneOf}</Word>}
          <Chooser label={w.group} value={group} options={GROUPS.map((key) => [key, w.groups[key]])} set={setGroup} />
          <Field
            aria-label={w.filter}
            placeholder={w.filterPlaceholder}
            value={filter}
            onChange={(event) => setFilter(event.target.value)}
            onKeyDown={(event) => event.key === "Escape" && setFilter("")}
          />
        </Tools>
      </Heading>
      <Paper aria-label={w.lines} aria-rowcount={lines.length + 1} aria-colcount={COLUMN_COUNT}>
        <Head>
          <tr aria-rowindex={1}>
            <td />
            {head("room", c.room)}
            <th scope="col" className="r">
              {c.no}
            </th>
            {head("kind", c.kind)}
            {LEDGER_COLUMNS.map((column) =>
              head(column.key, column.head, column.key === "draw_w" || column.key === "run_m"),
            )}
          </tr>
        </Head>
        <tbody
          ref={scroll}
          className="scroll"
          tabIndex={lines.length * ROW > height ? 0 : undefined}
          style={
            { height: Math.min(lines.length * ROW, height), "--whole": `${rows.getTotalSize()}px` } as CSSProperties
          }
        >
          {rows.getVirtualItems().map((item) => {
            const line = lines[item.index];
            if (!line) return null;
            const at = { transform: `translateY(${item.start}px)` };
            if ("head" in line) {
              return (
                <tr key={`head-${line.head}`} aria-rowindex={item.index + 2} className="group" style={at}>
                  <td colSpan={COLUMN_COUNT}>
                    {line.head} <i>{w.drops(line.count)}</i>
                  </td>
                </tr>
              );
            }
            const { drop } = line;
            const name = `${what(drop)} ${numbers.get(drop.id)}, ${names.get(drop.room_id)}`;
            const lit = ticked.has(drop.id) || (drop.room_id === chosen.roomId && columnOf(drop) === chosen.kind);
            return (
              <LedgerLine
                key={drop.id}
                drop={drop}
                name={name}
                room={names.get(drop.room_id) ?? ""}
                number={numbers.get(drop.id) ?? 0}
                what={what(drop)}
                usualRun={lengths[drop.id]}
                lit={lit}
                ticked={ticked.has(drop.id)}
                top={item.start}
                index={item.index}
                acts={acts}
              />
            );
          })}
        </tbody>
      </Paper>
      {drops.length === 0 && <None>{w.none}</None>}
      {drops.length > 0 && shown.length === 0 && <None>{w.noneSuch(filter)}</None>}
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

const None = styled.p`
  font: 15px var(--voice); color: var(--faint); padding: 10px 2px;
`;

const Tools = styled.div`
  display: flex; flex-wrap: wrap; gap: 2px 12px; align-items: baseline; justify-content: flex-end;
  input { width: 120px; padding: 0 2px; }
`;

const COLUMNS =
  "22px minmax(86px,1.2fr) 24px minmax(84px,1fr) minmax(70px,1.3fr) minmax(54px,.8fr) 58px 52px 52px 50px 44px 72px 42px";

const COLUMN_COUNT = COLUMNS.split(/ (?![^(]*\))/).length;

const Head = styled.thead`
  display: block; min-width: 760px; border-bottom: 1px solid var(--ink); padding: 3px 0;
  tr { display: grid; grid-template-columns: ${COLUMNS}; gap: 0 6px; font-size: 12.5px; font-stretch: 82%; color: var(--faint); }
  th { font-weight: 400; text-align: left; min-width: 0; padding: 0; }
  .r { text-align: right; padding-right: 3px; }
  button { background: none; border: 0; padding: 0; cursor: pointer; color: inherit; text-align: left; white-space: nowrap; width: 100%; overflow: hidden; }
  button.r { text-align: right; }
  button:hover { color: var(--ink); }
  [data-sorted] { color: var(--ink); font-weight: 650; }
  [data-sorted="ascending"]::after { content: " ↑"; }
  [data-sorted="descending"]::after { content: " ↓"; }
`;

const Paper = styled.table`
  display: block; overflow-x: auto;
  /* a root of its own for layout: lines that come into sight leave the tally alone */
  .scroll { display: block; position: relative; contain: strict; overflow: hidden auto; min-width: 760px; scrollbar-width: thin; }
  .scroll::after { content: ""; display: block; height: var(--whole); }
  .scroll tr {
    position: absolute; left: 0; right: 0; height: ${ROW}px; display: grid; grid-template-columns: ${COLUMNS}; gap: 0 6px;
    align-items: center; border-bottom: 1px solid var(--rule);
  }
  .scroll [data-lit] { background: var(--earth); font-weight: 550; }
  .scroll tr.group { display: block; font-weight: 650; padding: 5px 2px 0; border-bottom: 1px solid var(--ink); }
  .group i { font-style: normal; font-weight: 400; color: var(--faint); margin-left: 6px; }
  td { min-width: 0; padding: 0; }
  td[title] { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  .r { text-align: right; }
  input:not([type="checkbox"]), ${ChoiceButton} {
    background: none; border: 0; border-radius: 0; padding: 2px; width: 100%; min-width: 0; text-overflow: ellipsis;
  }
  input:hover, ${ChoiceButton}:hover { box-shadow: inset 0 -1px 0 var(--faint); }
  input::placeholder { color: var(--faint); opacity: 1; }
  [data-power] { color: var(--clay); font-weight: 600; }
  [aria-invalid] { color: var(--clay); text-decoration: underline wavy; }
`;
