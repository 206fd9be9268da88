import { Link } from "react-router";
import styled from "styled-components";
import { AIMS } from "../../api/client";
import { usePick, useWork } from "../../api/work";
import { Mark } from "../../instruments/Findings";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { Ahead } from "./Ahead";
import { AnswerColumn } from "./AnswerColumn";
import { Beyond } from "./Beyond";
import { Parts } from "./Parts";
import { Terms } from "./Terms";
import { WhyNotList } from "./WhyNotList";

const w = words.pick;
export const LETTERS = { least_price: "A", fewest_boxes: "B", most_room: "C", least_power: "D" } as const;

/** Whole answers side by side, why not the other models, and the parts of the chosen one. */
export function Pick() {
  const { id, outcome } = useWork();
  const { settings, drops } = outcome.project;
  const cheapest = usePick("least_price");
  const fits = Boolean(cheapest.data?.answer);
  const others = {
    least_price: cheapest,
    fewest_boxes: usePick("fewest_boxes", fits),
    most_room: usePick("most_room", fits),
    least_power: usePick("least_power", fits),
  };
  if (!drops.length) {
    return (
      <Empty>
        <p>{w.noDrops}</p>
        <Link to={`/projects/${id}/walk`}>{w.goWalk}</Link>
      </Empty>
    );
  }
  const settled = cheapest.data && !cheapest.data.underway;
  const relax = settled && !cheapest.data.answer ? cheapest.data.relax : null;
  const chosen = others[settings.aim].data?.answer;
  return (
    <Page>
      <Terms />
      {relax ? (
        <Nothing role="status">
          <h2>
            <Mark weight="breaks" /> {w.nothing}
          </h2>
          {relax.length ? (
            <>
              <p>{w.relax}</p>
              <ul>
                {relax.map((limit) => (
                  <li key={limit.limit}>{limit.sentence}</li>
                ))}
              </ul>
            </>
          ) : (
            <p>{w.several}</p>
          )}
        </Nothing>
      ) : (
        <>
          <Columns>
            {AIMS.map((aim) => (
              <AnswerColumn key={aim} aim={aim} query={others[aim]} cheapest={cheapest.data?.answer ?? null} />
            ))}
          </Columns>
          {chosen && !others[settings.aim].data?.underway && (
            <Ahead
              aim={settings.aim}
              letter={LETTERS[settings.aim]}
              revision={others[settings.aim].data?.revision ?? 0}
            />
          )}
          {chosen && <Beyond revision={cheapest.data?.revision ?? 0} />}
          <Lower>
            <WhyNotList aim={settings.aim} />
            {chosen && <Parts answer={chosen} letter={LETTERS[settings.aim]} />}
          </Lower>
        </>
      )}
    </Page>
  );
}

const Page = styled.div`
  min-height: 100%;
`;

const Columns = styled.div`
  display: grid; grid-template-columns: repeat(4, minmax(0, 1fr)); border-bottom: 1px solid var(--ink);
  > * + * { border-left: 1px solid var(--rule); }
  @media (max-width: 1080px) { grid-template-columns: repeat(2, minmax(0, 1fr)); }
  @media (max-width: 560px) { grid-template-columns: minmax(0, 1fr); > * + * { border-left: 0; } }
`;

const Lower = styled.div`
  display: grid; grid-template-columns: minmax(0, 1.5fr) minmax(330px, 1fr);
  > * { padding: 8px 16px 20px; min-width: 0; }
  > * + * { border-left: 1px solid var(--rule); }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); > * + * { border-left: 0; border-top: 1px solid var(--rule); } }
`;

const Empty = styled.div`
  padding: 42px 16px 20px 40px; font: 17px var(--voice); display: grid; gap: 10px; justify-items: start;
`;

const Nothing = styled.div`
  padding: 28px 16px 20px 32px; font: 16px/1.45 var(--voice);
  h2 { font: 600 26px var(--voice); color: var(--clay); margin-bottom: 8px; }
  li { padding: 7px 0; border-bottom: 1px solid var(--rule); max-width: 640px; }
`;
