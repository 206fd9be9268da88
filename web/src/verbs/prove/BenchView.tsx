import { type FormEvent, useState } from "react";
import styled from "styled-components";
import { data, http, type Schemas } from "../../api/client";
import { useWork } from "../../api/work";
import { SheetWord } from "../../instruments/SheetWord";
import { Text } from "../../kit/fields";
import { Field, Heading } from "../../kit/parts";
import { Tick } from "../../kit/Tick";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { CodeReader } from "./CodeReader";
import { clock } from "./TestSheet";
import { useBench } from "./useOrder";

const w = words.bench;
const TICKS = ["powered", "named", "updated"] as const;
type Device = Schemas["DeviceTold"];
type Said = Partial<Pick<Device, (typeof TICKS)[number] | "serial" | "hardware" | "version">>;

/** What is written down of a device, in the name of who wrote last. */
function useWriting() {
  const { outcome, edit } = useWork();
  const by = outcome.project.benched?.findLast((row) => row.by)?.by ?? outcome.project.ticks?.at(-1)?.by ?? "";
  return (subject: string, said: Said) => edit({ type: "write_bench", subject, changes: { ...said, at: clock(), by } });
}

/** Every device switched on, named, brought up to date and written down before it is fixed. */
export function BenchView() {
  const { id, say } = useWork();
  const told = useBench();
  const write = useWriting();
  const [chosen, choose] = useState<string | null>(null);
  if (!told) return null;
  const device = told.devices.find((one) => one.subject === chosen);
  /** Takes what a code says: another device, or what is written down of this one. */
  const read = async (text: string) => {
    try {
      const code = await data(http.GET("/api/codes/read", { params: { query: { text } } }));
      const named = told.devices.find((one) => one.subject === code.subject);
      if (named) return choose(named.subject);
      if (!device || !(code.serial || code.hardware)) return say(w.nothing(text));
      const said: Said = {};
      if (code.serial) said.serial = code.serial;
      if (code.hardware) said.hardware = code.hardware;
      await write(device.subject, said);
    } catch (error) {
      say((error as Error).message);
    }
  };
  return (
    <Page>
      <div>
        <Heading>
          <h2>{w.title}</h2>
          <span>
            {w.sum(told.through, told.devices.length)}
            <i>{` · ${w.without(told.without_serial, told.without_hardware)}`}</i>
          </span>
        </Heading>
        <p className="acts">
          <SheetWord sheet="bench">{w.codes}</SheetWord>
          <a href={`/api/projects/${id}/prove/bench.csv`}>{words.prove.csv}</a>
          <a href={`/api/projects/${id}/prove/bench.xlsx`}>{words.prove.xlsx}</a>
        </p>
        <List aria-label={w.title}>
          <thead>
            <tr>
              <th>{w.device}</th>
              {TICKS.map((key) => (
                <th key={key}>{w[key]}</th>
              ))}
              <th className="wide">{w.serial}</th>
              <th className="wide">{w.hardware}</th>
            </tr>
          </thead>
          <tbody>
            {told.devices.map((one) => (
              <tr key={one.subject} data-chosen={one.subject === chosen || undefined}>
                <td>
                  <button type="button" onClick={() => choose(one.subject)}>
                    {one.label && one.label !== one.name && <b>{one.label}</b>} {one.name}
                    <small>{one.name.includes(one.where) ? "" : one.where}</small>
                  </button>
                </td>
                {TICKS.map((key) => (
                  <td key={key} className="tick">
                    <Tick
                      label={w.ticked(one.name, w[key])}
                      value={one[key]}
                      set={(value) => write(one.subject, { [key]: value })}
                    />
                  </td>
                ))}
                <td className="wide">{one.serial}</td>
                <td className="wide" data-clash={one.clash ? true : undefined} title={one.clash}>
                  {one.hardware}
                </td>
              </tr>
            ))}
          </tbody>
        </List>
      </div>
      <div data-open={device ? true : undefined}>
        {!device && <p className="press">{w.press}</p>}
        {device && <DeviceSheet key={device.subject} device={device} write={write} />}
        <Pasted read={read} />
        <CodeReader found={read} />
      </div>
    </Page>
  );
}

