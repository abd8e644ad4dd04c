import { appraise, faultName, foldEvaluation, gradeDiscSvg, localDate, longDate, standing, type EvaluationRecord, type Outcome } from '@rounds/core';
import { asc, eq } from 'drizzle-orm';
import type { Content } from 'pdfmake/interfaces';
import { eventsByPerson } from '../certification/standings';
import { effectivePackOf } from '../classes/packs';
import { INK, QUIET, render } from '../house/pdf';
import { readSetting, rulesOn, siteTimeZone, siteToday, type House } from '../house/context';
import { account, certificationEventRow, machineClass, person, unit, type certificate } from '../house/schema';
import { eventsOf, type EvaluationRow } from './append';

const OUTCOME_WORDS: Readonly<Record<Outcome, string>> = {
  competent: 'Competent',
  'not-yet': 'Not yet competent',
  stopped: 'Stopped: critical error',
  incomplete: 'Not complete',
  blocked: 'Planted faults still in the machine',
};

function signature(record: EvaluationRecord, role: 'trainer' | 'operator', name: string): Content {
  const signed = record.signatures.get(role);
  return {
    stack: [
      signed
        ? {
            svg: `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 600 200" width="180" height="60"><path d="${signed.strokes}" fill="none" stroke="${INK}" stroke-width="5"/></svg>`,
          }
        : { text: 'not signed', italics: true, margin: [0, 22, 0, 22] },
      { canvas: [{ type: 'line', x1: 0, y1: 0, x2: 200, y2: 0, lineWidth: 0.7, lineColor: INK }] },
      { text: `${role === 'trainer' ? 'Trainer' : 'Operator'}: ${name}${signed ? `, ${signed.at.slice(0, 16).replace('T', ' ')} UTC` : ''}`, fontSize: 8, color: QUIET },
    ],
  };
}

const lightLines = { hLineWidth: () => 0.5, vLineWidth: () => 0, hLineColor: () => '#b9c4bf', paddingTop: () => 2.5, paddingBottom: () => 2.5 };

