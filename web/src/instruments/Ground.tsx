import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Button, Dialog, DialogTrigger, Popover } from "react-aria-components";
import { useLocation } from "react-router";
import styled from "styled-components";
import { type Capacity, type ClosetGround, data, http } from "../api/client";
import { isSearched, usePick, useWork } from "../api/work";
import { Choice, ChoiceButton } from "../kit/Choice";
import { figure } from "../kit/figures";
import { Word } from "../kit/parts";
import { NARROW } from "../kit/theme";
import { words } from "../words";
import { Horizon } from "./Horizon";
import { Hatching, Pit } from "./Pit";

const w = words.ground;
const SHARES_SHOWN = 60;

const WORST_FIRST = ["over", "full", "holds"] as const;

/** The closet whose ground is worst off: a capacity over, else one full; the first of them. */
function worst(closets: readonly ClosetGround[]): ClosetGround | undefined {
  const rank = (closet: ClosetGround) =>
    Math.min(3, ...closet.capacities.map((capacity) => WORST_FIRST.indexOf(capacity.verdict)));
  return [...closets].sort((a, b) => rank(a) - rank(b))[0];
}

/** Pits that stand side by side at the most, those of the whole site among them. */
const PITS_MOST = 9;

/** The pits that a verb shows: its own and those that do not hold, as many as there is room for; and the rest. */
function sorted(capacities: readonly Capacity[], verb: string | undefined, room: number) {
  const isBad = (capacity: Capacity) => capacity.verdict !== "holds";
  const mine = capacities.filter((capacity) => isBad(capacity) || capacity.verbs.some((one) => one === verb));
  const holding = mine.filter((capacity) => !isBad(capacity));
  const dropped = new Set(holding.slice(Math.max(0, room - (mine.length - holding.length))));
  const here = mine.filter((capacity) => !dropped.has(capacity));
  return { here, elsewhere: capacities.filter((capacity) => !here.includes(capacity)) };
}

/** The strip under every screen: one pit a capacity of a closet, filled by what the chosen boxes carry. */
export function Ground() {
  const { outcome } = useWork();
  const { settings, drops } = outcome.project;
  const { balance } = outcome;
  const [wanted, want] = useState<number | null>(null);
  const closet = balance.closets.find((one) => one.closet_id === wanted) ?? worst(balance.closets);
  const [all, showAll] = useState(false);
  const verb = useLocation().pathname.split("/")[3];
  const { here, elsewhere } = sorted(closet?.capacities ?? [], verb, PITS_MOST - balance.site.length);
  const pick = usePick(settings.aim, !balance.held);
  const searched = pick.isFetching || isSearched(pick.data?.underway);
  const stands = balance.held ? w.held : w.follows(words.aims[settings.aim]);
  return (
    <Strip aria-label={w.title}>
      <Hatching />
      <div className="horizon">
        <h2>{w.horizon}</h2>
        <Horizon />
        <p title={closet?.boxes.join(" · ")}>
          {balance.closets.length > 1 && closet ? (
            <Choice
              label={w.closet}
              value={String(closet.closet_id)}
              options={balance.closets.map((one) => [String(one.closet_id), one.name] as const)}
              set={async (number) => {
                want(Number(number));
                return true;
              }}
            />
          ) : (
            closet?.name
          )}
          , {stands}
        </p>
        <p role="status" className="working">
          {searched ? w.working : ""}
        </p>
      </div>
      {closet && here.length > 0 ? (
        <>
          <ol data-all={all || undefined}>
            {(all ? closet.capacities : here).map((capacity) => (
              <OpenablePit key={capacity.key} capacity={capacity} closetId={closet.closet_id} />
            ))}
            {elsewhere.length > 0 && (
              <li className="rest">
                <Word aria-expanded={all} onPress={() => showAll(!all)}>
                  {all ? w.fewer : w.others(elsewhere.map((capacity) => capacity.name))}
                </Word>
              </li>
            )}
          </ol>
          {balance.site.length > 0 && !all && (
            <div className="site">
              <h3>{w.site}</h3>
              <ol>
                {balance.site.map((capacity) => (
                  <OpenablePit key={capacity.key} capacity={capacity} closetId={balance.closets[0]?.closet_id ?? 0} />
                ))}
              </ol>
            </div>
          )}
        </>
      ) : (
        // what was found stands a moment before the ground has heard of it
        <p className="nothing">{!drops.length ? w.nothing : searched || pick.data?.answer ? w.working : w.unfit}</p>
      )}
    </Strip>
  );
}

/** Figures under a pit: what stands, what growth adds, of how much. */
function figures(capacity: Capacity): { used: string; rest: string } {
  const scale = capacity.key === "money" && capacity.limit >= 10_000 ? 1000 : 1;
  const unit = scale > 1 ? `k ${capacity.unit}` : capacity.unit;
  const growth = capacity.growth > 0 ? `+${figure(capacity.growth / scale)}` : "";
  return { used: figure(capacity.used / scale) + growth, rest: `of ${figure(capacity.limit / scale)} ${unit}` };
}