function DeviceSheet(props: { device: Device; write: (subject: string, said: Said) => Promise<boolean> }) {
  const { device, write } = props;
  const keep = (said: Said) => write(device.subject, said);
  const field = (key: "serial" | "hardware" | "version") => (
    <div>
      <small>{w[key]}</small>
      <Text label={w[key]} value={device[key]} set={(value) => keep({ [key]: value })} />
    </div>
  );
  return (
    <Sheet aria-label={device.name}>
      <Heading>
        <h2>{device.name}</h2>
        <span>{device.where}</span>
      </Heading>
      <p>{w.give(device.host, device.address)}</p>
      {device.clash && <p className="breaks">{`${device.clash}.`}</p>}
      <span>
        {TICKS.map((key) => (
          <Tick key={key} value={device[key]} set={(value) => keep({ [key]: value })}>
            {w[key]}
          </Tick>
        ))}
      </span>
      {field("serial")}
      {field("hardware")}
      {field("version")}
      {device.at && <small>{`${device.at.slice(0, 16).replace("T", " ")} ${device.by}`}</small>}
    </Sheet>
  );
}

/** What a label says, pasted or typed as one text. */
function Pasted({ read }: { read: (text: string) => Promise<void> }) {
  const [text, setText] = useState("");
  const take = async (event: FormEvent) => {
    event.preventDefault();
    if (!text.trim()) return;
    await read(text.trim());
    setText("");
  };
  return (
    <form onSubmit={take}>
      <Field
        aria-label={w.pasted}
        placeholder={w.pasted}
        size={30}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
    </form>
  );
}

const Page = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 330px; gap: 26px; padding: 10px 16px 20px;
  > div { display: grid; gap: 14px; align-content: start; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  .acts { display: flex; gap: 4px 18px; flex-wrap: wrap; align-items: baseline; }
  .press { color: var(--faint); } i { font-style: normal; }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); > div[data-open] { order: -1; } i { display: none; } form input { font-size: 17px; padding: 8px 2px; } }
`;
const List = styled.table`
  width: 100%;
  th { text-align: left; font-weight: 550; color: var(--faint); border-bottom: 1px solid var(--ink); padding: 2px 10px 2px 0; white-space: nowrap; }
  td { border-bottom: 1px solid var(--rule); padding: 5px 10px 5px 0; vertical-align: top; }
  td button { all: unset; cursor: pointer; font: 16px/1.3 var(--voice); } td button:focus-visible { outline: 2px solid var(--clay); }
  td button b { font: 600 13.5px var(--data); } td button small { font: 12.5px var(--data); color: var(--faint); margin-left: 8px; }
  .tick { width: 62px; } tbody .tick, tbody .wide { padding-top: 8px; } .wide { width: 150px; white-space: nowrap; } [data-clash] { color: var(--clay); }
  tr[data-chosen] td { background: var(--earth); }
  ${NARROW} {
    .wide { display: none; } td { padding: 10px 4px 10px 0; } .tick { width: 52px; } .tick label { padding: 10px 14px 10px 4px; margin: -10px 0; } .tick svg { width: 19px; height: 19px; }
    th { white-space: normal; font-size: 12px; vertical-align: bottom; padding-right: 4px; }
  }
`;
const Sheet = styled.section`
  display: grid; gap: 8px; align-content: start; min-width: 0;
  p { color: var(--faint); } p.breaks { color: var(--clay); }
  > span { display: flex; gap: 6px 18px; flex-wrap: wrap; }
  > div { display: grid; gap: 1px; } small { color: var(--faint); font-size: 12.5px; }
  input:not([type]) { background: none; border: 0; border-bottom: 1px solid var(--rule); padding: 2px 1px; width: 100%; }
  ${NARROW} { > span label { padding: 10px 0; } > span svg { width: 19px; height: 19px; } input:not([type]) { font-size: 17px; padding: 8px 2px; } }
`;