/** The A4 evaluation report: the answer first, then every reason, the sheet, the round, signatures. */
export async function reportPdf(house: House, row: EvaluationRow): Promise<Buffer> {
  const pack = await effectivePackOf(house.db, row.packHash);
  const record = foldEvaluation(await eventsOf(house.db, row.id));
  const result = appraise(pack, record, row.earlierStarts);
  const [who] = await house.db.select().from(person).where(eq(person.id, row.personId));
  const [trainer] = await house.db.select().from(account).where(eq(account.id, row.trainerId));
  const [machine] = await house.db.select().from(unit).where(eq(unit.id, row.unitId));
  const zone = await siteTimeZone(house);
  const organisation = await readSetting<string>(house.db, 'organisation', 'Rounds');
  const name = `${who!.givenName} ${who!.familyName}`;
  const decided = record.decision;
  const outcome = decided?.outcome ?? result.outcome;
  const overridden = decided !== null && decided.outcome !== result.outcome;
  const { analysis } = result;
  const stationName = new Map(pack.plan.stations.map((each) => [each.id, each.name]));
  const head = (text: string): Content => ({ text, bold: true, fontSize: 11.5, margin: [0, 10, 0, 3] });
  const bulleted = (weighs: string): Content[] =>
    result.reasons.filter((each) => each.weighs === weighs).map((each) => ({ text: `•  ${each.text}`, margin: [0, 1, 0, 1] }));

  const content: Content[] = [
    { text: organisation, color: QUIET },
    { text: `Evaluation: ${pack.title}`, bold: true, fontSize: 17, margin: [0, 2, 0, 4] },
    {
      columns: [
        { text: [{ text: `${name}\n`, bold: true, fontSize: 13 }, `Payroll ${who!.payroll}, ${who!.team}, ${who!.site}`] },
        {
          text: [
            { text: `${OUTCOME_WORDS[outcome]}\n`, bold: true, fontSize: 13 },
            result.score === null ? 'no score' : `Score ${result.score} % (cut ${pack.sheet.cut} %)`,
          ],
          alignment: 'right',
        },
      ],
      margin: [0, 0, 0, 4],
    },
    {
      text: `Machine ${machine!.name} (${pack.variants.find((each) => each.id === pack.fitOut['variant'])?.name}). Evaluated ${longDate(localDate(record.startedAt ?? row.createdAt, zone))} by ${trainer!.name}. ${row.conditions}`,
      color: QUIET,
    },
    ...(overridden
      ? [
          {
            text: `The trainer overrode the computed outcome "${OUTCOME_WORDS[result.outcome]}". Reason: ${decided.reason ?? ''}`,
            bold: true,
            margin: [0, 6, 0, 0],
          } as Content,
        ]
      : []),
    ...(record.takenOver.length > 0
      ? [
          {
            text: record.takenOver.map((each) => `Taken over by another device at ${each.at.slice(0, 16).replace('T', ' ')} UTC: ${each.reason}`).join('\n'),
            margin: [0, 4, 0, 0],
          } as Content,
        ]
      : []),
    head('Why'),
    ...bulleted('against'),
    ...bulleted('for'),
    ...bulleted('note'),
    head('Planted faults'),
    analysis.detection.planted.length === 0
      ? { text: 'None planted.' }
      : {
          layout: lightLines,
          table: {
            headerRows: 1,
            widths: [14, '*', 60, 60, 70],
            body: [
              ['', 'Fault', 'Found', 'Graded', 'Key'].map((text) => ({ text, bold: true })),
              ...analysis.detection.planted.map((each) => [
                { svg: gradeDiscSvg(each.key, 10) },
                `${each.fault.id} ${faultName(each.fault)}`,
                each.found,
                each.grade ?? '-',
                each.key,
              ]),
            ],
          },
        },
    head('Score by section'),
    {
      layout: lightLines,
      table: {
        headerRows: 1,
        widths: ['*', 30, 52, 150],
        body: [
          ['Criterion', 'Weight', 'Credit', 'Because'].map((text) => ({ text, bold: true })),
          ...result.sections.flatMap((section) => [
            [
              { text: `${section.title}${section.minimum === null ? '' : ` (minimum ${section.minimum} %)`}`, bold: true, colSpan: 2 },
              '',
              { text: section.score === null ? 'n/a' : `${section.score} %`, bold: true },
              '',
            ],
            ...section.criteria.map((each) => [
              each.criterion.says,
              String(each.criterion.weight),
              each.credit === null ? 'n/a' : String(Math.round(each.credit * 100) / 100),
              each.because,
            ]),
          ]),
        ],
      },
    },
    head('The round'),
    {
      ul: [
        `Coverage: ${analysis.coverage.done} done, ${analysis.coverage.prompted} prompted, ${analysis.coverage.missed} missed of ${analysis.coverage.total}${analysis.coverage.share === null ? '' : ` (${Math.round(analysis.coverage.share * 1000) / 10} % weighted)`}`,
        `Critical omissions: ${analysis.coverage.criticalOmissions.length === 0 ? 'none' : analysis.coverage.criticalOmissions.map((each) => `${each.id} ${each.part}`).join('; ')}`,
        `Path: ${analysis.path.direction ?? 'not walked'}, ${
          analysis.path.closed
            ? 'ring closed'
            : `ring not closed (${
                analysis.path.gaps
                  .flat()
                  .map((id) => stationName.get(id))
                  .join(', ') || 'did not end where it began'
              })`
        }, ${analysis.path.metres.toFixed(0)} m walked, shortest ${analysis.path.shortestTour.toFixed(0)} m`,
        `Start: ${analysis.start.station === null ? 'none' : stationName.get(analysis.start.station)}${analysis.start.share === null ? ' (first round on record)' : `, the same in ${Math.round(analysis.start.share * 100)} % of ${analysis.start.earlier} earlier rounds`}`,
        `Pace: ${analysis.pace.seconds === null ? 'round open' : `${Math.round(analysis.pace.seconds)} s against an honest floor of ${Math.round(analysis.pace.floorSeconds)} s`}`,
        `Detection: ${analysis.detection.hits} of ${analysis.detection.planted.length} planted faults, ${analysis.detection.falseAlarms} false alarms${analysis.detection.sensitivity ? `, d' ${analysis.detection.sensitivity.dPrime.toFixed(2)}, c ${analysis.detection.sensitivity.criterion.toFixed(2)}` : ''}${analysis.detection.interval ? ` (hit rate interval ${Math.round(analysis.detection.interval.low * 100)} to ${Math.round(analysis.detection.interval.high * 100)} %)` : ''}`,
      ],
    },
    ...(record.notes.length > 0 ? [head('Notes'), { ul: record.notes.map((each) => each.words) } as Content] : []),
    { columns: [signature(record, 'trainer', trainer!.name), signature(record, 'operator', name)], columnGap: 30, margin: [0, 16, 0, 0], unbreakable: true } as Content,
    {
      text: `Class content ${pack.id} revision ${pack.revision}, ${pack.hash.slice(0, 16)}. A training record: the maker's manual, the employer's rules, local law and licensed trades come first.`,
      fontSize: 7.5,
      color: QUIET,
      margin: [0, 12, 0, 0],
    },
  ];
  return render({
    info: { title: `Evaluation ${name}` },
    pageSize: 'A4',
    pageMargins: [42, 42, 42, 42],
    content,
    footer: (page, pages) => ({ text: `${name}  ·  ${page} of ${pages}`, alignment: 'center', fontSize: 7.5, color: QUIET }),
  });
}

