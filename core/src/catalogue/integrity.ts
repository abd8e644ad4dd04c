import { checkDesk } from './deskIntegrity';
import { packLints } from './lints';
import { parseNeed } from './needs';
import type { PackIssue, Report } from './packIssue';
import { prerequisites } from './prerequisites';
import { CHANGEABLE_ROWS, type Pack, type Step } from './schema';
import { COMMON_CONDITIONS, severity } from './vocabulary';

/**
 * Checks what the schema alone cannot: ids unique and resolvable, `after` acyclic, gauges consistent in
 * direction, every fault detectable with a method its checkpoint allows, weights, needs, school choices and
 * origins; then the rules of `packLints`. Returns every issue found; an empty list means sound.
 */
export function packIntegrity(pack: Pack): PackIssue[] {
  const issues: PackIssue[] = [];
  const report = (path: (string | number)[], rule: string, message: string) =>
    issues.push({ path, rule, message });

  const seen = new Map<string, string>();
  const unique = (id: string, path: (string | number)[], what: string) => {
    const earlier = seen.get(id);
    if (earlier) report([...path, 'id'], 'unique-id', `id "${id}" is already used by a ${earlier}`);
    else seen.set(id, what);
  };
  pack.plan.stations.forEach((each, i) => unique(each.id, ['plan', 'stations', i], 'station'));
  pack.cautions.forEach((each, i) => unique(each.id, ['cautions', i], 'caution'));
  pack.checkpoints.forEach((each, i) => unique(each.id, ['checkpoints', i], 'checkpoint'));
  pack.faults.forEach((each, i) => unique(each.id, ['faults', i], 'fault'));
  pack.procedures.forEach((each, i) => {
    unique(each.id, ['procedures', i], 'procedure');
    each.steps.forEach((s, j) => unique(s.id, ['procedures', i, 'steps', j], 'step'));
  });
  pack.forbidden.forEach((each, i) => unique(each.id, ['forbidden', i], 'forbidden rule'));
  pack.numbers.forEach((each, i) => unique(each.id, ['numbers', i], 'number'));
  pack.schools.forEach((each, i) => unique(each.id, ['schools', i], 'school'));
  pack.sheet.sections.forEach((section, i) => {
    unique(section.id, ['sheet', 'sections', i], 'section');
    section.criteria.forEach((c, j) => unique(c.id, ['sheet', 'sections', i, 'criteria', j], 'criterion'));
  });
  pack.sheet.criticalErrors.forEach((each, i) =>
    unique(each.id, ['sheet', 'criticalErrors', i], 'critical error'),
  );
  pack.certification.forEach((each, i) => unique(each.id, ['certification', i], 'certification note'));
  pack.teaching.ladder.forEach((each, i) => unique(each.id, ['teaching', 'ladder', i], 'rung'));
  pack.mistakes.forEach((each, i) => unique(each.id, ['mistakes', i], 'mistake'));
  pack.machine.failures.forEach((each, i) => unique(each.id, ['machine', 'failures', i], 'failure'));

  const stations = new Map(pack.plan.stations.map((each) => [each.id, each]));
  pack.plan.stations.forEach((each, i) => {
    const path = ['plan', 'stations', i];
    if ((each.at === undefined) === (each.place === undefined))
      report(
        path,
        'station-position',
        `station "${each.id}" needs either "at" (on the walking line) or "place" (off it), not both`,
      );
    if (each.spurFrom !== undefined && !stations.get(each.spurFrom)?.at)
      report(
        [...path, 'spurFrom'],
        'unresolved-station',
        `station "${each.id}" hangs from "${each.spurFrom}", which is not on the walking line`,
      );
  });

  checkNeeds(pack, report);

  const conditions = new Set([...Object.keys(COMMON_CONDITIONS), ...pack.conditions.map((each) => each.id)]);
  pack.conditions.forEach((each, i) =>
    each.excludes?.forEach((other, j) => {
      if (!pack.conditions.some((one) => one.id === other))
        report(
          ['conditions', i, 'excludes', j],
          'unknown-condition',
          `condition "${each.id}" excludes "${other}", which is none of this pack`,
        );
    }),
  );
  const checkpoints = new Map(pack.checkpoints.map((each) => [each.id, each]));
  const featureIds = new Set(pack.features.map((each) => each.id));
  pack.checkpoints.forEach((each, i) => {
    const path = ['checkpoints', i];
    for (const station of [each.station, ...(each.alsoAt ?? [])])
      if (!stations.has(station))
        report(
          [...path, 'station'],
          'unresolved-station',
          `checkpoint "${each.id}" stands at unknown station "${station}"`,
        );
    each.when.forEach((condition, j) => {
      if (!conditions.has(condition))
        report(
          [...path, 'when', j],
          'unknown-condition',
          `"${condition}" is neither a common condition nor one of this pack`,
        );
    });
    if (each.each && typeof each.each.count === 'object' && !featureIds.has(each.each.count.feature))
      report(
        [...path, 'each'],
        'unknown-feature',
        `the count names unknown feature "${each.each.count.feature}"`,
      );
    each.gauges?.forEach((gauge, j) => {
      const rising = gauge.rising ?? [];
      const falling = gauge.falling ?? [];
      const gaugePath = [...path, 'gauges', j];
      if (rising.length + falling.length === 0)
        report(gaugePath, 'gauge-direction', `gauge "${gauge.quantity}" has no limit`);
      if (gauge.worked && gauge.unit !== '%')
        report(
          gaugePath,
          'gauge-worked',
          `gauge "${gauge.quantity}" is worked out in per cent, not ${gauge.unit}`,
        );
      const ordered = (limits: typeof rising, sign: 1 | -1) =>
        limits.every((a, x) =>
          limits.every(
            (b, y) =>
              x === y ||
              severity(a.grade) === severity(b.grade) ||
              Math.sign(a.at - b.at) === sign * Math.sign(severity(a.grade) - severity(b.grade)),
          ),
        );
      if (
        !ordered(rising, 1) ||
        !ordered(falling, -1) ||
        (rising.length > 0 &&
          falling.length > 0 &&
          Math.max(...falling.map((l) => l.at)) >= Math.min(...rising.map((l) => l.at)))
      )
        report(
          gaugePath,
          'gauge-direction',
          `the limits of gauge "${gauge.quantity}" do not worsen in one direction`,
        );
    });
  });

  pack.faults.forEach((each, i) => {
    const path = ['faults', i];
    const checkpoint = checkpoints.get(each.checkpoint);
    if (!checkpoint) {
      report(
        [...path, 'checkpoint'],
        'unresolved-checkpoint',
        `fault "${each.id}" belongs to unknown checkpoint "${each.checkpoint}"`,
      );
      return;
    }
    if (!each.cues.some((cue) => checkpoint.methods.includes(cue.method)))
      report(
        [...path, 'cues'],
        'undetectable-fault',
        `fault "${each.id}" shows itself only by ` +
          `${each.cues.map((c) => c.method).join(', ')}, which checkpoint "${checkpoint.id}" ` +
          'does not allow',
      );
  });

  const steps = new Map(
    pack.procedures.flatMap((procedure) => procedure.steps.map((s) => [s.id, s] as const)),
  );
  pack.procedures.forEach((procedure, i) =>
    procedure.steps.forEach((each, j) => {
      for (const before of prerequisites(each))
        if (!steps.has(before))
          report(
            ['procedures', i, 'steps', j, 'after'],
            'unresolved-step',
            `step "${each.id}" waits for unknown step "${before}"`,
          );
      if (each.timing?.since !== undefined && !steps.has(each.timing.since))
        report(
          ['procedures', i, 'steps', j, 'timing', 'since'],
          'unresolved-step',
          `timing counts from unknown step "${each.timing.since}"`,
        );
    }),
  );
  const cycle = findCycle(steps);
  if (cycle) {
    const at = pack.procedures.findIndex((procedure) => procedure.steps.some((s) => s.id === cycle[0]));
    const step = pack.procedures[at]?.steps.findIndex((s) => s.id === cycle[0]) ?? 0;
    report(
      ['procedures', at, 'steps', step, 'after'],
      'cyclic-steps',
      `steps wait for each other: ${cycle.join(' -> ')}`,
    );
  }

  const total = pack.checkpoints.reduce((sum, each) => sum + each.weight, 0);
  if (total <= 0) report(['checkpoints'], 'weights', 'checkpoint weights add up to nothing');
  pack.sheet.sections.forEach((section, i) =>
    section.criteria.forEach((c, j) => {
      const path = ['sheet', 'sections', i, 'criteria', j];
      if ((c.kind === 'linked') !== (c.link !== undefined))
        report(
          path,
          'criterion-kind',
          `criterion "${c.id}" of kind "${c.kind}" ${c.link ? 'must not have' : 'needs'} a link`,
        );
      if (c.kind === 'levels' && c.levels === undefined)
        report(path, 'criterion-kind', `criterion "${c.id}" needs its number of levels`);
      if (c.kind === 'timed' && c.seconds === undefined)
        report(path, 'criterion-kind', `criterion "${c.id}" needs its time limit`);
      for (const id of c.link?.checkpoints ?? [])
        if (!checkpoints.has(id))
          report(
            [...path, 'link'],
            'unresolved-checkpoint',
            `criterion "${c.id}" links unknown checkpoint "${id}"`,
          );
      for (const id of c.link?.stations ?? [])
        if (!stations.has(id))
          report(
            [...path, 'link'],
            'unresolved-station',
            `criterion "${c.id}" links unknown station "${id}"`,
          );
    }),
  );

  pack.numbers.forEach((each, i) => {
    if (each.value === undefined && each.range === undefined && each.says === undefined)
      report(['numbers', i], 'number-value', `number "${each.id}" has no value`);
    if (each.range && each.range[0] > each.range[1])
      report(
        ['numbers', i, 'range'],
        'number-value',
        `number "${each.id}" has its range the wrong way round`,
      );
  });

  pack.schools.forEach((school, i) => {
    const options = new Set(school.options.map((each) => each.id));
    if (options.size !== school.options.length)
      report(['schools', i, 'options'], 'unique-id', `school "${school.id}" has an option twice`);
    if (!options.has(school.default))
      report(
        ['schools', i, 'default'],
        'school-default',
        `school "${school.id}" has no option "${school.default}"`,
      );
    school.options.forEach((option, j) =>
      option.sets.forEach((set, k) => {
        const [kind, id] = set.path.split('/') as [string, string];
        const known =
          kind === 'policy' ||
          (kind === 'numbers' && pack.numbers.some((n) => n.id === id)) ||
          (kind === 'steps' && steps.has(id)) ||
          (kind === 'checkpoints' && checkpoints.has(id)) ||
          (kind === 'faults' && pack.faults.some((f) => f.id === id));
        const at = ['schools', i, 'options', j, 'sets', k];
        if (!known) report([...at, 'path'], 'unresolved-path', `"${set.path}" leads nowhere`);
        else if (kind in CHANGEABLE_ROWS) {
          const rows =
            kind === 'steps' ? [...steps.values()] : pack[kind as 'numbers' | 'checkpoints' | 'faults'];
          const row = rows.find((each) => each.id === id)!;
          const changed = CHANGEABLE_ROWS[kind as keyof typeof CHANGEABLE_ROWS].safeParse({
            ...row,
            [set.path.split('/')[2]!]: set.value,
          });
          if (!changed.success)
            report(
              [...at, 'value'],
              'school-set',
              `"${set.path}" cannot take this value: ${changed.error.issues[0]!.message}`,
            );
        }
      }),
    );
  });

  checkDesk(pack, report);
  checkOrigins(pack, [], report);
  // The rules of the trade are read off composed packs, which needs a pack that holds together.
  return issues.length > 0 ? issues : packLints(pack);
}

