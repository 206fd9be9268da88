import { type ClipboardEvent, memo, type RefObject, useRef } from "react";
import type { Drop, DropChanges } from "../../api/client";
import { Choice } from "../../kit/Choice";
import { Amount, Text } from "../../kit/fields";
import { speed } from "../../kit/figures";
import { Tick, TickBox } from "../../kit/Tick";
import { words } from "../../words";
import { CATEGORIES, CLASSES, SPEEDS } from "./ledgerColumns";

const w = words.ledger;

interface LineProps {
  drop: Drop;
  name: string;
  room: string;
  number: number;
  what: string;
  usualRun: number | undefined;
  lit: boolean;
  ticked: boolean;
  top: number;
  index: number;
  /** What lines do, always as of now. */
  acts: RefObject<Acts>;
}

export interface Acts {
  tick: (id: number, range: boolean) => void;
  change: (drop: Drop, changes: DropChanges) => Promise<boolean>;
  paste: (event: ClipboardEvent, drop: Drop, column: number) => void;
}

/** A line is drawn anew only when something in it has changed: scrolling draws those that come into sight. */
export const LedgerLine = memo(function LedgerLine({ drop, name, acts, ...line }: LineProps) {
  const c = w.columns;
  const ranged = useRef(false);
  const change = (to: Drop, changes: DropChanges) => acts.current.change(to, changes);
  const pasted = (column: number) => ({
    onPaste: (event: ClipboardEvent) => acts.current.paste(event, drop, column),
  });
  return (
    <tr
      aria-rowindex={line.index + 2}
      data-lit={line.lit || undefined}
      style={{ transform: `translateY(${line.top}px)` }}
    >
      <td
        onClickCapture={(event) => {
          ranged.current = event.shiftKey;
        }}
      >
        <TickBox label={w.choose(name)} value={line.ticked} set={() => acts.current.tick(drop.id, ranged.current)} />
      </td>
      <td title={line.room}>{line.room}</td>
      <td className="r">{line.number}</td>
      <td title={line.what}>{line.what}</td>
      <td {...pasted(0)}>
        <Text label={`${c.label}: ${name}`} value={drop.label} set={(label) => change(drop, { label })} />
      </td>
      <td {...pasted(1)}>
        <Text label={`${c.place}: ${name}`} value={drop.place} set={(place) => change(drop, { place })} />
      </td>
      <td>
        <Choice
          label={`${c.speed}: ${name}`}
          value={String(drop.speed_mbit)}
          options={SPEEDS.map((value) => [String(value), speed(value)])}
          set={(value) => change(drop, { speed_mbit: Number(value) as Drop["speed_mbit"] })}
        />
      </td>
      <td>
        <Choice
          label={`${c.poe}: ${name}`}
          value={drop.poe_class == null ? "" : String(drop.poe_class)}
          options={[["", "–"], ...CLASSES.map((value): [string, string] => [String(value), `cl. ${value}`])]}
          set={(value) => change(drop, { poe_class: value === "" ? null : Number(value) })}
          powered={drop.poe_class != null}
        />
      </td>
      <td {...pasted(4)}>
        <Amount
          label={`${c.draw}: ${name}`}
          value={drop.poe_class == null && !drop.draw_w ? null : drop.draw_w}
          most={100}
          set={(value) => change(drop, { draw_w: value ?? 0 })}
          powered={drop.poe_class != null}
        />
      </td>
      <td {...pasted(5)}>
        <Amount
          label={`${c.run}: ${name}`}
          value={drop.run_m ?? null}
          usual={line.usualRun}
          metres
          set={(value) => change(drop, { run_m: value })}
        />
      </td>
      <td>
        <Choice
          label={`${c.category}: ${name}`}
          value={drop.category}
          options={CATEGORIES.map((value) => [value, value])}
          set={(category) => change(drop, { category })}
        />
      </td>
      <td>
        <Choice
          label={`${c.jacket}: ${name}`}
          value={drop.outdoor_jacket ? "out" : "in"}
          options={[
            ["in", w.indoor],
            ["out", w.outdoor],
          ]}
          set={(value) => change(drop, { outdoor_jacket: value === "out" })}
        />
      </td>
      <td>
        <Tick label={`${c.use}: ${name}`} value={drop.in_use} set={(in_use) => change(drop, { in_use })} />
      </td>
    </tr>
  );
});