/** The wallet card, 85.6 x 54 mm, two faces: who, what, until when, and the address that answers valid or not valid today. */
export async function cardPdf(house: House, card: typeof certificate.$inferSelect, base: string): Promise<Buffer> {
  const [who] = await house.db.select().from(person).where(eq(person.id, card.personId));
  const [cls] = await house.db.select().from(machineClass).where(eq(machineClass.id, card.classId));
  const [event] = await house.db
    .select({ on: certificationEventRow.on, by: account.name })
    .from(certificationEventRow)
    .leftJoin(account, eq(account.id, certificationEventRow.accountId))
    .where(eq(certificationEventRow.id, card.eventId))
    .orderBy(asc(certificationEventRow.seq));
  const { rules } = await rulesOn(house.db, event!.on);
  const events = (await eventsByPerson(house.db, [card.personId])).get(card.personId)?.get(card.classId) ?? [];
  const asIssued = standing(
    events.filter((each) => each.on <= event!.on),
    rules,
    event!.on,
    who!.born,
  );
  const now = standing(events, rules, await siteToday(house), who!.born);
  const organisation = await readSetting<string>(house.db, 'organisation', 'Rounds');
  const address = `${base}/verify/${card.token}`;
  const name = `${who!.givenName} ${who!.familyName}`;
  return render({
    info: { title: `Card ${name}` },
    pageSize: { width: 242.65, height: 153.07 },
    pageMargins: [12, 10, 12, 8],
    content: [
      { text: organisation, fontSize: 6.5, color: QUIET },
      { text: cls!.title, bold: true, fontSize: 11.5, margin: [0, 1, 0, 4] },
      {
        columns: [
          {
            width: '*',
            stack: [
              { text: name, bold: true, fontSize: 13 },
              { text: `Payroll ${who!.payroll}`, fontSize: 7.5, color: QUIET, margin: [0, 0, 0, 5] },
              { text: 'Re-evaluation due by', fontSize: 7, color: QUIET },
              { text: longDate(asIssued.until ?? event!.on), bold: true, fontSize: 12 },
              { text: `Trained and evaluated ${longDate(event!.on)}`, fontSize: 7.5, margin: [0, 4, 0, 0] },
              { text: `by ${event!.by ?? 'unknown'}`, fontSize: 7.5 },
            ],
          },
          { width: 78, qr: address, fit: 76, foreground: INK, eccLevel: 'M' },
        ],
      },
      { text: 'Scan to see whether this card is valid today.', fontSize: 6.5, color: QUIET, absolutePosition: { x: 12, y: 138 } },
      { text: 'Familiarised with', bold: true, fontSize: 9, pageBreak: 'before' },
      { text: now.familiarisedWith.join(', ') || 'no machine on record', fontSize: 8, margin: [0, 2, 0, 6] },
      {
        text: "Holds only for this class of machine, with familiarisation on the particular machine, at this employer, while the card is valid. The maker's manual, the employer's rules and local law come first. Hand the card in when asked.",
        fontSize: 7,
      },
      { text: address, fontSize: 6, color: QUIET, margin: [0, 8, 0, 0] },
    ],
  });
}
