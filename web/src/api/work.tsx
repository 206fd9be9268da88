import { keepPreviousData, type Query, useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useRef, useState } from "react";
import { writeFiguresAs } from "../kit/figures";
import { words } from "../words";
import {
  type Aim,
  data,
  type Edit,
  http,
  isRefused,
  type KindLine,
  type Outcome,
  type PickFor,
  type Question,
  type Underway,
} from "./client";
import { type ListName, rowToPut, type Values } from "./edits";
import { type Act, Outbox } from "./outbox";
import { listen } from "./word";

/** What the ledger, tally and findings have chosen together. */
export interface Chosen {
  roomId: number | null;
  kind: string | null;
  drops: ReadonlySet<number>;
  path: number | null;
}

const NOTHING: Chosen = { roomId: null, kind: null, drops: new Set(), path: null };

export interface Work {
  id: number;
  outcome: Outcome;
  kinds: readonly KindLine[];
  saving: boolean;
  /** Changes that wait in this browser because the server is away. */
  waiting: number;
  choose: (chosen: Partial<Chosen>) => void;
  say: (notice: string) => void;
  edit: (...edits: Edit[]) => Promise<boolean>;
  /** Says something in the last row of a list with these fields, which is added where there is none. */
  put: <List extends ListName>(list: List, of: Values<List>, said: Values<List>) => Promise<boolean>;
  undo: () => void;
  redo: () => void;
  /** Any act that changes the project: it takes its turn; whether it was done. */
  send: (act: Act) => Promise<boolean>;
}

const WorkContext = createContext<Work | null>(null);
const ChosenContext = createContext<Chosen>(NOTHING);
const NoticeContext = createContext("");

export function useWork(): Work {
  const work = useContext(WorkContext);
  if (!work) throw new Error("no project is open");
  return work;
}

/** What is chosen; apart from the work, so that a choice redraws only what shows it. */
export const useChosen = () => useContext(ChosenContext);

/** What the notice says; empty: nothing. */
export const useNotice = () => useContext(NoticeContext);

/** One open project: its state, and the one door through which it is edited, one edit after the other. */
export function WorkProvider(props: {
  id: number;
  children: ReactNode;
  waiting: ReactNode;
  failed: (why: string) => ReactNode;
}) {
  const { id } = props;
  const cache = useQueryClient();
  const key = useMemo(() => ["state", id] as const, [id]);
  const state = useQuery({
    queryKey: key,
    queryFn: async () => {
      const fresh = await data(http.GET("/api/projects/{project_id}/state", { params: { path: { project_id: id } } }));
      // an edit may have been answered while this was on its way: what is older never replaces what is newer
      const known = cache.getQueryData<Outcome>(key);
      return known && known.revision > fresh.revision ? known : fresh;
    },
  });
  const kinds = useQuery({ queryKey: ["kinds"], queryFn: () => data(http.GET("/api/kinds")), staleTime: Infinity });
  const [sent, setSent] = useState({ count: 0, isAway: false });
  const [notice, say] = useState("");
  const [chosen, setChosen] = useState<Chosen>(NOTHING);
  const outbox = useMemo(
    () =>
      new Outbox(id, {
        answered: (outcome) => {
          const known = cache.getQueryData<Outcome>(key);
          if (!known || known.revision <= outcome.revision) cache.setQueryData(key, outcome);
          say("");
        },
        refused: (why) => {
          say(why);
          cache.invalidateQueries({ queryKey: key });
        },
        waits: (count, isAway) => {
          setSent({ count, isAway });
          if (isAway) say(words.offline);
        },
      }),
    [id, cache, key],
  );
  useEffect(() => {
    // a page that is left and comes back, as in development, goes on sending
    outbox.open();
    outbox.resume().then((count) => count > 0 && say(words.resent(count)));
    return () => outbox.close();
  }, [outbox]);
  if (state.data) outbox.see(state.data.revision);

  const send = useCallback((act: Act) => outbox.send(act), [outbox]);
  const edit = useCallback((...edits: Edit[]) => send({ act: "edit", edits }), [send]);
  const putting = useRef(Promise.resolve(true));
  const put = useCallback(
    <List extends ListName>(list: List, of: Values<List>, said: Values<List>) => {
      const now = () => rowToPut(cache.getQueryData<Outcome>(key), list, of, said);
      const first = now();
      if (first.type === "change_entry") return edit(first);
      // what is said right after it finds the row that this adds
      putting.current = putting.current.then(() => edit(now()));
      return putting.current;
    },
    [cache, key, edit],
  );
  const undo = useCallback(() => void send({ act: "undo" }), [send]);
  const redo = useCallback(() => void send({ act: "redo" }), [send]);
  const choose = useCallback((next: Partial<Chosen>) => setChosen((now) => ({ ...now, ...next })), []);

  useEffect(
    () =>
      listen((word) => {
        if (word.again) {
          cache.invalidateQueries({ queryKey: key, predicate: ({ state }) => !isRefused(state.error) });
          cache.invalidateQueries({ queryKey: ["asked", id] });
        }
        if (word.project !== id) return;
        if (word.question) {
          cache.invalidateQueries({ queryKey: ["asked", id], predicate: ({ state }) => !isSettled(state.data) });
          return;
        }
        // word of one's own edit arrives while its answer is on the way: only what is newer is fetched
        outbox.settled.then(() => {
          const mine = cache.getQueryData<Outcome>(key)?.revision ?? 0;
          if ((word.revision ?? 0) > mine) cache.invalidateQueries({ queryKey: key });
        });
      }),
    [id, cache, key, outbox],
  );

  if (state.data) writeFiguresAs(state.data.project.settings);
  const work = useMemo<Work | null>(
    () =>
      state.data && kinds.data
        ? {
            id,
            outcome: state.data,
            kinds: kinds.data,
            saving: sent.count > 0,
            waiting: sent.isAway ? sent.count : 0,
            choose,
            say,
            edit,
            put,
            undo,
            redo,
            send,
          }
        : null,
    [id, state.data, kinds.data, sent, choose, edit, put, undo, redo, send],
  );
  if (state.error && !state.data) return <>{props.failed(state.error.message)}</>;
  if (!work) return <>{props.waiting}</>;
  return (
    <WorkContext.Provider value={work}>
      <ChosenContext.Provider value={chosen}>
        <NoticeContext.Provider value={notice}>{props.children}</NoticeContext.Provider>
      </ChosenContext.Provider>
    </WorkContext.Provider>
  );
}