function checkNeeds(pack: Pack, report: Report): void {
  const features = new Map<string, readonly string[]>(pack.features.map((each) => [each.id, each.values]));
  pack.features.forEach((each, i) => {
    if (features.has('variant'))
      report(['features', i], 'unknown-feature', '"variant" is reserved for the power variant');
    if (!each.values.includes(each.default))
      report(
        ['features', i, 'default'],
        'feature-default',
        `feature "${each.id}" has no value "${each.default}"`,
      );
  });
  features.set(
    'variant',
    pack.variants.map((each) => each.id),
  );
  const visit = (value: unknown, path: (string | number)[]): void => {
    if (Array.isArray(value)) value.forEach((each, i) => visit(each, [...path, i]));
    else if (value !== null && typeof value === 'object')
      for (const [key, each] of Object.entries(value)) {
        if (key === 'needs' && Array.isArray(each))
          each.forEach((text: string, i) => {
            const need = parseNeed(text);
            const known = features.get(need.feature);
            if (!known)
              report(
                [...path, 'needs', i],
                'unknown-feature',
                `"${text}" names unknown feature "${need.feature}"`,
              );
            else if (text.includes('='))
              for (const each of need.values)
                if (!known.includes(each))
                  report(
                    [...path, 'needs', i],
                    'unknown-feature',
                    `feature "${need.feature}" has no value "${each}"`,
                  );
          });
        else visit(each, [...path, key]);
      }
  };
  visit(pack, []);
}

