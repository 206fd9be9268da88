import { useState } from "react";
import styled from "styled-components";
import type { ClosetPatching, Face, PortLine } from "../../api/client";
import { useWork } from "../../api/work";
import { Text } from "../../kit/fields";
import { exact, length } from "../../kit/figures";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { told } from "./Loom";
import { useNetworks } from "./usePatch";

const w = words.patch;
type Head = keyof typeof w.head;
const HEADS = Object.keys(w.head) as Head[];

/** The port list: sorted by any of its heads, positions and ports typed where they stand. */
export function PortTable(props: {
  here: ClosetPatching;
  chosen: string | null;
  choose: (key: string | null) => void;
}) {
  const { here, chosen, choose } = props;
  const { edit, say } = useWork();
  const networks = useNetworks();
  const [sorted, setSorted] = useState<{ by: Head; up: boolean }>({ by: "panel", up: true });
  const sortKey = (line: PortLine): string | number => {
    const place = here.lines.indexOf(line);
    const of: Record<Head, string | number> = {
      label: line.label || "~",
      name: told(line),
      panel: place,
      port: line.at_port ? line.at_port.replace(/\d+/g, (digits) => digits.padStart(4, "0")) : "~",
      network: networks.get(line.network_id ?? -1)?.number ?? 9999,
      watts: -line.watts,
      cord: line.cord_m ?? 1e9,
    };
    return of[sorted.by];
  };
  const collator = new Intl.Collator(undefined, { numeric: true });
  const lines = here.lines.toSorted((one, other) => {
    const [a, b] = [sortKey(one), sortKey(other)];
    const order = typeof a === "number" && typeof b === "number" ? a - b : collator.compare(String(a), String(b));
    return sorted.up ? order : -order;
  });
  const pin = async (line: PortLine, text: string, of: "panel" | "box"): Promise<boolean> => {
    const found = spotNamed(here.faces, text, of);
    if (!found || line.drop_id == null) {
      say(of === "panel" ? w.wrongPanel(text) : w.wrongPort(text));
      return false;
    }
    const to = of === "panel" ? { panel: found[0], position: found[1] } : { box: found[0], port: found[1] };
    return edit({ type: "pin_cord", drop_id: line.drop_id, fixed: true, ...to });
  };
  return (
    <Table aria-label={w.list}>
      <thead>
        <tr>
          {HEADS.map((head) => (
            <th
              key={head}
              data-head={head}
              aria-sort={sorted.by === head ? (sorted.up ? "ascending" : "descending") : undefined}
            >
              <button
                type="button"
                title={w.sortBy(w.head[head])}
                onClick={() => setSorted({ by: head, up: sorted.by === head ? !sorted.up : true })}
              >
                {w.head[head]}
              </button>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => {
          const name = told(line);
          return (
            <tr
              key={line.key}
              data-chosen={line.key === chosen || undefined}
              data-use={line.use}
              data-moves={line.moves || undefined}
              onClick={() => choose(line.key)}
              onKeyDown={() => {}}
            >
              <td>{line.label}</td>
              <td>
                {line.drop_id != null ? line.name : name}
                {line.fixed && <b title={w.pinned}> •</b>}
              </td>
              <td>
                {line.drop_id != null && line.at_panel ? (
                  <Text
                    label={w.panelOf(name)}
                    value={line.at_panel}
                    most={8}
                    set={(text) => pin(line, text, "panel")}
                  />
                ) : (
                  line.at_panel
                )}
              </td>
              <td>
                {line.drop_id != null && line.at_port ? (
                  <Text label={w.portOf(name)} value={line.at_port} most={8} set={(text) => pin(line, text, "box")} />
                ) : (
                  line.at_port
                )}
              </td>
              <td>{networks.get(line.network_id ?? -1)?.number}</td>
              <td>{line.watts > 0 ? exact(line.watts) : ""}</td>
              <td>{line.cord_m == null ? "" : length(line.cord_m, 2)}</td>
            </tr>
          );
        })}
      </tbody>
    </Table>
  );
}

/** A position like A14, or a port like 2/14, as the thing and its number. */
export function spotNamed(faces: readonly Face[], text: string, of: "panel" | "box"): [string, number] | null {
  const form = of === "panel" ? /^([a-z]+)[\s-]?(\d+)$/i : /^(\d+)\s*\/\s*(\d+)$/;
  const read = form.exec(text.trim());
  const face = faces.find(
    (one) => (one.kind === "panel") === (of === "panel") && one.short.toLowerCase() === read?.[1]?.toLowerCase(),
  );
  const port = face?.ports.find((one) => one.name === read?.[2]);
  return face && port?.number != null ? [face.thing, port.number] : null;
}

const Table = styled.table`
  width: 100%;
  thead { position: sticky; top: 0; background: var(--paper); z-index: 1; }
  th { text-align: left; border-bottom: 1px solid var(--ink); padding: 0; }
  th button { background: none; border: 0; padding: 2px 8px 2px 0; cursor: pointer; color: var(--faint); font-weight: 550; }
  th[aria-sort] button { color: var(--ink); }
  th[aria-sort="ascending"] button::after { content: " ↑"; }
  th[aria-sort="descending"] button::after { content: " ↓"; }
  td { border-bottom: 1px solid var(--rule); padding: 2px 8px 2px 0; font-stretch: 84%; }
  td:first-child { max-width: 84px; }
  td:nth-child(2) { max-width: 172px; }
  td:nth-child(-n + 2) { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  td:nth-child(n + 5), th:nth-child(n + 5) { text-align: right; }
  td:last-child, th:last-child button { padding-right: 0; }
  th:nth-child(n + 5) button { padding-right: 8px; }
  td:nth-child(6) { color: var(--clay); }
  td b { color: var(--clay); }
  input { width: 6ch; background: none; border: 0; border-bottom: 1px dotted var(--faint); padding: 0; }
  tr { cursor: pointer; }
  tr:hover td { background: var(--earth); }
  tr[data-chosen] td { background: var(--earth); box-shadow: inset 0 -1px var(--clay); }
  tr[data-chosen] td:first-child { box-shadow: inset 3px 0 var(--clay); padding-left: 6px; }
  tr[data-use="reserve"] td, tr[data-use="cable"] td { color: var(--faint); }
  tr[data-moves] td:nth-child(-n + 4) { color: var(--ochre); }
  ${NARROW} { td:nth-child(7), th:nth-child(7) { display: none; } }
`;