function OpenablePit({ capacity, closetId }: { capacity: Capacity; closetId: number }) {
  const { used, rest } = figures(capacity);
  return (
    <li data-verdict={capacity.verdict} data-capacity={capacity.key}>
      <DialogTrigger>
        <PitButton>
          <Pit capacity={capacity} />
          <strong>{capacity.name} </strong>
          <span>
            <b>{used}</b> {rest}{" "}
          </span>
          <em title={capacity.sentence}>{capacity.sentence}</em>
        </PitButton>
        <Opened placement="top">
          <Dialog aria-label={capacity.name}>
            <Detail capacity={capacity} closetId={closetId} />
          </Dialog>
        </Opened>
      </DialogTrigger>
    </li>
  );
}

function Detail({ capacity, closetId }: { capacity: Capacity; closetId: number }) {
  const { id, outcome } = useWork();
  const detail = useQuery({
    queryKey: ["capacity", id, closetId, outcome.revision, capacity.key, capacity.limit],
    queryFn: () =>
      data(
        http.GET("/api/projects/{project_id}/closets/{closet_id}/capacities/{key}", {
          params: { path: { project_id: id, closet_id: closetId, key: capacity.key } },
        }),
      ),
  });
  const shares = detail.data?.shares ?? [];
  return (
    <>
      <h2>
        {capacity.name} <span>{capacity.sentence}</span>
      </h2>
      {detail.data && (
        <>
          <h3>{w.formula}</h3>
          <p>{detail.data.formula}</p>
          <h3>{w.source}</h3>
          <p>{detail.data.source}</p>
          {shares.length > 0 && <h3>{w.madeUp}</h3>}
          <ul>
            {shares.slice(0, SHARES_SHOWN).map((share, place) => (
              <li key={`${share.drop_id ?? place}-${share.label}`}>
                <span>{share.label}</span>
                <b>
                  {figure(share.amount)} {capacity.unit}
                </b>
              </li>
            ))}
          </ul>
          {shares.length > SHARES_SHOWN && <p>{w.more(shares.length - SHARES_SHOWN)}</p>}
        </>
      )}
    </>
  );
}

const Strip = styled.section`
  grid-area: ground; position: relative; display: flex; gap: 46px; padding: 6px 20px 7px; height: 146px; overflow: hidden;
  background:
    linear-gradient(var(--paper) 36px, var(--ink) 36px, var(--ink) 38px, transparent 38px),
    repeating-linear-gradient(115deg, transparent 0 15px, var(--rule) 15px 16.4px) 0 38px / 100% 8px no-repeat,
    var(--earth);
  .horizon { width: 158px; flex: none; }
  .horizon h2 { margin-bottom: 18px; }
  .horizon > p { font-size: 12.5px; color: var(--faint); margin-top: 3px; line-height: 1.25; }
  .horizon ${ChoiceButton} { max-width: 150px; font-weight: 600; color: var(--ink); border-bottom-color: var(--ink); }
  .horizon .working { color: var(--slate); margin-top: 1px; }
  ol { display: flex; gap: 8px; flex: 1; justify-content: space-between; min-width: 0; overflow: visible; margin-top: 18px; }
  ol[data-all] { overflow: auto hidden; margin: 0 0 -7px; padding: 18px 0 7px; }
  ol .rest { align-self: end; max-width: 112px; font-size: 12.5px; line-height: 1.2; }
  .rest button { white-space: normal; }
  .site { flex: none; border-left: 1px solid var(--rule); margin: 40px 0 0 -22px; padding-left: 22px; position: relative; }
  .site h3 { position: absolute; top: -36px; font-size: 12.5px; font-weight: 400; color: var(--faint); }
  .site ol { margin-top: -22px; }
  .nothing { font: 15px var(--voice); padding-top: 62px; color: var(--faint); }
  ${NARROW} {
    height: auto; flex-direction: column; gap: 8px; overflow: visible; background: var(--earth);
    border-top: 2px solid var(--ink);
    ol { overflow-x: auto; padding-bottom: 8px; margin-top: 0; }
    .site { border-left: 0; margin: 0; padding-left: 0; }
    .site h3 { position: static; }
    .site ol { margin-top: 0; }
    .nothing { padding: 0 0 10px; }
  }
  @media print { break-inside: avoid; }
`;

const PitButton = styled(Button)`
  background: none; border: 0; padding: 0 2px; text-align: left; cursor: pointer; display: grid; line-height: 1.2;
  white-space: nowrap; font-size: 12.5px; min-width: 86px;
  > svg { margin-bottom: 2px; }
  strong { font-weight: 650; }
  span { color: var(--faint); }
  b { color: var(--ink); font-weight: 650; }
  em { font-style: normal; color: var(--moss); max-width: 132px; overflow: hidden; text-overflow: ellipsis; }
  [data-verdict="full"] & em { color: var(--ochre); }
  [data-verdict="over"] & em { color: var(--clay); font-weight: 600; }
`;

const Opened = styled(Popover)`
  background: var(--sheet); border: 1px solid var(--ink); width: 380px; max-width: 94vw; max-height: 68vh; overflow: auto;
  > section { padding: 12px 16px; outline: none; }
  h2 { font: 600 18px var(--voice); margin-bottom: 4px; span { font: 13.5px var(--data); color: var(--faint); } }
  h3 { font-size: 12.5px; font-weight: 600; color: var(--faint); margin-top: 8px; }
  li { display: flex; justify-content: space-between; gap: 12px; padding: 3px 0; border-bottom: 1px solid var(--rule); }
  b { font-weight: 600; white-space: nowrap; }
`;
