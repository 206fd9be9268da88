import styled from "styled-components";
import type { Edit, PatchFor } from "../../api/client";
import { addTo, changeIn } from "../../api/edits";
import { useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { Findings } from "../../instruments/Findings";
import { SheetWord } from "../../instruments/SheetWord";
import { Amount, Text } from "../../kit/fields";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { useNetworks, usePatch } from "./usePatch";

const w = words.addresses;
type Kept = PatchFor["addresses"]["kept"][number];

/** A prefix for every network, what keeps its address, and what must not be overlapped. */
export function AddressView() {
  const { id, edit } = useWork();
  const patch = usePatch();
  if (!patch) return null;
  const { addresses } = patch;
  return (
    <Page>
      <div>
        <div className="tools">
          {addresses.edit && (
            <>
              <Word onPress={() => edit(addresses.edit as Edit)}>{w.keep}</Word>
              <span>{w.keepWhy}</span>
            </>
          )}
          <a href={`/api/projects/${id}/patch/addresses.csv`}>{w.csv}</a>
          <SheetWord sheet="networks">{words.networks.pdf}</SheetWord>
        </div>
        {addresses.networks.length ? <Plan patch={patch} /> : <p>{w.none}</p>}
        {addresses.kept.length > 0 && <KeptList patch={patch} />}
      </div>
      <div>
        <OfSite />
        <Findings verb="patch" />
      </div>
    </Page>
  );
}

/** The networks, each field typed where it stands; what is proposed is faint. */
function Plan({ patch }: { patch: PatchFor }) {
  const { edit } = useWork();
  const networks = useNetworks();
  return (
    <section aria-label={w.title}>
      <Heading>
        <h2>{w.title}</h2>
        <span>{w.formula}</span>
      </Heading>
      <div className="wide">
        <Table aria-label={w.title}>
          <thead>
            <tr>
              {Object.entries(w.head).map(([key, head]) => (
                <th key={key} scope="col" data-right={key === "hosts" || key === "growth" || undefined}>
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {patch.addresses.networks.map((plan) => {
              const network = networks.get(plan.network_id);
              if (!network) return null;
              const say = (changes: Parameters<typeof changeIn<"networks">>[2]) =>
                edit(changeIn("networks", network.id, changes));
              return (
                <tr key={plan.network_id}>
                  <th scope="row">
                    <b>{network.number}</b> {network.name}
                  </th>
                  <td data-right>
                    <Amount
                      label={w.hostsOf(network.name)}
                      value={network.hosts ?? null}
                      usual={plan.counted}
                      most={16_000_000}
                      set={(hosts) => say({ hosts })}
                    />
                  </td>
                  <td data-right>
                    <Amount
                      label={w.growthOf(network.name)}
                      value={network.growth_percent ?? 50}
                      most={1000}
                      set={(growth) => say({ growth_percent: growth ?? 50 })}
                    />{" "}
                    %
                  </td>
                  <td>
                    <Text
                      label={w.prefixOf(network.name)}
                      value={network.prefix ?? ""}
                      placeholder={plan.prefix || "–"}
                      most={18}
                      set={(prefix) => say({ prefix })}
                    />
                    <small>{w.holds(plan.wanted, plan.holds)}</small>
                  </td>
                  <td>
                    <Text
                      label={w.gatewayOf(network.name)}
                      value={network.gateway ?? ""}
                      placeholder={plan.gateway || "–"}
                      most={15}
                      set={(gateway) => say({ gateway })}
                    />
                  </td>
                  <td>{plan.first_lease && `${plan.first_lease} – ${plan.last_lease.split(".").at(-1)}`}</td>
                  <td>
                    <Text
                      label={w.sixOf(network.name)}
                      value={network.prefix6 ?? ""}
                      placeholder={plan.prefix6 || "–"}
                      most={43}
                      set={(prefix6) => say({ prefix6 })}
                    />
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Table>
      </div>
    </section>
  );
}

/** What keeps its address, network by network. */
function KeptList({ patch }: { patch: PatchFor }) {
  const { edit } = useWork();
  const networks = useNetworks();
  const { kept } = patch.addresses;
  const say = (row: Kept, address: string) => {
    if (row.reserved_id != null)
      return edit(
        address
          ? changeIn("reserved", row.reserved_id, { address })
          : { type: "remove_entry", list: "reserved", id: row.reserved_id },
      );
    return edit(addTo("reserved", { address, drop_id: row.drop_id, closet_id: row.closet_id, thing: row.thing }));
  };
  return (
    <section aria-label={w.kept}>
      <Heading>
        <h2>{w.kept}</h2>
        <span>{w.keptCount(kept.length)}</span>
      </Heading>
      <KeptRows>
        {kept.map((row) => (
          <li key={`${row.drop_id} ${row.closet_id} ${row.thing} ${row.address}`}>
            <i>{networks.get(row.network_id ?? -1)?.number}</i>
            <Text
              label={w.addressOf(row.name)}
              value={row.reserved_id == null ? "" : row.address}
              placeholder={row.address}
              most={15}
              set={(address) => say(row, address)}
            />
            <span>
              <b>{row.host}</b> {row.name}
            </span>
          </li>
        ))}
      </KeptRows>
    </section>
  );
}

/** Where prefixes come from, and what they must not overlap. */
function OfSite() {
  const { outcome, edit } = useWork();
  const { settings, lines, tunnels } = outcome.project;
  const set = (changes: Partial<typeof settings>) => edit({ type: "change_settings", changes });
  return (
    <>
      <Sheet aria-label={w.site}>
        <Heading>
          <h2>{w.site}</h2>
        </Heading>
        <Line label={w.base}>
          <Text
            label={w.base}
            value={settings.address_base ?? ""}
            most={18}
            set={(text) => set({ address_base: text })}
          />
        </Line>
        <Line label={w.sitePrefix6}>
          <Text
            label={w.sitePrefix6}
            value={settings.prefix6 ?? ""}
            placeholder="fd12:3456:789a::/48"
            most={43}
            set={(text) => set({ prefix6: text })}
          />
        </Line>
      </Sheet>
      {lines.length > 0 && (
        <Sheet aria-label={w.lines}>
          <Heading>
            <h2>{w.lines}</h2>
          </Heading>
          {lines.map((line) => (
            <div key={line.id}>
              <Line label={line.name}>
                <Text
                  label={`${line.name}: ${w.wan}`}
                  value={line.wan_address ?? ""}
                  placeholder={w.wan}
                  most={15}
                  set={(text) => edit(changeIn("lines", line.id, { wan_address: text }))}
                />
              </Line>
              <Line label="">
                <Text
                  label={`${line.name}: ${w.box}`}
                  value={line.box_prefix ?? ""}
                  placeholder={w.box}
                  most={18}
                  set={(text) => edit(changeIn("lines", line.id, { box_prefix: text }))}
                />
              </Line>
            </div>
          ))}
        </Sheet>
      )}
      <EntryList
        title={w.tunnels}
        list="tunnels"
        rows={tunnels ?? []}
        name={(one) => one.name}
        fields={[
          { key: "name", as: { type: "text", width: 12, strong: true } },
          { key: "prefix", before: w.tunnelPrefix, as: { type: "text", width: 15 } },
        ]}
        add={{ placeholder: w.addTunnel, values: (name) => ({ name, prefix: "192.168.0.0/24" }) }}
      />
    </>
  );
}

const Page = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 306px; gap: 26px; padding: 8px 16px 20px;
  > div { display: grid; gap: 16px; align-content: start; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  .tools { display: flex; flex-wrap: wrap; gap: 4px 16px; }
  .tools span { color: var(--faint); }
  .wide { overflow-x: auto; }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); }
`;
const Table = styled.table`
  width: 100%; border-top: 1px solid var(--ink); font-stretch: 84%;
  thead th { color: var(--faint); font-weight: 500; text-align: left; border-bottom: 1px solid var(--ink); padding: 2px 12px 2px 0; }
  tbody th { text-align: left; font-weight: 500; white-space: nowrap; padding-right: 12px; }
  tbody tr > * { border-bottom: 1px solid var(--rule); padding-block: 4px; padding-right: 12px; white-space: nowrap; vertical-align: baseline; }
  [data-right] { text-align: right !important; }
  b { font-weight: 650; }
  input { background: none; border: 0; border-bottom: 1px dotted var(--faint); padding: 0; width: 15ch; }
  input::placeholder { color: var(--faint); opacity: 1; }
  [data-right] input { width: 6ch; text-align: right; }
  td:last-child input { width: 19ch; }
  small { color: var(--faint); font-size: 12.5px; padding-left: 6px; }
  [aria-invalid] { color: var(--clay); }
`;
const KeptRows = styled.ul`
  border-top: 1px solid var(--ink); columns: 2 300px; column-gap: 28px;
  li { display: grid; grid-template-columns: 3ch 14ch minmax(0, 1fr); gap: 10px; padding: 2px 0; border-bottom: 1px solid var(--rule); break-inside: avoid; font-stretch: 84%; }
  i { font-style: normal; color: var(--faint); text-align: right; }
  input { background: none; border: 0; border-bottom: 1px dotted var(--faint); padding: 0; min-width: 0; }
  input::placeholder { color: var(--faint); opacity: 1; }
  span { color: var(--faint); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  b { font-weight: 550; color: var(--ink); }
`;
