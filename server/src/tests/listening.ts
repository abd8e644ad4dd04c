import type { Caller } from './desk';

/** One event as a stream sent it; `data` is read. */
interface Heard {
  event: string;
  id: string | null;
  data: unknown;
}

/** An open stream of a test: what it has sent so far, and waiting for more without a clock. */
export interface Listening {
  response: Response;
  events: Heard[];
  /** Waits until the events are so; fails when the stream ends before. */
  until: (so: (events: Heard[]) => boolean) => Promise<void>;
  /** Waits for that many further heartbeats: by then everything told before has come. */
  beats: (more: number) => Promise<void>;
  /** Waits for the server to end the stream. */
  ended: Promise<void>;
  stop: () => void;
}

/** Listens to an event stream as a caller, from after an event where `since` is given. */
export async function listenTo(
  caller: Pick<Caller, 'address' | 'cookie'>,
  path: string,
  since?: string,
): Promise<Listening> {
  const leaving = new AbortController();
  const response = await fetch(`${caller.address}${path}`, {
    headers: {
      cookie: caller.cookie,
      'accept-encoding': 'gzip',
      ...(since === undefined ? {} : { 'last-event-id': since }),
    },
    signal: leaving.signal,
  });
  const events: Heard[] = [];
  let beats = 0;
  let over = false;
  const watchers = new Set<() => void>();
  const ended = (async () => {
    if (!response.ok || !response.body) return;
    let rest = '';
    try {
      for await (const chunk of response.body.pipeThrough(new TextDecoderStream())) {
        const blocks = (rest + chunk).split('\n\n');
        rest = blocks.pop()!;
        for (const block of blocks) {
          if (block.startsWith(':')) beats += 1;
          else events.push(readBlock(block));
        }
        for (const look of [...watchers]) look();
      }
    } catch {
      // Left by the test.
    }
  })().then(() => {
    over = true;
    for (const look of [...watchers]) look();
  });

  function wait(so: () => boolean, what: string): Promise<void> {
    return new Promise((resolve, reject) => {
      const look = () => {
        if (so()) resolve();
        else if (over) reject(new Error(`the stream ended before ${what}: ${JSON.stringify(events)}`));
        else return;
        watchers.delete(look);
      };
      watchers.add(look);
      look();
    });
  }
  return {
    response,
    events,
    until: (so) => wait(() => so(events), 'what was waited for came'),
    beats: (more) => {
      const wanted = beats + more;
      return wait(() => beats >= wanted, 'its heartbeat');
    },
    ended,
    stop: () => leaving.abort(),
  };
}

function readBlock(block: string): Heard {
  const field = (name: string) =>
    block
      .split('\n')
      .find((line) => line.startsWith(`${name}: `))
      ?.slice(name.length + 2);
  return { event: field('event') ?? 'message', id: field('id') ?? null, data: JSON.parse(field('data')!) };
}
