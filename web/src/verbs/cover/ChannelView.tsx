import styled from "styled-components";
import { type Band, type ChannelsFor, data, type Edit, http, type SignalFor } from "../../api/client";
import { useAsked, useLastReply, useSearch, useSettled, useWork } from "../../api/work";
import { EntryList } from "../../instruments/EntryList";
import { Findings } from "../../instruments/Findings";
import { Searching } from "../../instruments/Searching";
import { Choice, optionsOf } from "../../kit/Choice";
import { exact, figure } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { Line, Sheet } from "../../kit/sheet";
import { Tick } from "../../kit/Tick";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { Caution, CoverPage } from "./page";
import { useSayOfRadio, useSignal } from "./useSignal";

const w = words.channels;
type BandPlans = NonNullable<ChannelsFor["reply"]>["bands"][number];

/** The channel of every access point as it is set, beside the plans that share least, by width. */
export function ChannelView() {
  const { id, outcome, edit } = useWork();
  const settled = useSettled(outcome.revision);
  const asked = useAsked<ChannelsFor>(["channels", settled], true, (signal) =>
    data(http.GET("/api/projects/{project_id}/signal/channels", { params: { path: { project_id: id } }, signal })),
  ).data;
  const { stop, again } = useSearch({ type: "channels" });
  const found = useLastReply(asked);
  const signal = useSignal();
  const { settings } = outcome.project;
  const underway = asked?.underway;
  return (
    <CoverPage>
      <div>
        <Heading>
          <h2>{w.title}</h2>
          <a href={`/api/projects/${id}/signal/channels.csv`}>{w.file}</a>
        </Heading>
        <p>{found?.reply?.why_not ? `${found.reply.why_not}.` : w.lead}</p>
        <Searching underway={underway} told={w.searching} stop={stop} again={again} />
        {signal?.bands.map((band) => (
          <BandTable
            key={band}
            band={band}
            signal={signal}
            plans={found?.reply?.bands.find((one) => one.band === band)}
            isOld={found?.revision !== outcome.revision}
          />
        ))}
        {signal && <NeighbourList signal={signal} />}
      </div>
      <div>
        <Sheet aria-label={w.region}>
          <Line label={w.region}>
            <Choice
              label={w.region}
              value={settings.region ?? "etsi"}
              options={optionsOf(w.regions)}
              set={(region) => edit({ type: "change_settings", changes: { region } })}
            />
          </Line>
          <Tick
            label={w.avoid}
            value={settings.avoid_radar ?? false}
            set={(avoid_radar) => edit({ type: "change_settings", changes: { avoid_radar } })}
          >
            {w.avoid}
          </Tick>
          {signal && (
            <Line label={w.beacons}>
              <Beacons title={w.beaconsWhy}>
                {signal.beacons
                  .filter((one) => signal.bands.includes(one.band))
                  .map((one) => (
                    <span key={one.band}>
                      {w.beaconsAre(
                        words.signal.bands[one.band],
                        exact(Math.round(one.off * 1e4) / 100),
                        exact(Math.round(one.kept * 1e4) / 100),
                      )}
                    </span>
                  ))}
                <i>{w.beaconsWhy}</i>
              </Beacons>
            </Line>
          )}
          <Caution>{words.station.caution}</Caution>
        </Sheet>
        <Findings verb="cover" />
      </div>
    </CoverPage>
  );
}

