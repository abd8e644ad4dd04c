import {
  type Session,
  TRACE_COLUMNS,
  type Trace,
  traceFromRows,
  type TraceRow,
  traceRows,
} from '@rounds/core/procedure';
import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { XMLBuilder, XMLParser } from 'fast-xml-parser';

/** Traces as files: CSV (RFC 4180), and XES, the open standard for event logs (IEEE 1849). */

/** Thrown for a file that is no trace at all; the message says why. */
export class UnreadableTrace extends Error {}

export function traceCsv(trace: Trace, startedAt: string): string {
  return stringify(traceRows(trace, startedAt), {
    header: true,
    columns: [...TRACE_COLUMNS],
    record_delimiter: '\r\n',
  });
}

export function readTraceCsv(text: string, session: Session): ReturnType<typeof traceFromRows> {
  let rows: Partial<TraceRow>[];
  try {
    rows = parse(text, {
      columns: (heading: string[]) => heading.map((each) => each.trim().toLowerCase()),
      bom: true,
      skip_empty_lines: true,
      relax_column_count: true,
    });
  } catch (error) {
    throw new UnreadableTrace(
      `This is no CSV that can be read: ${error instanceof Error ? error.message : 'unknown'}.`,
    );
  }
  if (rows.length > 0 && !('token' in rows[0]!))
    throw new UnreadableTrace(
      'The first line must name the columns, "token" among them, and "at" or "time".',
    );
  return traceFromRows(rows, session);
}

const ATTRIBUTE = '@_';
interface XesAttribute {
  '@_key': string;
  '@_value': string;
}
const attribute = (key: string, value: string): XesAttribute => ({ '@_key': key, '@_value': value });

/** A trace as an XES log of one case: an act is an event, its end another one with the transition "complete". */
export function traceXes(trace: Trace, startedAt: string, name: string): string {
  const events = traceRows(trace, startedAt).flatMap((row) => {
    const event = (time: string, transition: string, at: string) => ({
      string: [
        attribute('concept:name', row.token),
        attribute('lifecycle:transition', transition),
        attribute('rounds:kind', row.kind),
        attribute('rounds:at', at),
        ...(row.mark ? [attribute('rounds:mark', row.mark)] : []),
        ...(row.more ? [attribute('rounds:more', row.more)] : []),
      ],
      date: [attribute('time:timestamp', time)],
    });
    const after = Date.parse(row.time) + (Number(row.end) - Number(row.at)) * 1000;
    return [
      event(row.time, row.end === '' ? 'complete' : 'start', row.at),
      ...(row.end === '' ? [] : [event(new Date(after).toISOString(), 'complete', row.end)]),
    ];
  });
  events.sort((a, b) => (a.date[0]!['@_value'] < b.date[0]!['@_value'] ? -1 : 1));
  const builder = new XMLBuilder({ ignoreAttributes: false, attributeNamePrefix: ATTRIBUTE, format: true });
  return builder.build({
    '?xml': { '@_version': '1.0', '@_encoding': 'UTF-8' },
    log: {
      '@_xes.version': '1849-2023',
      '@_xmlns': 'http://www.xes-standard.org/',
      extension: [
        { '@_name': 'Concept', '@_prefix': 'concept', '@_uri': 'http://www.xes-standard.org/concept.xesext' },
        { '@_name': 'Time', '@_prefix': 'time', '@_uri': 'http://www.xes-standard.org/time.xesext' },
        {
          '@_name': 'Lifecycle',
          '@_prefix': 'lifecycle',
          '@_uri': 'http://www.xes-standard.org/lifecycle.xesext',
        },
      ],
      trace: { string: [attribute('concept:name', name)], event: events },
    },
  });
}

interface XesNode {
  string?: XesAttribute[];
  date?: XesAttribute[];
}

/** Reads the first case of an XES log. */
export function readTraceXes(text: string, session: Session): ReturnType<typeof traceFromRows> {
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: ATTRIBUTE,
    parseAttributeValue: false,
    processEntities: true,
    isArray: (tag) => ['trace', 'event', 'string', 'date'].includes(tag),
  });
  let log: { trace?: { event?: XesNode[] }[] } | undefined;
  try {
    log = (parser.parse(text, true) as { log?: typeof log }).log;
  } catch (error) {
    throw new UnreadableTrace(
      `This is no XML that can be read: ${error instanceof Error ? error.message : 'unknown'}.`,
    );
  }
  if (!log?.trace?.[0]) throw new UnreadableTrace('This is no XES log with a trace in it.');
  const rows: Partial<TraceRow>[] = [];
  const running = new Map<string, Partial<TraceRow>>();
  const first = log.trace[0].event?.[0];
  const began = Date.parse(valueOf(first, 'time:timestamp') ?? '');
  for (const event of log.trace[0].event ?? []) {
    const token = valueOf(event, 'concept:name') ?? '';
    const time = valueOf(event, 'time:timestamp') ?? '';
    const transition = valueOf(event, 'lifecycle:transition') ?? 'complete';
    const at =
      valueOf(event, 'rounds:at') ??
      (Number.isFinite(began) ? String((Date.parse(time) - began) / 1000) : '');
    const open = running.get(token);
    if (transition === 'complete' && open) {
      open.end = at;
      running.delete(token);
      continue;
    }
    const row: Partial<TraceRow> = {
      kind: valueOf(event, 'rounds:kind') ?? 'act',
      token,
      time,
      at,
      mark: valueOf(event, 'rounds:mark') ?? '',
      more: valueOf(event, 'rounds:more') ?? '',
      device: valueOf(event, 'org:resource') ?? '',
    };
    rows.push(row);
    if (transition === 'start') running.set(token, row);
  }
  return traceFromRows(rows, session);
}

function valueOf(node: XesNode | undefined, key: string): string | undefined {
  return [...(node?.string ?? []), ...(node?.date ?? [])].find((each) => each['@_key'] === key)?.['@_value'];
}