function checkOrigins(value: unknown, path: (string | number)[], report: Report): void {
  if (Array.isArray(value)) value.forEach((each, i) => checkOrigins(each, [...path, i], report));
  else if (value !== null && typeof value === 'object') {
    for (const [key, each] of Object.entries(value)) checkOrigins(each, [...path, key], report);
    const origin = (value as { origin?: { kind?: string; cite?: string } }).origin;
    if (origin?.kind === 'published' && !origin.cite)
      report([...path, 'origin'], 'origin-cite', 'a published origin cites its standard and clause');
  }
}

function findCycle(steps: ReadonlyMap<string, Step>): string[] | null {
  const state = new Map<string, 'open' | 'closed'>();
  const trail: string[] = [];
  const visit = (id: string): string[] | null => {
    if (state.get(id) === 'closed' || !steps.has(id)) return null;
    if (state.get(id) === 'open') return [...trail.slice(trail.indexOf(id)), id];
    state.set(id, 'open');
    trail.push(id);
    for (const before of prerequisites(steps.get(id)!)) {
      const found = visit(before);
      if (found) return found;
    }
    trail.pop();
    state.set(id, 'closed');
    return null;
  };
  for (const id of steps.keys()) {
    const found = visit(id);
    if (found) return found;
  }
  return null;
}
