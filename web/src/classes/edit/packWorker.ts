import { packDifferences, readPack, type Pack, type PackError, type RowChange } from '@rounds/core/catalogue';

/** What the worker is asked: check a text, and compare it with what is in use. */
export interface PackQuestion {
  turn: number;
  source: string;
  published: Pack | null;
}

export interface PackAnswer {
  turn: number;
  errors: PackError[];
  changes: RowChange[];
}

self.onmessage = (event: MessageEvent<PackQuestion>) => {
  const { turn, source, published } = event.data;
  const { pack, errors } = readPack(source);
  const answer: PackAnswer = {
    turn,
    errors,
    changes: pack && published ? packDifferences(published, pack) : [],
  };
  self.postMessage(answer);
};
