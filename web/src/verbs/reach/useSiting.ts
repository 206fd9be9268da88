import { useCallback, useEffect, useRef, useState } from "react";
import type { SitingStep } from "../../api/client";
import { useWork } from "../../api/work";

/** The comparison of places for closets while it is found, and how to end it; a new revision starts it again. */
export function useSiting() {
  const { id, outcome, say } = useWork();
  const [step, setStep] = useState<SitingStep | null>(null);
  const [found, setFound] = useState<SitingStep | null>(null);
  const [stopped, setStopped] = useState(false);
  const [turn, setTurn] = useState(0);
  const running = useRef<AbortController | null>(null);
  const { revision } = outcome;

  // biome-ignore lint/correctness/useExhaustiveDependencies: a turn asks again for the same revision
  useEffect(() => {
    const abort = new AbortController();
    running.current = abort;
    setStopped(false);
    const read = async () => {
      for await (const told of lines(`/api/projects/${id}/siting`, abort.signal)) {
        const next = JSON.parse(told) as SitingStep;
        if (next.siting) setFound(next);
        setStep(next.siting ? null : next);
      }
    };
    read().catch((error: unknown) => {
      setStep(null);
      if (!abort.signal.aborted) say(String((error as Error).message));
    });
    return () => abort.abort();
  }, [id, revision, turn]);

  const stop = useCallback(() => {
    running.current?.abort();
    setStep(null);
    setStopped(true);
  }, []);
  const again = useCallback(() => setTurn((now) => now + 1), []);
  return { step, found, stopped, stop, again, isOld: found !== null && found.revision !== revision };
}

/** Lines of a response as they come. */
async function* lines(address: string, signal: AbortSignal): AsyncGenerator<string> {
  const response = await fetch(address, { signal });
  if (!response.ok || !response.body) throw new Error(`The server answered ${response.status}.`);
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    const parts = (rest + value).split("\n");
    rest = parts.pop() ?? "";
    yield* parts.filter(Boolean);
  }
  if (rest) yield rest;
}
