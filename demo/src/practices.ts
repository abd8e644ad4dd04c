import { addDays } from '@rounds/core/calendar';
import { compose } from '@rounds/core/catalogue';
import type { EvaluationEvent } from '@rounds/core/evaluation';
import type { History } from './evaluations';
import type { DemoEvaluation } from './index';
import { TEAMS, TRAINERS } from './names';
import { runEvents, simulateRun } from './simulateRun';

const FORKLIFT = 'counterbalance-forklift';
/** Sessions of start and stop that people practised beside the machine: many on forklifts, some on every class. */
export function practices({ packs, people, units, today, random, newId }: History): DemoEvaluation[] {
  return packs.flatMap((pack) => {
    const machines = units.filter((each) => each.classId === pack.id);
    const workers = people.filter((person) =>
      TEAMS.find(([team]) => team === person.team)![2].includes(pack.id),
    );
    if (machines.length === 0) return [];
    return workers.slice(0, pack.id === FORKLIFT ? 8 : 1).flatMap((person, w) => {
      const machine = machines[w % machines.length]!;
      const composition = { variant: machine.variant!, features: machine.features };
      const effective = compose(pack, composition);
      const ends = effective.procedures
        .filter((each) => each.kind === 'startup' || each.kind === 'shutdown')
        .map((each) => each.id);
      const sessions = pack.id === FORKLIFT && w < 4 ? 5 : 1;
      return Array.from({ length: sessions }, (_, k): DemoEvaluation => {
        const on = addDays(today, -3 - (sessions - k) * 9 - w);
        const startedAt = `${on}T0${7 + (w % 3)}:${String(10 + w * 4).padStart(2, '0')}:00.000Z`;
        const sure = Math.min(0.96, 0.35 + 0.08 * w + 0.1 * k);
        const events: EvaluationEvent[] = [];
        let clock = Date.parse(startedAt);
        for (const procedure of ends) {
          const trace = simulateRun(effective, [procedure], { sure, random });
          const made = runEvents(trace, [procedure], null, clock, newId);
          events.push(...made.events);
          clock = made.over + 60_000;
        }
        return {
          id: newId(startedAt),
          personId: person.id,
          unitId: machine.id,
          trainer: TRAINERS[w % TRAINERS.length]![1],
          composition,
          conditions: '',
          createdAt: startedAt,
          earlierStarts: [],
          events,
        };
      });
    });
  });
}
