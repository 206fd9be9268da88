import styled from "styled-components";
import type { Edit, PatchFor } from "../../api/client";
import { changeIn } from "../../api/edits";
import { readNeighbours } from "../../api/files";
import { useWork } from "../../api/work";
import { Findings } from "../../instruments/Findings";
import { FromDevice } from "../../instruments/FromDevice";
import { Heading, Word } from "../../kit/parts";
import { NARROW } from "../../kit/theme";
import { words } from "../../words";
import { usePatch } from "./usePatch";

const w = words.found;
type Difference = PatchFor["compared"]["differences"][number];

/** What switches tell of their ports beside the plan: each difference is mended on site or taken as built. */
export function FoundView() {
  const patch = usePatch();
  if (!patch) return null;
  const { compared, revision } = patch;
  const open = compared.differences.filter((one) => !one.mend);
  const mending = compared.differences.filter((one) => one.mend);
  return (
    <Page>
      <div>
        <Ask />
        <section aria-label={w.title}>
          <Heading>
            <h2>{w.title}</h2>
            <span>{compared.told > 0 && w.sum(compared.told, compared.same)}</span>
          </Heading>
          {compared.told === 0 && <p>{w.none}</p>}
          {compared.told > 0 && !compared.differences.length && <p>{w.all}</p>}
          <List>
            {open.map((one) => (
              <Line key={`${one.row_id} ${one.kind}`} one={one} revision={revision} />
            ))}
          </List>
        </section>
        {mending.length > 0 && (
          <section aria-label={w.mending}>
            <Heading>
              <h2>{w.mending}</h2>
            </Heading>
            <List>
              {mending.map((one) => (
                <Line key={`${one.row_id} ${one.kind}`} one={one} revision={revision} />
              ))}
            </List>
          </section>
        )}
      </div>
      <div>
        <Findings verb="patch" />
      </div>
    </Page>
  );
}

/** Where what is told comes from: a file, or a simulated switch over HTTP. */
function Ask() {
  const { id, edit } = useWork();
  return (
    <FromDevice
      words={w}
      address={(seed) => `/api/projects/${id}/patch/simulated-switch?seed=${seed}`}
      take={async (told) => edit(...(await readNeighbours(id, told)))}
    />
  );
}

/** A difference with what settles it, unless the project has changed since it was told. */
function Line({ one, revision }: { one: Difference; revision: number }) {
  const { edit, outcome } = useWork();
  const settles = revision === outcome.revision;
  return (
    <li data-mend={one.mend || undefined}>
      <b>{one.at_port}</b>
      <i>{w.kinds[one.kind]}</i>
      <p>{one.text}</p>
      <span>
        {settles && (
          <Word onPress={() => edit(changeIn("discovered", one.row_id, { mend: !one.mend }))}>
            {one.mend ? w.keep : w.mend}
          </Word>
        )}
        {settles && one.take.length > 0 && <Word onPress={() => edit(...(one.take as Edit[]))}>{w.take}</Word>}
      </span>
    </li>
  );
}

const Page = styled.div`
  display: grid; grid-template-columns: minmax(0, 1fr) 306px; gap: 26px; padding: 8px 16px 20px;
  > div { display: grid; gap: 16px; align-content: start; min-width: 0; grid-template-columns: minmax(0, 1fr); }
  section > p { font: 16px/1.4 var(--voice); color: var(--faint); padding: 8px 0; }
  ${NARROW} { grid-template-columns: minmax(0, 1fr); }
`;
const List = styled.ul`
  border-top: 1px solid var(--ink);
  li {
    display: grid; grid-template-columns: 6ch 14ch minmax(0, 1fr) auto; gap: 4px 14px; padding: 7px 0; align-items: baseline;
    border-bottom: 1px solid var(--rule);
  }
  b { font: 600 16px var(--voice); }
  i { font-style: normal; color: var(--ochre); }
  p { font: 16px/1.35 var(--voice); }
  span { display: flex; gap: 16px; }
  li[data-mend] p { color: var(--faint); }
  ${NARROW} { li { grid-template-columns: 6ch minmax(0, 1fr); } li > p, li > span { grid-column: 1 / -1; } }
`;
