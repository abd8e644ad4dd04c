import Dexie, { type EntityTable, type Table } from 'dexie';
import type { Sealed } from './vault';

/** A tap on its way to the server, in the order it was made. Only its owner's key opens it. */
export interface WaitingRow {
  seq: number;
  account: string;
  stream: string;
  /** Id of the event within. */
  id: string;
  sealed: Sealed;
  /** What the clock added to the device's own time when it was made. */
  offset: number;
}

/** A tap that the server will not take, with why. */
export interface AsideRow {
  id: string;
  account: string;
  stream: string;
  sealed: Sealed;
}

/** The last answer of the server about a stream, so that it opens without a network. */
export interface DraftRow {
  account: string;
  stream: string;
  sealed: Sealed;
}

/** A tap of the version before, which kept them open and without their owner. */
export interface EarlierRow {
  seq: number;
  evaluationId: string;
  event: { id: string };
}

/** A class that somebody practises without a network: its content as compressed JSON, and what is chosen from. */
export interface KeptClassRow {
  account: string;
  classId: string;
  variant: string;
  variantName: string;
  title: string;
  /** Of the composed pack. */
  hash: string;
  stations: { id: string; name: string; parts: number }[];
  packed: Uint8Array<ArrayBuffer>;
}

/** A drill made without a network, until the server has it. Only its owner's key opens it. */
export interface OfflineDrillRow {
  id: string;
  account: string;
  sealed: Sealed;
}

/** What this device keeps. Everything in it belongs to an account. */
export class DeviceDatabase extends Dexie {
  waiting!: EntityTable<WaitingRow, 'seq'>;
  aside!: EntityTable<AsideRow, 'id'>;
  drafts!: Table<DraftRow, [string, string]>;
  earlier!: EntityTable<EarlierRow, 'seq'>;
  keptClasses!: Table<KeptClassRow, [string, string, string]>;
  offlineDrills!: EntityTable<OfflineDrillRow, 'id'>;

  constructor(name = 'rounds') {
    super(name);
    this.version(1).stores({ waiting: '++seq, evaluationId', drafts: 'evaluationId' });
    this.version(2)
      .stores({ waiting: null, drafts: null, earlier: 'seq' })
      .upgrade(async (old) => {
        await old.table('earlier').bulkPut(await old.table('waiting').toArray());
      });
    this.version(3).stores({
      waiting: '++seq, [account+stream], account',
      aside: 'id, [account+stream], account',
      drafts: '[account+stream], account',
      earlier: 'seq',
    });
    this.version(4).stores({
      keptClasses: '[account+classId+variant], account',
      offlineDrills: 'id, account',
    });
  }
}
