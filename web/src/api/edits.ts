import type { Outcome, Project, Schemas } from "./client";

type Generated = Schemas["Edits"]["edits"][number];
export type ListName = Schemas["AddEntry"]["list"];
/** A row of a list of the project. */
export type Row<List extends ListName> = NonNullable<Project[List]>[number];
/** Some fields of a row of a list. */
export type Values<List extends ListName> = Partial<Omit<Row<List>, "id">>;

interface Added<List extends ListName> {
  type: "add_entry";
  list: List;
  values: Values<List>;
}

interface Changed<List extends ListName> {
  type: "change_entry";
  list: List;
  id: number;
  changes: Values<List>;
}

/** An edit as the server takes it; entries of lists have the fields of the list's own rows. */
export type Edit =
  | Exclude<Generated, { type: "add_entry" | "change_entry" }>
  | { [List in ListName]: Added<List> | Changed<List> }[ListName];

/** An entry added to a list. */
export function addTo<List extends ListName>(list: List, values: Values<List>): Edit {
  return { type: "add_entry", list, values } as Edit;
}

/** Fields of an entry changed. */
export function changeIn<List extends ListName>(list: List, id: number, changes: Values<List>): Edit {
  return { type: "change_entry", list, id, changes } as Edit;
}

/** What says something in the last row of a list with these fields: a change of it, or its addition. */
export function rowToPut<List extends ListName>(
  outcome: Outcome | undefined,
  list: List,
  of: Values<List>,
  said: Values<List>,
): Edit {
  const rows = (outcome?.project[list] ?? []) as Row<List>[];
  const row = rows.findLast((one) => Object.entries(of).every(([key, value]) => one[key as keyof Row<List>] === value));
  return row ? changeIn(list, row.id, said) : addTo(list, { ...of, ...said });
}
