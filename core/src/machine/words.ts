import type { Desk } from './desk';
import { type Expression, ExpressionError, parseExpression } from './expression';

/** The names of a desk in words. */
type Names = (name: string) => string;

const lower = (text: string) => (/^[A-Z][a-z]/.test(text) ? text[0]!.toLowerCase() + text.slice(1) : text);
const humanised = (name: string) =>
  name
    .replace(/[.-]/g, ' ')
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .toLowerCase();

function namesOf(desk: Desk): Names {
  const known = new Map<string, string>();
  for (const each of [...desk.controls, ...desk.looks, ...desk.shows]) known.set(each.id, lower(each.name));
  for (const place of desk.places)
    for (const way of place.from ?? []) if (typeof way !== 'string') known.set(way.by, lower(place.name));
  for (const place of desk.places) if (place.by) known.set(place.by, `go: ${lower(place.name)}`);
  return (name) => known.get(name) ?? humanised(name);
}

const seconds = (value: number) => (value >= 60 && value % 60 === 0 ? `${value / 60} min` : `${value} s`);
const OPS: Readonly<Record<string, string>> = {
  '=': '',
  '!=': 'not',
  '<': 'under',
  '<=': 'at most',
  '>': 'over',
  '>=': 'at least',
};

function said(each: Expression, names: Names): string {
  const inner = (one: Expression) => said(one, names);
  switch (each.kind) {
    case 'number':
      return each.unit === null ? String(each.value) : `${each.value} ${each.unit}`;
    case 'name':
    case 'done':
      return names(each.name);
    case 'not':
      return `not ${inner(each.of)}`;
    case 'and':
      return each.parts.map(inner).join(', and ');
    case 'or':
      return each.parts.map(inner).join(', or ');
    case 'compare': {
      const right = each.right.kind === 'name' ? humanised(each.right.name) : inner(each.right);
      return `${inner(each.left)}: ${[OPS[each.op], right].filter(Boolean).join(' ')}`;
    }
    case 'for':
      return `${inner(each.of)}, for ${seconds(each.seconds)}`;
    case 'within':
      return `within ${seconds(each.seconds)} of ${inner(each.of)}`;
    case 'soon':
      return `within ${seconds(each.seconds)}`;
    case 'since':
      return `time since ${inner(each.of)}`;
    case 'count':
      return `times of ${inner(each.of)}`;
    case 'ever':
      return inner(each.of);
    case 'before':
      return `${inner(each.first)}, before ${inner(each.then)}`;
  }
}

/** What a row of a desk says about doing something, in words for people: a condition, an act, or something said aloud. */
export function deskWords(desk: Desk, text: string): string {
  const names = namesOf(desk);
  if (text.startsWith('call:')) return `Say: "${text.slice('call:'.length).trim()}"`;
  const held = /^(.*?)\s+held\s+until\s+(.+)$/.exec(text);
  try {
    const words = held
      ? `${said(parseExpression(held[1]!), names)}, until ${said(parseExpression(held[2]!), names)}`
      : said(parseExpression(text), names);
    return words[0]!.toUpperCase() + words.slice(1);
  } catch (error) {
    if (!(error instanceof ExpressionError)) throw error;
    return text;
  }
}

/** Everything that anybody may have to say aloud at a desk, each once. */
export function deskCalls(desk: Desk): string[] {
  const acts = [
    ...Object.values(desk.steps).flatMap((each) => [
      ...(each.acts ?? []),
      ...(each.alternatives ?? []).flat(),
    ]),
    ...Object.values(desk.failures).flatMap((each) => ('right' in each ? each.right : [])),
  ];
  const calls = acts
    .filter((each) => each.startsWith('call:'))
    .map((each) => each.slice('call:'.length).trim());
  return [...new Set(calls)].sort((a, b) => a.localeCompare(b));
}

/** How far a pedal of a desk is ever to be pressed, 0 to 1, apart from letting it go. */
export function pedalDepths(desk: Desk, pedal: string): number[] {
  const wanted = [...JSON.stringify(desk).matchAll(new RegExp(`\\b${pedal} = (\\d(?:\\.\\d+)?)`, 'g'))];
  return [...new Set([0.5, 1, ...wanted.map((each) => Number(each[1]))])]
    .filter((each) => each > 0 && each <= 1)
    .sort((a, b) => a - b);
}