/** What the server computes for the project as it stands; the last one stays on screen while the next comes. */
export function useOfRevision<T>(
  name: string,
  get: (path: { project_id: number }, signal: AbortSignal) => Promise<T>,
): T | undefined {
  const { id, outcome } = useWork();
  return useQuery({
    queryKey: [name, id, outcome.revision],
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) => get({ project_id: id }, signal),
  }).data;
}

/** Between two looks at a question whose worker tells nothing [ms]. */
const LOOK_MS = 2500;

/** What the queue answers: the reply once it is there, and how far its search is until then. */
interface Asked {
  revision: number;
  underway?: Underway | null;
}

/** A question that is answered when it can be; the reply known before stays on screen until then. */
export function useAsked<T extends Asked>(
  name: readonly unknown[],
  wanted: boolean,
  get: (signal: AbortSignal) => Promise<T>,
) {
  const { id } = useWork();
  return useQuery<T>({
    queryKey: ["asked", id, ...name],
    enabled: wanted,
    placeholderData: (before) => before,
    staleTime: Infinity,
    refetchInterval: ({ state }) => (isSearched((state.data as Asked | undefined)?.underway) ? LOOK_MS : false),
    queryFn: ({ signal }) => get(signal),
  });
}

/** The last reply that came: it stays on screen while the next one is worked on. */
export function useLastReply<T extends { reply?: unknown }>(now: T | undefined): T | undefined {
  const [last, setLast] = useState<T>();
  if (now?.reply && now !== last) setLast(now);
  return last;
}

/** To end the work on a reply, and to begin it again. */
export function useSearch(question: Question) {
  const { id } = useWork();
  const cache = useQueryClient();
  const asked = { params: { path: { project_id: id } }, body: question };
  const seen = () => cache.invalidateQueries({ queryKey: ["asked", id] });
  return {
    stop: () => http.POST("/api/projects/{project_id}/search/stop", asked).then(seen),
    again: () => http.POST("/api/projects/{project_id}/search/again", asked).then(seen),
  };
}

/** The answer of one aim for the project as it stands, and how far its search is; the last one known until then. */
export function usePick(aim: Aim, wanted = true) {
  const { id, outcome } = useWork();
  const cache = useQueryClient();
  const settled = useSettled(outcome.revision);
  const query = useAsked<PickFor>(["pick", aim, settled], wanted && outcome.project.drops.length > 0, (signal) =>
    data(http.GET("/api/projects/{project_id}/picks/{aim}", { params: { path: { project_id: id, aim } }, signal })),
  );
  const followed = aim === outcome.project.settings.aim;
  const found = query.data && !query.data.underway ? query.data.revision : null;
  useEffect(() => {
    // whatever is told of the project may stand on its boxes
    const stands = ({ queryKey }: Query) => queryKey[1] === id && queryKey[0] !== "asked";
    if (followed && found !== null) cache.invalidateQueries({ predicate: stands });
  }, [followed, found, cache, id]);
  return query;
}

/** Whether a reply has come that stands. */
function isSettled(reply: unknown): boolean {
  return Boolean(reply) && !(reply as { underway?: unknown }).underway;
}

/** Whether somebody works on a question, or will. */
export function isSearched(underway: Underway | null | undefined): boolean {
  return underway?.state === "waiting" || underway?.state === "working";
}

/** A value once it has stayed the same for a while. */
export function useSettled<T>(value: T, ms = 350): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return settled;
}