function BandTable(props: { band: Band; signal: SignalFor; plans: BandPlans | undefined; isOld: boolean }) {
  const { band, signal, plans } = props;
  const { outcome, edit } = useWork();
  const say = useSayOfRadio();
  const title = words.signal.bands[band];
  const rows = signal.stations.flatMap((station) => {
    const radio = station.radios.find((one) => one.band === band);
    return radio ? [{ station, radio }] : [];
  });
  return (
    <Table aria-label={title} data-old={props.isOld || undefined}>
      <thead>
        <tr>
          <th scope="col">{title}</th>
          <th scope="col">{w.now}</th>
          <th scope="col">{w.keep}</th>
          {plans?.plans.map((plan) => (
            <th key={plan.width_mhz} scope="col" data-best={plan.width_mhz === plans.best_width || undefined}>
              {`${plan.width_mhz} MHz`}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ station, radio }) => {
          const row = outcome.project.radios?.find((one) => one.drop_id === station.drop_id && one.band === band);
          const listed = signal.channels.filter((one) => one.band === band && one.width_mhz === radio.width_mhz);
          const channels = listed.map((one) => [String(one.channel), String(one.channel)] as const);
          const now = radio.channel == null ? "" : String(radio.channel);
          const stray = now && !listed.some((one) => String(one.channel) === now) ? [[now, now] as const] : [];
          return (
            <tr key={station.drop_id}>
              <th scope="row">{station.name}</th>
              <td>
                <Choice
                  label={`${words.station.channel}, ${station.name}, ${title}`}
                  value={now}
                  options={[["", words.station.noChannel], ...stray, ...channels]}
                  set={(channel) => say(station.drop_id, band, { channel: channel ? Number(channel) : null })}
                />
                <i>{`/${radio.width_mhz}`}</i>
              </td>
              <td>
                <Tick
                  label={`${w.keep}: ${station.name}, ${title}`}
                  value={row?.kept ?? false}
                  set={(kept) => say(station.drop_id, band, { kept })}
                />
              </td>
              {plans?.plans.map((plan) => {
                const set = plan.channels.find((one) => one.drop_id === station.drop_id);
                return (
                  <td key={plan.width_mhz} data-new={(set && set.channel !== radio.channel) || undefined}>
                    {set && <b>{set.channel}</b>}
                    {set && <i>{` ${set.radar ? `${w.radar} ` : ""}${figure(set.shared * 100)} %`}</i>}
                  </td>
                );
              })}
            </tr>
          );
        })}
      </tbody>
      {plans && (
        <tfoot>
          <tr>
            <td>{w.sum}</td>
            <td colSpan={2}>{plans.now_shared == null ? w.notSet : w.nowShared(figure(plans.now_shared * 100))}</td>
            {plans.plans.map((plan) => (
              <td key={plan.width_mhz}>
                <span>
                  {plan.counted_by_pairs ? w.pairs : w.shares(figure(plan.shared * 100), figure(plan.own * 100))}
                </span>
                <i>
                  {plan.proven ? w.proven : w.atLeast(figure(plan.bound * 100))}
                  {plan.width_mhz === plans.best_width && !plan.counted_by_pairs ? `, ${w.best}` : ""}
                </i>
                {plan.edits.length > 0 && (
                  <Word isDisabled={props.isOld} onPress={() => edit(...(plan.edits as Edit[]))}>
                    {w.use}
                  </Word>
                )}
              </td>
            ))}
          </tr>
          {plans.powers.length > 0 && (
            <tr>
              <td />
              <td colSpan={2 + plans.plans.length}>
                <span>
                  {w.power(
                    plans.powers.length,
                    figure(plans.saves * 100),
                    figure(plans.own_then * 100),
                    figure(plans.shared_then * 100),
                  )}
                </span>
                <Word isDisabled={props.isOld} onPress={() => edit(...(plans.power_edits as Edit[]))}>
                  {w.usePower}
                </Word>
              </td>
            </tr>
          )}
        </tfoot>
      )}
    </Table>
  );
}

/** Other people's Wi-Fi as access points hear it. */
function NeighbourList({ signal }: { signal: SignalFor }) {
  const { outcome } = useWork();
  const stations = signal.stations.map((one) => [String(one.drop_id), one.name] as const);
  const [first] = signal.stations;
  if (!first) return null;
  return (
    <EntryList
      title={w.neighbours}
      lead={w.neighboursLead}
      list="neighbours"
      rows={outcome.project.neighbours ?? []}
      name={(one) => one.name || `${w.channel} ${one.channel}`}
      fields={[
        { key: "name", as: { type: "text", width: 14, placeholder: words.obstacles.name } },
        { key: "drop_id", before: w.heardBy, as: { type: "choice", numeric: true, options: stations } },
        { key: "band", as: { type: "choice", options: optionsOf(words.signal.bands) } },
        { key: "channel", before: w.channel, as: { type: "number", least: 1, most: 233 } },
        { key: "dbm", before: w.dbm, as: { type: "number", least: -120, most: 0 }, after: "dBm" },
        {
          key: "busy_percent",
          before: w.busy,
          as: { type: "number", least: 0, most: 100 },
          after: "%",
        },
      ]}
      add={{
        label: w.addNeighbour,
        options: optionsOf(words.signal.bands),
        values: (band) => ({ band, drop_id: first.drop_id, channel: band === "5" ? 36 : 1, dbm: -75 }),
      }}
    />
  );
}

const Beacons = styled.span`
  display: grid;
  && i { white-space: normal; }
`;
const Table = styled.table`
  border-collapse: collapse; width: 100%; table-layout: fixed;
  &[data-old] td[data-new], &[data-old] tfoot { opacity: 0.6; }
  th, td { text-align: left; padding: 4px 10px 4px 2px; border-bottom: 1px solid var(--rule); vertical-align: baseline; font-weight: 400; }
  thead th { font-weight: 600; border-bottom-color: var(--ink); }
  thead th[data-best] { color: var(--moss); }
  th:first-child { width: 28%; }
  th:nth-child(2) { width: 11%; }
  th:nth-child(3) { width: 8%; }
  tbody th { font-weight: 550; }
  i { font-style: normal; color: var(--faint); }
  td[data-new] b { color: var(--clay); }
  tfoot td { color: var(--faint); border-bottom: 0; }
  tfoot td > * { display: block; }
  ${NARROW} { display: block; overflow-x: auto; }
`;
