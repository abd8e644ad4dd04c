import type { RouteCall, StreamEvent, StreamSpec } from '@rounds/contract/route';
import { fileAddress } from './api';

/**
 * Listens to an event stream of the contract. The browser takes it up again by itself after a break, from
 * the last event it had. Answers how to stop.
 */
export function listen<R extends StreamSpec>(
  spec: R,
  asked: Partial<Pick<RouteCall<R>, 'params' | 'query'>>,
  hear: (event: StreamEvent<R>) => void,
): () => void {
  const { params = {}, query = {} } = asked as {
    params?: Record<string, string>;
    query?: Record<string, string>;
  };
  const source = new EventSource(fileAddress(spec, params, query));
  source.addEventListener('message', (message: MessageEvent<string>) => {
    hear(JSON.parse(message.data) as StreamEvent<R>);
  });
  // The session is over or the stream is closed for good: no more attempts.
  source.addEventListener('end', () => source.close());
  return () => source.close();
}
