import type { PlainDate } from '../calendar';
import { type EffectivePack, READY_PARTS, type ReadyPart } from '../catalogue';
import { DAYS_TO_BE_READY, drillCriterion } from '../drill';
import { type DeskProgram, programsOf } from '../machine';

/** One part of being ready: whether it is met, and how far it is, in words. */
export interface PartReadiness {
  part: ReadyPart;
  met: boolean;
  says: string;
}

type ReadyPack = Pick<EffectivePack, 'teaching' | 'machine' | 'procedures'>;

/** The parts that a class asks for: those it names, else all that it can show. */
export function askedParts(pack: ReadyPack): ReadyPart[] {
  const programs = programsOf(pack);
  const able: Readonly<Record<ReadyPart, boolean>> = {
    round: true,
    desk: programs.includes('start'),
    commands: (pack.machine.desk?.commands.length ?? 0) > 0,
  };
  const asks = pack.teaching.readiness?.asks ?? READY_PARTS;
  return READY_PARTS.filter((each) => able[each] && asks.includes(each));
}

/** A run at a desk as far as it speaks for being ready. */
export interface DeskTry {
  on: PlainDate;
  program: DeskProgram;
  /** Nothing was shown. */
  asTest: boolean;
  score: number;
  critical: number;
}

/** Whether a run counts: nothing shown, the score of the class reached, no critical flaw. */
const counts = (pack: ReadyPack, { asTest, score, critical }: DeskTry): boolean =>
  asTest && critical === 0 && score >= drillCriterion(pack).score;

const days = (tries: readonly DeskTry[]): number => new Set(tries.map((each) => each.on)).size;
const ofDays = (met: number) => `${Math.min(met, DAYS_TO_BE_READY)} of ${DAYS_TO_BE_READY} days`;

/** What somebody practised of a class. */
export interface Practised {
  /** Days on which a drill over the whole round met the criterion. */
  roundDays: readonly PlainDate[];
  desk: readonly DeskTry[];
  commandSets: number;
  /** The last sets of commands met the class's standard. */
  commandsReady: boolean;
}

/** How far somebody is with each part that a class asks for (two separate days: common practice). */
export function readinessOf(pack: ReadyPack, practised: Practised): PartReadiness[] {
  return askedParts(pack).map((part): PartReadiness => {
    switch (part) {
      case 'round': {
        const met = new Set(practised.roundDays).size;
        return {
          part,
          met: met >= DAYS_TO_BE_READY,
          says: `Walk-round: standard met on ${ofDays(met)}`,
        };
      }
      case 'desk': {
        const good = practised.desk.filter((each) => counts(pack, each));
        const started = days(good.filter((each) => each.program !== 'stop' && each.program !== 'free'));
        const stopped = days(good.filter((each) => each.program === 'stop' || each.program === 'whole'));
        const stops = programsOf(pack).includes('stop');
        return {
          part,
          met: started >= DAYS_TO_BE_READY && (!stops || stopped >= DAYS_TO_BE_READY),
          says: `At the desk, as a test: started on ${ofDays(started)}${stops ? `, stopped on ${ofDays(stopped)}` : ''}`,
        };
      }
      case 'commands':
        return {
          part,
          met: practised.commandsReady,
          says: practised.commandsReady
            ? 'Controls: the last sets were within the standard'
            : practised.commandSets === 0
              ? 'Controls: never called out'
              : 'Controls: not yet within the standard twice in a row',
        };
    }
  });
}

/** Ready with every part that the class asks for. */
export const isReady = (parts: readonly PartReadiness[]): boolean =>
  parts.length > 0 && parts.every((each) => each.met);
