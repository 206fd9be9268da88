import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import { account } from "./account";
import { data, type Edit, http, type Outcome, type Schemas, Told } from "./client";
import { importList } from "./files";

/** What can be sent. */
export type Act =
  | { act: "edit"; edits: Edit[] }
  | { act: "undo" | "redo" }
  | { act: "import"; file: File; columns: string | undefined; answers: Schemas["Answers"] };

/** A change of a project that waits in this browser until the server has answered. */
export interface Change {
  /** Made here; the server does what it stands for once, however often it is sent. */
  id: string;
  project: number;
  account: string;
  /** The revision that its person saw. */
  seen: number;
  what: Act;
}

interface Kept extends DBSchema {
  changes: { key: number; value: Change; indexes: { project: number } };
}

const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 15000;

/** The changes that wait in this browser, kept so that they survive a closed tab. */
class Waiting {
  private readonly opened: Promise<IDBPDatabase<Kept> | null> = openDB<Kept>("baugrund", 1, {
    upgrade: (database) =>
      void database.createObjectStore("changes", { autoIncrement: true }).createIndex("project", "project"),
  }).catch(() => null); // a browser that keeps nothing still sends

  async keep(change: Change): Promise<number | null> {
    return (await (await this.opened)?.add("changes", change).catch(() => null)) ?? null;
  }

  async drop(key: number | null): Promise<void> {
    if (key !== null) await (await this.opened)?.delete("changes", key);
  }

  async get(key: number): Promise<Change | undefined> {
    return (await this.opened)?.get("changes", key);
  }

  /** How many changes of each project wait. */
  async counts(): Promise<Map<number, number>> {
    const counts = new Map<number, number>();
    for (const { project } of (await (await this.opened)?.getAll("changes")) ?? []) {
      counts.set(project, (counts.get(project) ?? 0) + 1);
    }
    return counts;
  }

  async keysOf(project: number): Promise<number[]> {
    return (await (await this.opened)?.getAllKeysFromIndex("changes", "project", project)) ?? [];
  }
}

export const waiting = new Waiting();

/** Sends the changes of one project, one after the other, until each is answered; knows no screen. */
export class Outbox {
  private turn: Promise<unknown> = Promise.resolve();
  private seen = 0;
  private count = 0;
  private isClosed = false;
  private hasGivenUp = false;

  constructor(
    private readonly project: number,
    private readonly on: {
      /** The project after a change. */
      answered: (outcome: Outcome) => void;
      /** Why a change was not made, in a sentence; it is not sent again. */
      refused: (why: string) => void;
      /** How many wait, and whether the server is away. */
      waits: (count: number, isAway: boolean) => void;
    },
  ) {}

  /** The revision that is on the screen now. */
  see(revision: number): void {
    this.seen = Math.max(this.seen, revision);
  }

  /** Wait until everything sent so far is answered. */
  get settled(): Promise<unknown> {
    return this.turn;
  }

  /** Send a change in its turn; whether it was made. */
  send(what: Act): Promise<boolean> {
    const change: Change = { id: newId(), project: this.project, account: account(), seen: this.seen, what };
    const kept = waiting.keep(change);
    return this.inTurn(change, kept);
  }

  /** Send what a tab that is closed by now left behind; gives how many changes. */
  async resume(): Promise<number> {
    const keys = await waiting.keysOf(this.project);
    const taken = await Promise.all(keys.map((key) => this.takeOver(key)));
    return taken.filter(Boolean).length;
  }

  /** The page is there: what the server does not take at once is sent again and again. */
  open(): void {
    this.isClosed = false;
    this.hasGivenUp = false;
  }

  /** The page goes: what the server does not take at once stays kept, and whoever opens the project next sends it. */
  close(): void {
    this.isClosed = true;
  }

  private async takeOver(key: number): Promise<boolean> {
    const change = await waiting.get(key);
    if (!change) return false;
    return locked(change.id, async (isFree) => {
      // the tab that made it is still there and sends it
      if (!isFree) return false;
      this.see(change.seen);
      return this.inTurn(change, Promise.resolve(key), true);
    });
  }

  private inTurn(change: Change, kept: Promise<number | null>, isLocked = false): Promise<boolean> {
    this.tell(1);
    const attempt = async () => {
      const key = await kept;
      const made = await this.untilAnswered(change);
      if (made !== null) await waiting.drop(key);
      return made === true;
    };
    const previous = this.turn;
    const waits = async () => {
      await previous;
      return attempt();
    };
    const done = (isLocked ? waits() : locked(change.id, waits)).finally(() => this.tell(-1));
    this.turn = done.catch(() => false);
    return done;
  }

  /** Whether it was made; null: the page went while the server was away, or did not answer an earlier change. */
  private async untilAnswered(change: Change): Promise<boolean | null> {
    let wait = FIRST_WAIT_MS;
    while (!this.hasGivenUp) {
      try {
        const outcome = await post(change, Math.max(change.seen, this.seen));
        this.see(outcome.revision);
        this.on.waits(this.count, false);
        this.on.answered(outcome);
        return true;
      } catch (error) {
        if (error instanceof Told && !error.passes) {
          this.on.refused(error.message);
          return false;
        }
        if (this.isClosed) {
          this.hasGivenUp = true;
          break;
        }
        this.on.waits(this.count, true);
        await new Promise((resolve) => setTimeout(resolve, wait));
        wait = Math.min(wait * 1.6, LONGEST_WAIT_MS);
      }
    }
    return null;
  }

  private tell(more: number): void {
    this.count += more;
    this.on.waits(this.count, false);
  }
}

/** An id for a change. */
export function newId(): string {
  return crypto.randomUUID();
}

/** Do something while holding what stands for a change, so that one tab sends it; ``isFree``: nobody else held it. */
function locked<T>(id: string, act: (isFree: boolean) => Promise<T>): Promise<T> {
  if (!navigator.locks) return act(true);
  return navigator.locks.request(`change ${id}`, { ifAvailable: true }, (lock) => act(lock !== null)) as Promise<T>;
}

function post(change: Change, seen: number): Promise<Outcome> {
  const given = {
    params: { path: { project_id: change.project }, header: { "Idempotency-Key": change.id } },
    headers: { "X-Account": encodeURIComponent(change.account) },
  };
  const { what } = change;
  switch (what.act) {
    case "edit": {
      const body = { seen_revision: seen, edits: what.edits };
      return data(http.POST("/api/projects/{project_id}/edits", { ...given, body }));
    }
    case "undo":
      return data(http.POST("/api/projects/{project_id}/undo", given));
    case "redo":
      return data(http.POST("/api/projects/{project_id}/redo", given));
    case "import":
      return importList(change.project, what.file, what.columns, what.answers, change.id);
  }
}
