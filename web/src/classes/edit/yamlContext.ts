/** A JSON Schema node, as far as completion and forms need it. */
export interface SchemaNode {
  type?: string | string[];
  enum?: (string | number)[];
  const?: unknown;
  description?: string;
  properties?: Record<string, SchemaNode>;
  required?: string[];
  items?: SchemaNode | boolean;
  prefixItems?: SchemaNode[];
  anyOf?: SchemaNode[];
  additionalProperties?: SchemaNode | boolean;
  maxLength?: number;
  minimum?: number;
  maximum?: number;
  pattern?: string;
  default?: unknown;
}

/**
 * A place in YAML text: the keys (and array steps) that lead there, and the key on the line when the cursor
 * stands in its value.
 */
export interface YamlPlace {
  path: (string | number)[];
  valueOf: string | null;
  /** Keys already used beside the place. */
  used: string[];
}

const indentOf = (line: string) => /^ */.exec(line)![0].length;
/** A block line: its indent, how many "- " it opens, and its key. */
function shape(line: string): { indent: number; dash: boolean; keyIndent: number; key: string | null } {
  const match = /^( *)((?:- +)*)(?:"?([\w.-]+)"? *:(?: |$))?/.exec(line)!;
  const dash = match[2] !== '';
  return {
    indent: match[1]!.length,
    dash,
    keyIndent: match[1]!.length + match[2]!.length,
    key: match[3] ?? null,
  };
}

/**
 * Where line `at` (from 0) with the text before the cursor stands in block YAML. Flow collections count as
 * the value of their key.
 */
export function yamlPlace(lines: readonly string[], at: number, before: string): YamlPlace {
  const here = shape(before);
  const valueOf = here.key !== null && /:\s/.test(before.slice(here.keyIndent)) ? here.key : null;
  const path: (string | number)[] = [];
  const column = here.key === null && !here.dash ? indentOf(before) : here.keyIndent;
  let level = column;
  if (here.dash) path.unshift(0);
  let open = here.dash ? here.indent : column;
  for (let i = at - 1; i >= 0; i--) {
    const line = lines[i]!;
    if (!line.trim() || line.trimStart().startsWith('#')) continue;
    const each = shape(line);
    if (each.dash && each.keyIndent === level && each.indent < open) {
      // The row this line belongs to began here.
      path.unshift(0);
      open = each.indent;
      continue;
    }
    if (each.key !== null && each.keyIndent < open + (path[0] === 0 ? 1 : 0) && each.keyIndent < level) {
      path.unshift(each.key);
      level = each.keyIndent;
      open = each.keyIndent;
      if (each.dash) {
        path.unshift(0);
        open = each.indent;
      }
    }
    if (level === 0) break;
  }
  const used: string[] = [];
  for (const step of [-1, 1]) {
    for (let i = at + step; i >= 0 && i < lines.length; i += step) {
      const each = shape(lines[i]!);
      if (!lines[i]!.trim()) continue;
      if (each.keyIndent < column || (each.dash && each.keyIndent === column && step === 1)) break;
      if (each.keyIndent === column && each.key) used.push(each.key);
      if (each.dash && each.keyIndent === column) break;
    }
    if (here.dash && step === -1) used.length = 0;
  }
  return { path, valueOf, used };
}

/** The schema at a path; null where there is none. */
export function schemaAt(schema: SchemaNode, path: readonly (string | number)[]): SchemaNode | null {
  let node: SchemaNode | undefined = schema;
  for (const key of path) {
    node = unwrap(node);
    if (typeof key === 'number') node = typeof node?.items === 'object' ? node.items : undefined;
    else
      node =
        node?.properties?.[key] ??
        (typeof node?.additionalProperties === 'object' ? node.additionalProperties : undefined);
    if (!node) return null;
  }
  return unwrap(node) ?? null;
}

/** The schema of a row: of several that it may be, the one whose fields it has. */
export function schemaOfRow(
  schema: SchemaNode,
  path: readonly (string | number)[],
  row: Readonly<Record<string, unknown>>,
): SchemaNode | null {
  const parent = schemaAt(schema, path.slice(0, -1));
  const of = typeof path.at(-1) === 'number' ? parent?.items : parent?.additionalProperties;
  const own = typeof of === 'object' ? of : undefined;
  const fits = own?.anyOf?.find(
    (each) => each.properties && Object.keys(row).every((field) => field in each.properties!),
  );
  return fits ?? schemaAt(schema, path);
}

/** The object or array among alternatives. */
function unwrap(node: SchemaNode | undefined): SchemaNode | undefined {
  return node?.anyOf?.find((each) => each.properties ?? each.items) ?? node;
}

/** Values a schema names. */
export function valuesOf(node: SchemaNode | null): string[] {
  if (!node) return [];
  if (node.enum) return node.enum.map(String);
  if (node.type === 'boolean') return ['true', 'false'];
  if (typeof node.items === 'object') return valuesOf(node.items);
  return [];
}
