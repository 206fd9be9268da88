import styled from "styled-components";
import type { BoxKey, Edit, MatrixCell, Network, PatchFor } from "../../api/client";
import { addTo, changeIn } from "../../api/edits";
import { useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { Findings } from "../../instruments/Findings";
import { Choice, Chooser, optionsOf } from "../../kit/Choice";
import { Some, Text } from "../../kit/fields";
import { exact } from "../../kit/figures";
import { Heading, Term, Word } from "../../kit/parts";
import { Tick } from "../../kit/Tick";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { usePatch } from "./usePatch";

const w = words.networks;
type Template = keyof typeof w.template;

/** Networks, who is in them, and a cloth of words that says who may open connections to whom. */
export function NetworksView() {
  const { outcome } = useWork();
  const patch = usePatch();
  if (!patch) return null;
  const has = (outcome.project.networks ?? []).length > 0;
  return (
    <Page>
      <div>
        {has ? <Matrix patch={patch} /> : <Begin />}
        <Lists patch={patch} />
        {has && <Begin isMore />}
      </div>
      <div>
        {has && (
          <>
            <Schools patch={patch} />
            <Trunks patch={patch} />
          </>
        )}
        <Findings verb="patch" />
      </div>
    </Page>
  );
}

/** Networks that places of a kind usually have. */
function Begin({ isMore }: { isMore?: boolean }) {
  const { edit } = useWork();
  return (
    <section aria-label={w.templates}>
      {!isMore && <Lead>{w.empty}</Lead>}
      <Chooser<Template>
        label={w.templates}
        value={null}
        placeholder={`${w.templates} …`}
        options={optionsOf(w.template)}
        set={(template) => edit({ type: "use_networks", template })}
      />
      {!isMore && <p>{w.emptyWhy}</p>}
    </section>
  );
}

/** A row a network that opens, a column a network that is opened; the diagonal is what clients may do to each other. */
function Matrix({ patch }: { patch: PatchFor }) {
  const { outcome, edit } = useWork();
  const networks = outcome.project.networks ?? [];
  const cells = new Map(patch.matrix.map((cell) => [`${cell.from_id} ${cell.to_id}`, cell]));
  return (
    <section aria-label={w.title}>
      <Heading>
        <h2>{w.title}</h2>
        <span>{w.lead}</span>
      </Heading>
      <div className="cloth">
        <Cloth aria-label={w.title}>
          <thead>
            <tr>
              <td />
              {networks.map((one) => (
                <th key={one.id} scope="col">
                  <b>{one.number}</b> {one.name}
                </th>
              ))}
              <th scope="col">{w.internet}</th>
            </tr>
          </thead>
          <tbody>
            {networks.map((from, row) => (
              <tr key={from.id}>
                <th scope="row">
                  <b>{from.number}</b> {from.name}
                </th>
                {networks.map((to, column) => {
                  const cell = cells.get(`${from.id} ${to.id}`);
                  return (
                    <td
                      key={to.id}
                      data-access={cell?.access}
                      data-own={from === to || undefined}
                      data-weft={(row + column) % 2 === 0 || undefined}
                    >
                      {cell && <Cell cell={cell} from={from} to={to} />}
                    </td>
                  );
                })}
                <td data-access={from.internet ? "all" : "nothing"}>
                  <Choice
                    label={w.cell(from.name, w.internet)}
                    value={from.internet ? "all" : "nothing"}
                    options={[
                      ["nothing", w.access.nothing],
                      ["all", w.access.all],
                    ]}
                    set={(next) => edit(changeIn("networks", from.id, { internet: next === "all" }))}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </Cloth>
      </div>
    </section>
  );
}

function Cell({ cell, from, to }: { cell: MatrixCell; from: Network; to: Network }) {
  const { edit } = useWork();
  const isOwn = from.id === to.id;
  const choices = isOwn ? w.inside : w.access;
  const text =
    cell.access === "services" ? cell.services.map((one) => w.service[one] ?? one).join(", ") : choices[cell.access];
  const set = (said: Partial<Pick<MatrixCell, "access" | "services" | "reason">>) => {
    const next = { access: cell.access, services: cell.services, reason: cell.reason, ...said };
    // named services begin with web pages, and end where none is left
    if (next.access === "services" && next.services.length === 0)
      Object.assign(next, said.access === "services" ? { services: ["web"] } : { access: "nothing" });
    return edit({ type: "set_permission", from_id: from.id, to_id: to.id, ...next } as Edit);
  };
  const others = cell.services.filter((one) => !(one in w.service));
  return (
    <Term label={w.cell(from.name, to.name)} text={<span title={cell.reason}>{text}</span>}>
      <Choice
        label={w.cell(from.name, to.name)}
        value={cell.access}
        options={optionsOf(choices)}
        set={(access) => set({ access })}
      />
      {cell.access === "services" && (
        <>
          {Object.entries(w.service).map(([key, name]) => (
            <Tick
              key={key}
              value={cell.services.includes(key)}
              set={(wanted) =>
                set({ services: wanted ? [...cell.services, key] : cell.services.filter((one) => one !== key) })
              }
            >
              {name}
            </Tick>
          ))}
          <Text
            label={w.ports}
            value={others.join(", ")}
            placeholder={w.ports}
            set={(typed) =>
              set({
                services: [
                  ...cell.services.filter((one) => one in w.service),
                  ...typed
                    .split(",")
                    .map((one) => one.trim())
                    .filter(Boolean),
                ],
              })
            }
          />
        </>
      )}
      <Text label={w.reason} value={cell.reason} placeholder={w.reason} set={(reason) => set({ reason })} />
    </Term>
  );
}

/** The networks and Wi-Fi names as lists, changed where they stand. */
function Lists({ patch }: { patch: PatchFor }) {
  const { project } = useWork().outcome;
  const networks = project.networks ?? [];
  const counts = new Map<number, number>();
  for (const network of Object.values(patch.homes)) counts.set(network, (counts.get(network) ?? 0) + 1);
  const taken = new Set(networks.map((one) => one.number));
  const free = Array.from({ length: 409 }, (_, place) => 10 * (place + 1)).find((number) => !taken.has(number));
  return (
    <>
      <EntryList
        title={w.list}
        lead={w.listLead}
        list="networks"
        rows={networks}
        name={(one) => one.name}
        below={(one) => w.members(counts.get(one.id) ?? 0)}
        fields={[
          { key: "name", as: { type: "text", width: 14, strong: true } },
          { key: "number", before: w.number, as: { type: "number", width: 5, least: 1, most: 4094 } },
          { key: "purpose", before: w.purpose, as: { type: "choice", options: optionsOf(w.purposes) } },
          { key: "kinds", before: w.kinds, as: { type: "kinds", none: w.noKinds } },
          { key: "room_ids", before: w.rooms, as: { type: "rooms", none: w.noRooms } },
          {
            key: "way_in",
            before: w.wayIn,
            when: (one) => one.purpose === "guests",
            as: { type: "choice", options: optionsOf(w.waysIn) },
          },
        ]}
        add={{ placeholder: w.add, values: (name) => ({ name, number: free }) }}
      />
      <EntryList
        title={w.wifi}
        list="wifi_names"
        rows={project.wifi_names ?? []}
        name={(one) => one.name}
        fields={[
          { key: "name", as: { type: "text", width: 18, strong: true } },
          {
            key: "network_id",
            before: w.behind,
            as: {
              type: "choice",
              numeric: true,
              options: [["", w.noNetwork], ...networks.map((one) => [String(one.id), one.name] as const)],
            },
          },
        ]}
        add={{ placeholder: w.addWifi, values: (name) => ({ name, network_id: networks[0]?.id ?? null }) }}
      />
    </>
  );
}

/** What the router passes between networks, and what either school for cameras makes of it. */
function Schools({ patch }: { patch: PatchFor }) {
  const { edit } = useWork();
  const { routed } = patch;
  const parts = [
    ["internet", routed.internet_mbit],
    ["recordings", routed.recordings_mbit],
    ["looking", routed.looking_mbit],
    ["store", routed.store_mbit],
  ] as const;
  const sum = parts.reduce((all, [, mbit]) => all + mbit, 0);
  const isOver = routed.throughput_mbit != null && sum > routed.throughput_mbit;
  return (
    <section aria-label={w.router}>
      <Heading>
        <h2>{w.router}</h2>
        <span data-over={isOver || undefined}>
          {routed.throughput_mbit == null
            ? w.routedUnknown(exact(sum))
            : w.routed(exact(sum), exact(routed.throughput_mbit))}
        </span>
      </Heading>
      <Sums>
        {parts.map(([key, mbit]) => (
          <li key={key}>
            <span>{w.part[key]}</span>
            <b>{exact(mbit)}</b>
          </li>
        ))}
      </Sums>
      {routed.schools.length > 1 && (
        <>
          <h3>{w.schools}</h3>
          <Ways>
            {routed.schools.map((school) => (
              <li key={school.network_id} data-now={school.is_now || undefined}>
                <b>{w.school(school.name, exact(school.routed_mbit))}</b>
                <p>{school.purpose === "cameras" ? w.own : w.trusted}</p>
                {!school.is_now && (
                  <Word onPress={() => edit({ type: "cameras_into", network_id: school.network_id })}>
                    {w.putThere(school.name)}
                  </Word>
                )}
              </li>
            ))}
          </Ways>
        </>
      )}
    </section>
  );
}

/** Which networks cross which link, and the sheets of boxes to take along. */
function Trunks({ patch }: { patch: PatchFor }) {
  const { id, outcome } = useWork();
  const { trunks } = patch;
  const boxes = new Map(trunks.boxes.map((one) => [`${one.closet_id} ${one.thing}`, one]));
  const closets = outcome.project.closets.length > 1;
  const named = ({ closet_id: closet, thing }: BoxKey) => {
    const box = boxes.get(`${closet} ${thing}`);
    const where = closets ? `${outcome.project.closets.find((one) => one.id === closet)?.name} ` : "";
    return box ? `${where}${box.short}` : thing;
  };
  const plain = new Set(trunks.plain.map((one) => `${one.closet_id} ${one.thing}`));
  return (
    <section aria-label={w.trunks}>
      <Heading>
        <h2>{w.trunks}</h2>
        <span>{w.trunksLead}</span>
      </Heading>
      <Sums>
        {trunks.links.map((link) => (
          <li key={`${link.lower.closet_id} ${link.lower.thing}`}>
            <span>
              {named(link.upper)} – {named(link.lower)}
            </span>
            <span>
              {w.native(link.native)}, {w.tagged(link.tagged.join(", "))}
              {link.bundle && ` · ${w.bundle(link.ends)}`}
              {plain.has(`${link.lower.closet_id} ${link.lower.thing}`) && <em> {w.plain}</em>}
            </span>
          </li>
        ))}
        {trunks.links
          .filter((link) => link.ends > 1)
          .flatMap((link) =>
            Array.from({ length: link.ends }, (_, place) => place + 1).map((cable) => (
              <Cable key={`${link.lower.closet_id} ${cable}`} link={link} cable={cable} />
            )),
          )}
        {trunks.devices.map((one) => (
          <li key={one.drop_id}>
            <span>{one.name}</span>
            <span>
              {w.native(one.native)}, {w.tagged(one.tagged.join(", "))}
            </span>
          </li>
        ))}
      </Sums>
      <a href={`/api/projects/${id}/patch/settings.json`}>{w.settings}</a>
    </section>
  );
}

/** Which networks one of several cables carries; while none names any, all of them are one bundle. */
function Cable({ link, cable }: { link: PatchFor["trunks"]["links"][number]; cable: number }) {
  const { outcome, edit } = useWork();
  const { closet_id: closet } = link.lower;
  const { project } = outcome;
  const row = project.cable_networks?.find((one) => one.closet_id === closet && one.cable === cable);
  const name = project.closets.find((one) => one.id === closet)?.name ?? "";
  return (
    <li>
      <span>{w.cable(name, cable)}</span>
      <Some
        label={w.cable(name, cable)}
        none={link.bundle || cable > 1 ? w.noneNamed : w.rest}
        value={row?.network_ids ?? []}
        options={(project.networks ?? []).map((one) => ({ id: one.id, name: `${one.number} ${one.name}` }))}
        set={(network_ids) =>
          edit(
            row
              ? changeIn("cable_networks", row.id, { network_ids })
              : addTo("cable_networks", { closet_id: closet, cable, network_ids }),
          )
        }
      />
    </li>
  );
}

const Lead = styled.p`font: 600 19px var(--voice); padding-bottom: 6px;`;
const Page = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 340px; gap: 26px; padding: 10px 16px 20px;
  > div { display: grid; gap: 18px; align-content: start; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  section > p { color: var(--faint); padding-top: 6px; }
  h3 { font-size: 13.5px; font-weight: 600; margin: 12px 0 2px; }
  [data-over] { color: var(--clay); }
  .cloth { overflow-x: auto; }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); }
`;

/** Threads go over and under each other: a line runs on through every other crossing. */
const Cloth = styled.table`
  border-top: 1px solid var(--ink); min-width: 100%;
  th { font-weight: 500; text-align: left; padding: 4px 9px 4px 0; white-space: nowrap; font-stretch: 84%; }
  thead th { padding-left: 9px; border-bottom: 1px solid var(--ink); }
  th b { font-weight: 650; }
  tbody td {
    padding: 5px 9px; border-bottom: 1px solid var(--rule); border-left: 1px solid var(--rule); max-width: 150px; font-stretch: 84%;
    vertical-align: baseline;
  }
  tbody td[data-weft] { border-bottom-color: var(--ink); }
  td button { white-space: normal; text-align: left; font-weight: 500; border-bottom-color: transparent; }
  td button:hover { border-bottom-color: var(--ink); }
  td[data-access="nothing"] button { color: var(--faint); font-weight: 400; }
  td[data-access="services"] button { color: var(--slate); }
  td[data-own] { background: var(--earth); }
`;
const Sums = styled.ul`
  border-top: 1px solid var(--ink); margin-bottom: 6px;
  li { display: flex; justify-content: space-between; gap: 14px; padding: 2px 0; border-bottom: 1px solid var(--rule); }
  li > :last-child { text-align: right; }
  b { font-weight: 550; }
  em { font-style: normal; color: var(--clay); }
`;
const Ways = styled.ul`
  display: grid; gap: 8px;
  li { padding-left: 10px; border-left: 3px solid var(--rule); }
  li[data-now] { border-left-color: var(--clay); }
  b { font-weight: 550; }
  p { color: var(--faint); }
`;
