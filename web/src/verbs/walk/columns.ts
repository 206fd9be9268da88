import type { Drop, KindLine, Project } from "../../api/client";

/** A column of the tally: a kind of drop, or one of the project's own. */
export interface Column {
  id: string;
  kind: KindLine["key"];
  own: number | null;
  plural: string;
  head: string;
  powered: boolean;
}

/** The column that a drop is counted in. */
export function columnOf(drop: Drop): string {
  return drop.own_kind_id == null ? drop.kind : `own-${drop.own_kind_id}`;
}

/** All columns: the kinds there are, then the project's own. */
export function columnsOf(kinds: readonly KindLine[], ownKinds: Project["own_kinds"]): Column[] {
  return [
    ...kinds.map(({ key, plural, column, powered }) => ({
      id: key,
      kind: key,
      own: null,
      plural,
      head: column,
      powered,
    })),
    ...ownKinds.map((own) => ({
      id: `own-${own.id}`,
      kind: own.base,
      own: own.id,
      plural: own.name,
      head: own.name,
      powered: own.poe_class != null,
    })),
  ];
}
