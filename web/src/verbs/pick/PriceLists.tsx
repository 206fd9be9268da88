import { Link } from "react-router";
import styled from "styled-components";
import { data, http } from "../../api/client";
import { addTo, changeIn } from "../../api/edits";
import { useOfRevision, useWork } from "../../api/work";
import { useCatalogues } from "../../catalogues/useCatalogue";
import { Term, Word } from "../../kit/parts";
import { words } from "../../words";

const w = words.priceLists;
const SHOWN = 6;

/** The price lists that the project is picked from, and the offer of a newer edition with what it would change. */
export function PriceLists() {
  const { outcome, edit } = useWork();
  const rows = outcome.project.price_lists ?? [];
  const lists = useOfRevision("price-lists", (path, signal) =>
    data(http.GET("/api/projects/{project_id}/price-lists", { params: { path }, signal })),
  );
  const all = useCatalogues();
  if (!lists?.length) return null;
  const newer = lists.reduce((sum, list) => sum + list.differences.length, 0);
  const days = lists.map((list) => list.priced_on).sort();
  const others = all.data?.filter(
    (line) => line.currency === lists[0]?.currency && !lists.some((list) => list.catalogue_id === line.id),
  );
  return (
    <Term text={newer ? <b>{w.newer(newer)}</b> : w.term(days[0] ?? "")} label={w.label}>
      <small>{w.why}</small>
      {lists.map((list) => (
        <Listed key={list.catalogue_id}>
          <h3>{list.name}</h3>
          <p>
            {words.catalogues.edition(list.edition)}, {words.catalogues.priced} {list.priced_on},{" "}
            {words.catalogues.taxes[list.tax]}
            {list.edition === list.newest && `, ${w.current}`}
          </p>
          {list.differences.slice(0, SHOWN).map((one) => (
            <p key={one.key} className="change">
              {one.name}: {one.told}
            </p>
          ))}
          {list.differences.length > SHOWN && <p>{w.andMore(list.differences.length - SHOWN)}</p>}
          <p className="acts">
            {list.id != null && list.edition < list.newest && (
              <Word onPress={() => edit(changeIn("price_lists", list.id ?? 0, { edition: list.newest }))}>
                {w.take(list.newest, list.newest_priced_on)}
              </Word>
            )}
            {list.id != null && rows.length > 1 && (
              <Word onPress={() => edit({ type: "remove_entry", list: "price_lists", id: list.id ?? 0 })}>
                {w.leaveOut}
              </Word>
            )}
          </p>
        </Listed>
      ))}
      {rows.length > 0 &&
        others?.map((line) => (
          <Listed key={line.id}>
            <h3>{line.name}</h3>
            <p className="acts">
              <Word onPress={() => edit(addTo("price_lists", { catalogue_id: line.id, edition: line.edition }))}>
                {w.add}
              </Word>
            </p>
          </Listed>
        ))}
      <Link to={`/catalogues/${lists[0]?.catalogue_id}`}>{w.open}</Link>
    </Term>
  );
}

const Listed = styled.div`
  border-top: 1px solid var(--rule); padding-top: 5px; display: grid; gap: 2px;
  h3 { font-size: 13.5px; font-weight: 600; margin: 0; }
  p { color: var(--faint); font-size: 12.5px; }
  .change { color: var(--ink); }
  .acts { display: flex; gap: 14px; }
`;
