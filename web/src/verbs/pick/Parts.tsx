import styled from "styled-components";
import type { Answer, Costs } from "../../api/client";
import { useWork } from "../../api/work";
import { figure, money, speed } from "../../kit/figures";
import { Heading, Word } from "../../kit/parts";
import { words } from "../../words";
import { Owned } from "./Owned";

const w = words.pick;

/** What has to be bought for an answer, how its boxes are linked, and what can be said of each model. */
export function Parts({ answer, letter }: { answer: Answer; letter: string }) {
  const { id, outcome, edit } = useWork();
  const { settings, stances } = outcome.project;
  const closetOf = (box: number) =>
    answer.closets.find((closet) => closet.closet_id === answer.boxes[box]?.closet_id)?.name ?? "";
  const stance = (model: string) => stances.find((other) => other.model === model);
  return (
    <section aria-label={w.parts(letter)}>
      <Heading>
        <h2>{w.parts(letter)}</h2>
        <span>
          {money(answer.price_minor, settings.currency)} {w.withoutCable}
        </span>
        <a href={`/api/projects/${id}/picks/${answer.aim}/parts.csv`} download>
          {w.csv}
        </a>
      </Heading>
      <Table>
        <tbody>
          {answer.parts.map((part) => {
            const said = stance(part.model);
            const isBox = part.kind === "router" || part.kind === "switch";
            return (
              <tr key={`${part.model}-${part.owned}`}>
                <th scope="row">
                  {part.name}
                  <span className="acts">
                    {isBox && (
                      <Word
                        aria-label={`${said?.pinned ? w.unpin : w.pin}: ${part.name}`}
                        onPress={() =>
                          edit({ type: "set_stance", model: part.model, pinned: said?.pinned ? 0 : part.quantity })
                        }
                      >
                        {said?.pinned ? w.unpin : w.pin}
                      </Word>
                    )}
                    <Owned model={part.model} name={part.name} />
                    <Word
                      aria-label={`${w.leaveOut}: ${part.name}`}
                      onPress={() => edit({ type: "set_stance", model: part.model, excluded: true, pinned: 0 })}
                    >
                      {w.leaveOut}
                    </Word>
                  </span>
                </th>
                <td>
                  {part.quantity}
                  {part.packs > 0 && <span className="packs">{w.packs(part.packs, part.pack)}</span>}
                </td>
                <td>{part.owned ? w.owned : money(part.total_minor, settings.currency)}</td>
              </tr>
            );
          })}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">{w.total}</th>
            <td />
            <td>{money(answer.price_minor, settings.currency)}</td>
          </tr>
          {outcome.balance.apart.map((line) => (
            <tr key={line.model}>
              <th scope="row">
                {line.name} <Faint>{w.apart}</Faint>
              </th>
              <td>{line.quantity}</td>
              <td>{money(line.total_minor, settings.currency)}</td>
            </tr>
          ))}
          {answer.costs && <Years costs={answer.costs} currency={settings.currency} />}
        </tfoot>
      </Table>
      {answer.links.length > 0 && (
        <>
          <h2>{w.links}</h2>
          <ul>
            {answer.links.map((link) => (
              <li key={`${link.upper}-${link.lower}`}>
                {link.closet_id != null && <b>{w.feeds(closetOf(link.upper), closetOf(link.lower))} </b>}
                {answer.boxes[link.upper]?.name} ({link.upper_end}) — {answer.boxes[link.lower]?.name} ({link.lower_end}
                ): {link.ends > 1 && `${link.ends} × `}
                {speed(link.rate_mbit)}, {w.carries} {figure(link.traffic_mbit)} Mbit/s, {figure(link.fill_percent)} %
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="caution">{w.caution}</p>
    </section>
  );
}

/** What comes every year, and all together over the horizon. */
function Years({ costs, currency }: { costs: Costs; currency: string }) {
  const lines = [
    ...(["licences_minor", "rent_minor"] as const).flatMap((key) =>
      costs[key] ? [[w.yearly[key], costs[key]] as const] : [],
    ),
    [w.energy(figure(Math.round(costs.energy_kwh))), costs.energy_minor] as const,
  ];
  return (
    <>
      {lines.map(([name, minor]) => (
        <tr key={name} className="year">
          <th scope="row">{name}</th>
          <td />
          <td>{money(minor, currency)}</td>
        </tr>
      ))}
      {costs.years > 0 && (
        <tr>
          <th scope="row">{w.overYears(costs.years)}</th>
          <td />
          <td>{money(costs.horizon_minor, currency)}</td>
        </tr>
      )}
    </>
  );
}

const Faint = styled.span`color: var(--faint);`;
const Table = styled.table`
  width: 100%; margin-bottom: 14px;
  tr { border-bottom: 1px solid var(--rule); }
  th { font-weight: 400; text-align: left; padding: 6px 8px 6px 0; }
  td { text-align: right; padding: 6px 0 6px 12px; white-space: nowrap; vertical-align: baseline; }
  .packs { display: block; color: var(--faint); font-size: 12.5px; }
  .acts { display: flex; gap: 12px; font-size: 12.5px; }
  tfoot tr { border-top: 1px solid var(--ink); border-bottom: 0; }
  tfoot th, tfoot td { font-weight: 650; }
  tfoot .year { border-top: 1px solid var(--rule); th, td { font-weight: 400; padding-block: 4px; } }
  ~ ul li { padding: 5px 0; border-bottom: 1px solid var(--rule); font-size: 13px; }
  ~ .caution { font: 14px/1.4 var(--voice); color: var(--faint); margin-top: 14px; }
`;
