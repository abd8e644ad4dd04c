import type { EffectivePack } from '../catalogue/compose';
import { buildMachine, type Machine } from './build';
import { fitDesk } from './fit';

const FIELDS = [
  'id',
  'title',
  'plan',
  'procedures',
  'forbidden',
  'machine',
  'sheet',
  'conditions',
  'fitOut',
] as const;

/** What a desk needs of a class as it is fitted out: nothing of its checks and faults. */
export type DeskPack = Pick<EffectivePack, (typeof FIELDS)[number]>;

/** The part of a class as it is fitted out that its desk needs. */
export const deskPackOf = (pack: EffectivePack): DeskPack =>
  Object.fromEntries(FIELDS.map((field) => [field, pack[field]])) as DeskPack;

/** Kinds of procedures that a desk carries out from beginning to end, in the order of a shift. */
export const DESK_KINDS: readonly string[] = ['prepare', 'startup', 'function-test', 'shutdown'];

/** The procedures of a class that are carried out at its desk from beginning to end, in the order of a shift. */
export function deskProcedures({
  procedures,
}: Pick<EffectivePack, 'procedures'>): EffectivePack['procedures'] {
  return DESK_KINDS.flatMap((kind) => procedures.filter((each) => each.kind === kind));
}

/** The machine that a class's desk describes, as it is fitted out; null for a class without a desk. */
export function machineOf({
  machine,
  forbidden,
  fitOut,
}: Pick<EffectivePack, 'machine' | 'forbidden' | 'fitOut'>): Machine | null {
  if (!machine.desk) return null;
  const { desk, unfitted } = fitDesk(machine.desk, fitOut);
  // What is not forbidden to this machine is not watched for at its desk.
  const own = new Set(forbidden.map((each) => each.id));
  const watched = Object.entries(desk.forbidden).filter(([id]) => own.has(id));
  return buildMachine({ ...desk, forbidden: Object.fromEntries(watched) }, unfitted);
}
