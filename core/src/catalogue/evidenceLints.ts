import { drawnQuantity, evidenceOf, GAUGED, givesFigures } from './evidence';
import { type Evidence, EVIDENCE_KINDS, drawEvidence, type Lamp, paramsSchema } from '../drawing/evidence';
import { gradeReading } from './gradeReading';
import type { Path, Report } from './packIssue';
import type { Checkpoint, Fault, Pack } from './schema';
import type { Method } from './vocabulary';

/** What a pack's drawings must keep to: known kinds and parameters, methods that the check allows, figures that agree. */
export function lintEvidence(pack: Pack, report: Report): void {
  const checks = new Map(pack.checkpoints.map((each) => [each.id, each]));
  pack.checkpoints.forEach((check, i) => {
    if (check.evidence) lintSound(check, ['checkpoints', i, 'evidence'], report);
  });
  pack.faults.forEach((fault, i) => {
    const check = checks.get(fault.checkpoint);
    if (!check) return;
    fault.cues.forEach((cue, j) => {
      if (!cue.drawing) return;
      const path: Path = ['faults', i, 'cues', j, 'drawing'];
      const evidence = evidenceOf(check, { ...fault, cues: [cue] }, cue.method);
      if (!evidence)
        report(
          path,
          'evidence-kind',
          `"${fault.id}" has a drawing and its check "${check.id}" has no kind of one`,
        );
      else if (lintParams(evidence, `"${fault.id}"`, path, report))
        lintShown(check, fault, cue.method, evidence, path, report);
    });
  });
}

/** Whether a drawing's kind and parameters are known; reports what is not. */
function lintParams({ kind: id, params }: Evidence, whose: string, path: Path, report: Report): boolean {
  const kind = EVIDENCE_KINDS.get(id);
  if (!kind) {
    report([...path, 'kind'], 'evidence-kind', `${whose} is drawn as "${id}", which is no kind of drawing`);
    return false;
  }
  const read = paramsSchema(kind).safeParse(params);
  for (const issue of read.error?.issues ?? [])
    report(path, 'evidence-params', `${whose}, drawn as ${id}: ${issue.path.join('.')} ${issue.message}`);
  for (const [key, param] of Object.entries(kind.params)) {
    const given = params[key];
    if (param.type !== 'places' || !Array.isArray(given)) continue;
    const count = Number(params[param.of] ?? (kind.params[param.of] as { sound?: number }).sound);
    if (given.some((place) => Number(place) > count))
      report(path, 'evidence-params', `${whose} names a place in ${key} beyond the ${count} that there are`);
  }
  return read.success;
}

function lintSound(check: Checkpoint, path: Path, report: Report): void {
  const { kind, sound, by } = check.evidence!;
  const whose = `check "${check.id}"`;
  if (!lintParams({ kind, params: sound }, whose, path, report)) return;
  for (const [method, differs] of Object.entries(by ?? {})) {
    if (!(check.methods as string[]).includes(method))
      report(
        [...path, 'by', method],
        'evidence-method',
        `${whose} is drawn for "${method}", which it does not allow`,
      );
    lintParams({ kind, params: { ...sound, ...differs } }, whose, [...path, 'by', method], report);
  }
  if (kind === 'lamps')
    for (const lamp of (sound['list'] ?? []) as readonly Lamp[])
      if (lamp.state !== (lamp.expected ?? sound['expected']))
        report(
          path,
          'evidence-figure',
          `${whose} is sound with ${lamp.name} ${lamp.state}, which should be otherwise`,
        );
  const wrong = dialGrade(sound);
  if (kind === 'gauge' && wrong === 'red')
    report(path, 'evidence-figure', `${whose} is sound with its needle where it must not be`);
  for (const { key, gauge, grade } of measured(check, kind, sound))
    if (grade !== 'sound')
      report(
        path,
        'evidence-figure',
        `${whose} is sound with ${key} ${String(sound[key])}, which ${gauge.quantity} grades ${grade}`,
      );
}

/** Which part of a dial's scale its needle stands in. */
function dialGrade(params: Readonly<Record<string, unknown>>): 'green' | 'red' | 'between' {
  const value = Number(params['value'] ?? 0);
  const within = (range: unknown) =>
    Array.isArray(range) && range[0] < range[1] && value >= range[0] && value <= range[1];
  return within(params['green']) ? 'green' : within(params['red']) ? 'red' : 'between';
}

/** Figures of a drawing that the check has a gauge for, and how the gauge grades them. */
function measured(check: Checkpoint, kind: string, params: Readonly<Record<string, unknown>>) {
  return Object.entries(GAUGED[kind] ?? {}).flatMap(([key, figure]) => {
    const gauge = check.gauges?.find((each) => each.kind === figure.is);
    const value = drawnQuantity(kind, key, params);
    return gauge && value !== null ? [{ key, gauge, grade: gradeReading(gauge, value).grade }] : [];
  });
}

function lintShown(
  check: Checkpoint,
  fault: Fault,
  method: Method,
  evidence: Evidence,
  path: Path,
  report: Report,
): void {
  const own = check.evidence?.kind === evidence.kind;
  const sound = own ? evidenceOf(check, null, method) : null;
  if (fault.grade !== 'sound' && sound && !fault.cues.some((cue) => cue.method !== method && cue.drawing)) {
    const figures = { figures: givesFigures(method) };
    if (JSON.stringify(drawEvidence(sound, figures)) === JSON.stringify(drawEvidence(evidence, figures)))
      report(
        path,
        'evidence-same',
        `"${fault.id}" is drawn for "${method}" as its check is when it is sound`,
      );
  }
  if (!givesFigures(method)) return;
  if (
    evidence.kind === 'gauge' &&
    fault.grade !== 'sound' &&
    (evidence.params['needle'] ?? 'steady') === 'steady' &&
    dialGrade(evidence.params) === 'green'
  )
    report(path, 'evidence-figure', `"${fault.id}" is graded ${fault.grade} with its needle where it may be`);
  for (const { key, gauge, grade } of measured(check, evidence.kind, evidence.params))
    if (sound?.params[key] !== evidence.params[key] && grade !== fault.grade)
      report(
        path,
        'evidence-figure',
        `"${fault.id}" is ${fault.grade} and drawn with ${key} ${String(evidence.params[key])}, which ${gauge.quantity} grades ${grade}`,
      );
}
