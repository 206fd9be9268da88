import { useState } from "react";
import { type DropFlow, data, type Flows, http, type LinkFlow, type Throughput } from "../../api/client";
import { useChosen, useOfRevision, useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { Amount } from "../../kit/fields";
import { figure, speed } from "../../kit/figures";
import { Heading } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { OneOf } from "../../kit/Tick";
import { words } from "../../words";
import { FigureHeads, Surface } from "./Surface";

const w = words.traffic;
type Shown = "slowed" | "all";

/** Traffic: what every link between boxes carries, and how fast each drop gets to the internet and to its store. */
export function TrafficView() {
  const told = useOfRevision("traffic", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/traffic", { params: { path }, signal })),
  );
  const [shown, show] = useState<Shown>("slowed");
  const { outcome, edit } = useWork();
  if (!told) return null;
  const { flows } = told;
  return (
    <Surface>
      <div className="main">
        <section aria-label={w.title}>
          <Heading>
            <h2>{w.title}</h2>
            <span>{w.lead}</span>
          </Heading>
          {flows.links.length ? <Links flows={flows} /> : <p className="said">{flows.drops.length ? w.one : w.none}</p>}
        </section>
        {flows.drops.length > 0 && <Ways flows={flows} shown={shown} />}
      </div>
      <div className="beside">
        <section aria-label={w.shown}>
          <Heading>
            <h2>{w.shown}</h2>
          </Heading>
          <OneOf
            name="ways"
            value={shown}
            options={(["slowed", "all"] as const).map((key) => ({ key, text: w.show[key], why: w.showWhy[key] }))}
            onChange={async (key) => {
              show(key);
              return true;
            }}
          />
        </section>
        <Sheet>
          <Line label={w.fill}>
            <Amount
              label={w.fill}
              value={outcome.project.settings.link_fill_percent}
              least={10}
              most={100}
              set={(value) =>
                edit({ type: "change_settings", changes: { link_fill_percent: Math.round(value ?? 70) } })
              }
            />
            <i>{w.fillWhy}</i>
          </Line>
        </Sheet>
        <Findings verb="load" />
      </div>
    </Surface>
  );
}

function Links({ flows }: { flows: Flows }) {
  const sorted = [...flows.links].sort((a, b) => b.fill_percent - a.fill_percent);
  return (
    <>
      <div className="wide">
        <table>
          <thead>
            <tr>
              <th>{w.column.link}</th>
              <FigureHeads
                keys={["rate", "now", "later", "fill", "drops", "over", "recording"]}
                column={w.column}
                why={w.why}
              />
            </tr>
          </thead>
          <tbody>
            {sorted.map((link, place) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: equal links are told apart by their place
              <OneLink key={place} link={link} />
            ))}
          </tbody>
        </table>
      </div>
      <p className="faint">{flows.recorder ? w.recordsTo(flows.recorder) : w.noRecorder}</p>
    </>
  );
}

function OneLink({ link }: { link: LinkFlow }) {
  const { outcome } = useWork();
  const closet = outcome.project.closets.find((one) => one.id === link.closet_id)?.name;
  return (
    <tr data-fails={link.full || undefined}>
      <th scope="row">
        {link.lower}
        <small>{link.between_closets ? w.feeds(closet ?? "", link.upper) : w.hangs(link.upper)}</small>
      </th>
      <td className="r">
        {link.ends > 1 && `${link.ends} × `}
        {speed(link.rate_mbit / link.ends)}
      </td>
      <td className="r">{figure(link.now_mbit)} Mbit/s</td>
      <td className="r">{figure(link.then_mbit)} Mbit/s</td>
      <td className="r own">{figure(link.fill_percent)} %</td>
      <td className="r">{link.drops}</td>
      <td className="r">{figure(link.over_subscription)} : 1</td>
      <td className="r">{link.recording_mbit > 0 ? `${figure(link.recording_mbit)} Mbit/s` : "–"}</td>
    </tr>
  );
}

function Ways({ flows, shown }: { flows: Flows; shown: Shown }) {
  const { outcome, kinds, choose } = useWork();
  const chosen = useChosen();
  const { drops, rooms } = outcome.project;
  const some = flows.drops.filter((flow) => shown === "all" || flow.slowed);
  const nameOf = (flow: DropFlow) => {
    const drop = drops.find((one) => one.id === flow.drop_id);
    const kind = kinds.find((one) => one.key === drop?.kind)?.name ?? "";
    return drop?.label || `${kind}, ${rooms.find((room) => room.id === drop?.room_id)?.name}`;
  };
  return (
    <section aria-label={w.ways}>
      <Heading>
        <h2>{w.ways}</h2>
        <span>{w.waysLead(some.length, flows.drops.length)}</span>
      </Heading>
      {some.length === 0 ? (
        <p className="said">{w.noneSlowed}</p>
      ) : (
        <div className="wide">
          <table>
            <thead>
              <tr>
                <th>{words.load.column.drop}</th>
                <th className="r">{w.column.speed}</th>
                <th className="r">{w.column.busy}</th>
                <th>{w.column.internet}</th>
                <th>{flows.recorder ? w.to(flows.recorder) : w.column.recorder}</th>
                <th>{flows.store ? w.to(flows.store) : w.column.store}</th>
              </tr>
            </thead>
            <tbody>
              {some.map((flow) => (
                <tr key={flow.drop_id} data-chosen={chosen.drops.has(flow.drop_id) || undefined}>
                  <th scope="row">
                    <button
                      type="button"
                      onClick={() => choose({ drops: new Set([flow.drop_id]), roomId: null, path: null })}
                    >
                      {nameOf(flow)}
                    </button>
                  </th>
                  <td className="r">{speed(flow.speed_mbit)}</td>
                  <td className="r">{figure(flow.busy_mbit)} Mbit/s</td>
                  <OneWay way={flow.internet ?? null} />
                  <OneWay way={flow.recorder ?? null} />
                  <OneWay way={flow.store ?? null} copies />
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <p className="faint">{w.useful}</p>
    </section>
  );
}

/** A way: what is of use of it, where it is slowest, and (to a store) how long a terabyte takes. */
function OneWay({ way, copies }: { way: Throughput | null; copies?: boolean }) {
  if (!way) return <td>–</td>;
  return (
    <td title={w.slowest(way.slowest)}>
      {figure(way.useful_mbit)} Mbit/s
      {copies && <i> {w.terabyte(figure(8_000_000 / way.useful_mbit / 3600))}</i>}
      <small>{way.slowest}</small>
    </td>
  );
}
