import type { Drop, DropChanges } from "../../api/client";
import { speed, toMetres, typedFigure } from "../../kit/figures";
import { words } from "../../words";

const c = words.ledger.columns;

export const SPEEDS = [100, 1000, 2500, 5000, 10000] as const;
export const CLASSES = [0, 1, 2, 3, 4, 5, 6, 7, 8] as const;
export const CATEGORIES = ["5", "5e", "6", "6A"] as const;

/** A column of the ledger that can be written: how lines are sorted by it, and how a pasted cell is read. */
export interface LedgerColumn {
  key: keyof DropChanges & keyof Drop;
  head: string;
  order: (drop: Drop) => string | number;
  /** The change that a pasted text means; null when it cannot be read. */
  read: (text: string) => DropChanges | null;
}

const yes = /^(yes|y|true|1|x|outdoor)$/i;
const no = /^(no|n|false|0|indoor|)$/i;
const flag = (text: string) => (yes.test(text) ? true : no.test(text) ? false : null);
const number = (text: string) => {
  const value = typedFigure(text.replace(/\s*(w|m|ft)$/i, ""));
  return text.trim() !== "" && Number.isFinite(value) && value >= 0 ? value : null;
};

export const LEDGER_COLUMNS: readonly LedgerColumn[] = [
  { key: "label", head: c.label, order: (drop) => drop.label.toLowerCase(), read: (label) => ({ label }) },
  { key: "place", head: c.place, order: (drop) => drop.place.toLowerCase(), read: (place) => ({ place }) },
  {
    key: "speed_mbit",
    head: c.speed,
    order: (drop) => drop.speed_mbit,
    read: (text) => {
      const bare = text.toLowerCase().replace(/\s|bit|\/s/g, "");
      const found = SPEEDS.find((value) => [String(value), speed(value).toLowerCase().replace(" ", "")].includes(bare));
      return found ? { speed_mbit: found } : null;
    },
  },
  {
    key: "poe_class",
    head: c.poe,
    order: (drop) => drop.poe_class ?? -1,
    read: (text) => {
      const bare = text.toLowerCase().replace(/class|cl\.?|\s/g, "");
      if (bare === "" || bare === "–" || bare === "-") return { poe_class: null };
      const named = { af: 3, at: 4 }[bare] ?? Number(bare);
      return CLASSES.includes(named as 0) ? { poe_class: named } : null;
    },
  },
  {
    key: "draw_w",
    head: c.draw,
    order: (drop) => drop.draw_w,
    read: (text) => {
      const value = text.trim() === "" ? 0 : number(text);
      return value === null || value > 100 ? null : { draw_w: value };
    },
  },
  {
    key: "run_m",
    head: c.run,
    order: (drop) => drop.run_m ?? -1,
    read: (text) => {
      if (text.trim() === "") return { run_m: null };
      const value = number(text);
      return value ? { run_m: toMetres(value) } : null;
    },
  },
  {
    key: "category",
    head: c.category,
    order: (drop) => CATEGORIES.indexOf(drop.category),
    read: (text) => {
      const bare = text.toLowerCase().replace(/cat\.?|\s/g, "");
      const found = CATEGORIES.find((value) => value.toLowerCase() === bare);
      return found ? { category: found } : null;
    },
  },
  {
    key: "outdoor_jacket",
    head: c.jacket,
    order: (drop) => Number(drop.outdoor_jacket),
    read: (text) => {
      const value = flag(text.trim());
      return value === null ? null : { outdoor_jacket: value };
    },
  },
  {
    key: "in_use",
    head: c.use,
    order: (drop) => Number(drop.in_use),
    read: (text) => {
      const value = flag(text.trim());
      return value === null ? null : { in_use: value };
    },
  },
];

/** A block of cells as a spreadsheet copies it. */
export function pastedBlock(text: string): string[][] {
  return text
    .replace(/\r\n?/g, "\n")
    .replace(/\n$/, "")
    .split("\n")
    .map((line) => line.split("\t"));
}

/** What a pasted block changes from one line and column on; the first cell that cannot be read is told instead. */
export function changesOf(
  block: readonly (readonly string[])[],
  lines: readonly Drop[],
  line: number,
  column: number,
): { edits: { id: number; changes: DropChanges }[] } | { odd: string } {
  const edits: { id: number; changes: DropChanges }[] = [];
  for (const [down, cells] of block.entries()) {
    const drop = lines[line + down];
    if (!drop) return { odd: words.ledger.pastedBeyond(block.length, lines.length - line) };
    let changes: DropChanges = {};
    for (const [across, cell] of cells.entries()) {
      const target = LEDGER_COLUMNS[column + across];
      if (!target) return { odd: words.ledger.pastedWide(cells.length) };
      const read = target.read(cell.trim());
      if (!read) return { odd: words.ledger.pastedOdd(down + 1, target.head, cell) };
      changes = { ...changes, ...read };
    }
    edits.push({ id: drop.id, changes });
  }
  return { edits };
}
