import { account } from "./account";
import { data, type Edit, type Outcome, type Schemas } from "./client";

/** Files go as the body of a request as they are, which the generated client does not know how to do. */
async function send<T>(
  path: string,
  file: Blob,
  query: Record<string, string | undefined> = {},
  changeId?: string,
): Promise<T> {
  const given = Object.entries(query).filter((entry): entry is [string, string] => entry[1] !== undefined);
  const call = async () => {
    const response = await fetch(`${path}?${new URLSearchParams(given)}`, {
      method: "POST",
      body: file,
      headers: {
        "X-Account": encodeURIComponent(account()),
        ...(changeId ? { "Idempotency-Key": changeId } : {}),
      },
    });
    const body = await response.json().catch(() => undefined);
    return response.ok ? { data: body as T, response } : { error: body ?? {}, response };
  };
  return data<T>(call());
}

/** A new project from a project file, once for each id. */
export function importProject(file: Blob, changeId: string) {
  return send<Schemas["Created"]>("/api/projects/import", file, {}, changeId);
}

/** Keep a picture of a project: it comes back harmless, with its size and, where the file says it, its scale. */
export function keepPicture(id: number, file: Blob) {
  return send<Schemas["KeptPictureLine"]>(`/api/projects/${id}/pictures`, file);
}

/** What a list would add, with its columns as matched and what was said about it; nothing is changed. */
export function previewList(id: number, file: Blob, columns: string | undefined, answers: Schemas["Answers"]) {
  const said = { columns, answers: JSON.stringify(answers) };
  return send<Schemas["Preview"]>(`/api/projects/${id}/drops/preview`, file, said);
}

/** Add what a list holds, all or nothing, once for each id. */
export function importList(
  id: number,
  file: File,
  columns: string | undefined,
  answers: Schemas["Answers"],
  changeId: string,
) {
  const said = { columns, answers: JSON.stringify(answers), name: file.name };
  return send<Outcome>(`/api/projects/${id}/drops/import`, file, said, changeId);
}

/** The edits that add what a list of openings and walls holds; nothing is changed. */
export async function readOpenings(id: number, file: Blob): Promise<Edit[]> {
  const read = await send<Schemas["OpeningsRead"]>(`/api/projects/${id}/openings/read`, file);
  return read.edits as Edit[];
}

/** What a list of readings would add. */
export async function readReadings(id: number, file: Blob): Promise<Edit[]> {
  const read = await send<Schemas["ReadingsRead"]>(`/api/projects/${id}/signal/readings/read`, file);
  return read.edits as Edit[];
}

/** What a switch tells of its ports, as the edit that keeps it. */
export async function readNeighbours(id: number, file: Blob): Promise<Edit[]> {
  const read = await send<Schemas["NeighboursRead"]>(`/api/projects/${id}/patch/discovered/read`, file);
  return read.edits as Edit[];
}

/** What a list of payments would add. */
export async function readPaid(id: number, file: Blob): Promise<Edit[]> {
  const read = await send<Schemas["PaidRead"]>(`/api/projects/${id}/price/paid/read`, file);
  return read.edits as Edit[];
}

/** What a tester's file would add, and its lines that cannot be. */
export function readTests(id: number, file: Blob, now: string) {
  return send<Schemas["TestsRead"]>(`/api/projects/${id}/prove/tests/read`, file, { now });
}

/** Keep a price list beside a catalogue, to be looked into: it changes nothing yet. */
export function keepPrices(id: number, file: Blob) {
  return send<Schemas["KeptFile"]>(`/api/catalogues/${id}/files`, file);
}
