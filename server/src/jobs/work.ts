import {
  applyTable,
  type Pack,
  type PackReading,
  packToYaml,
  readPack,
  type TableKind,
} from '@rounds/core/catalogue';
import {
  answersAtDesk,
  callsAt,
  type CommandDeal,
  commandResult,
  type CommandResult,
  type CommandStandard,
  controlsOf,
} from '@rounds/core/commands';
import {
  type DeskDeal,
  type DeskPack,
  type DeskResult,
  judgeDesk,
  type LoggedAct,
  machineOf,
} from '@rounds/core/machine';
import { type StepResult, stepResults } from '@rounds/core/procedure';
import { cardDocument, type CardSubject, reportDocument, type ReportSubject } from '../assess/paperDocuments';
import { type ClassPaper, classPapers, type PaperSubject } from '../classes/paperDocuments';
import { csvCells } from '../classes/tableCsv';
import { type AskedColumns, checkRows, matchColumns, readCsv, type ReadRoster } from '../people/csvImport';
import { dealRun } from '../practice/dealRun';
import { render } from '../print/pdf';
import { courseDocument, type CoursePaperSubject } from '../teach/coursePaper';
import { lessonDocument, type LessonPaperSubject } from '../teach/lessonPaper';

/** A run that is to be judged. */
interface JudgedRun {
  pack: DeskPack;
  deal: DeskDeal;
  log: LoggedAct[];
  ticks: number;
}

interface JudgedSet {
  pack: DeskPack;
  deal: CommandDeal;
  standard: CommandStandard;
  log: LoggedAct[];
  ticks: number;
}

/** Tells how much of a piece of work is done. */
export type Progress = (done: number, total: number) => void;

/**
 * What runs in worker threads because it can take longer than other requests should wait: reading what
 * somebody sends, and printing.
 * Each takes and gives plain data, and may throw a ProblemError.
 */
export const work = {
  readPack: (source: string): PackReading => readPack(source),
  packYaml: (pack: Pack): string => packToYaml(pack),
  readTable({ base, kind, source }: { base: Pack; kind: TableKind; source: string }): PackReading {
    const csv = csvCells(source);
    return csv.errors.length > 0
      ? { pack: null, errors: csv.errors }
      : applyTable(base, kind, csv.cells, csv.lines);
  },
  readRoster({ csv, asked }: { csv: string; asked: AskedColumns }, progress: Progress): ReadRoster {
    const { columns, rows } = readCsv(csv);
    const mapping = matchColumns(columns, asked);
    return { columns, mapping, rows: rows.length, ...checkRows(columns, rows, mapping, progress) };
  },
  dealRun,
  judgeDesk({ pack, deal, log, ticks }: JudgedRun): { result: DeskResult; steps: StepResult[] } {
    const { result, judgement } = judgeDesk(pack, machineOf(pack)!, deal, log, ticks);
    return { result, steps: stepResults(judgement, result.trace) };
  },
  judgeCommands({ pack, deal, standard, log, ticks }: JudgedSet): CommandResult {
    const controls = controlsOf(pack)!;
    const answers = answersAtDesk(controls, deal, standard.seconds, log, ticks);
    return commandResult(callsAt(controls, deal.place), answers, standard);
  },
  classPaper: ({ paper, subject }: { paper: ClassPaper; subject: PaperSubject }): Promise<Buffer> =>
    render(classPapers[paper](subject)),
  course: (subject: CoursePaperSubject): Promise<Buffer> => render(courseDocument(subject)),
  lesson: (subject: LessonPaperSubject): Promise<Buffer> => render(lessonDocument(subject)),
  report: (subject: ReportSubject): Promise<Buffer> => render(reportDocument(subject)),
  card: (subject: CardSubject): Promise<Buffer> => render(cardDocument(subject)),
} as const;

export type Work = typeof work;
export type WorkKind = keyof Work;
