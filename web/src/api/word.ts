/** Word of edits and questions, as the server sends it; ``again``: some may have been missed. */
export interface Word {
  again?: true;
  project?: number;
  catalogue?: number;
  revision?: number;
  question?: string;
}

type Listener = (word: Word) => void;

const AGAIN_MS = 2000;

/** One stream of events for all tabs of a browser: the tab that holds the lock listens, and passes word on. */
class Stream {
  private readonly listeners = new Set<Listener>();
  private readonly channel = new BroadcastChannel("baugrund word");
  private begun = false;

  listen(listener: Listener): () => void {
    this.listeners.add(listener);
    if (!this.begun) this.begin();
    return () => this.listeners.delete(listener);
  }

  private begin(): void {
    this.begun = true;
    this.channel.onmessage = (message: MessageEvent<Word>) => this.tell(message.data);
    const lead = () => new Promise<never>(() => this.open());
    if (navigator.locks) void navigator.locks.request("baugrund stream", lead);
    else void lead();
  }

  private open(): void {
    const source = new EventSource("/api/events");
    const pass = (word: Word) => {
      this.channel.postMessage(word);
      this.tell(word);
    };
    // what happened before the stream was there, or while it was away, was not heard
    source.onopen = () => pass({ again: true });
    source.onmessage = (message) => pass(JSON.parse(message.data) as Word);
    source.onerror = () => {
      // a browser tries a lost stream again by itself, but not one that was refused
      if (source.readyState === EventSource.CLOSED) setTimeout(() => this.open(), AGAIN_MS);
    };
  }

  private tell(word: Word): void {
    for (const listener of this.listeners) listener(word);
  }
}

const stream = new Stream();

/** Hear of every edit and question, in whichever tab; gives the way to stop. */
export const listen = (listener: Listener) => stream.listen(listener);
