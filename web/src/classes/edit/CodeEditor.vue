<script setup lang="ts">
import {
  autocompletion,
  closeBrackets,
  closeBracketsKeymap,
  type CompletionContext,
  completionKeymap,
  type CompletionResult,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap, indentWithTab } from '@codemirror/commands';
import { yaml } from '@codemirror/lang-yaml';
import {
  bracketMatching,
  defaultHighlightStyle,
  foldGutter,
  foldKeymap,
  HighlightStyle,
  indentOnInput,
  indentUnit,
  syntaxHighlighting,
} from '@codemirror/language';
import { type Diagnostic, lintGutter, lintKeymap, setDiagnostics } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import {
  drawSelection,
  EditorView,
  highlightActiveLine,
  highlightActiveLineGutter,
  keymap,
  lineNumbers,
} from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { type PackError, packJsonSchema } from '@rounds/core/catalogue';
import { onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { schemaAt, type SchemaNode, valuesOf, yamlPlace } from './yamlContext';

/**
 * A YAML editor that knows the pack schema: keys and values are offered while typing, errors stand at their
 * lines.
 */
const props = defineProps<{
  modelValue: string;
  errors: readonly PackError[];
  label: string;
  /** The line to begin at. */
  line?: number | null;
}>();
const emit = defineEmits<{ 'update:modelValue': [text: string] }>();
const host = ref<HTMLElement | null>(null);
const schema = packJsonSchema() as SchemaNode;
let view: EditorView | null = null;

/** Ids that a key may point to, read from the text itself. */
const POINTS_TO: Readonly<Record<string, { section: RegExp; indent: number }>> = {
  station: { section: /^ {2}stations:$/, indent: 4 },
  spurFrom: { section: /^ {2}stations:$/, indent: 4 },
  checkpoint: { section: /^checkpoints:$/, indent: 2 },
};
function idsFor(key: string, lines: readonly string[]): string[] {
  const rule = POINTS_TO[key];
  if (!rule) return [];
  const ids: string[] = [];
  const begin = lines.findIndex((line) => rule.section.test(line));
  for (const line of begin < 0 ? [] : lines.slice(begin + 1)) {
    if (line.trim() && line.search(/\S/) < rule.indent) break;
    const id = new RegExp(`^ {${rule.indent}}- id: (.+)$`).exec(line);
    if (id) ids.push(id[1]!);
  }
  return ids;
}

function complete(context: CompletionContext): CompletionResult | null {
  const line = context.state.doc.lineAt(context.pos);
  const before = line.text.slice(0, context.pos - line.from);
  const lines = context.state.doc.toString().split('\n');
  const place = yamlPlace(lines, line.number - 1, before);
  const word = /[\w.-]*$/.exec(before)![0];
  if (!context.explicit && word === '') return null;
  const from = context.pos - word.length;
  if (place.valueOf !== null) {
    const inside = /\{[^}]*$/.test(before) ? /([\w-]+): *[\w.-]*$/.exec(before)?.[1] : undefined;
    const values = valuesOf(
      schemaAt(schema, inside ? [...place.path, place.valueOf, inside] : [...place.path, place.valueOf]),
    );
    const options = [...values, ...idsFor(place.valueOf, lines)].map((label) => ({ label, type: 'enum' }));
    return options.length > 0 ? { from, options } : null;
  }
  const node = schemaAt(schema, place.path);
  const options = Object.entries(node?.properties ?? {})
    .filter(([key]) => !place.used.includes(key))
    .map(([key, each]) => ({
      label: key,
      apply: `${key}: `,
      type: 'property',
      detail: node!.required?.includes(key) ? 'needed' : '',
      info: each.description,
    }));
  return options.length > 0
    ? { from, options: options.map(({ info, ...each }) => (info ? { ...each, info } : each)) }
    : null;
}

function showErrors() {
  if (!view) return;
  const { doc } = view.state;
  const diagnostics: Diagnostic[] = props.errors.slice(0, 200).map((error) => {
    const line = doc.line(Math.min(Math.max(1, error.line), doc.lines));
    return {
      from: line.from + line.text.search(/\S|$/),
      to: line.to,
      severity: 'error',
      message: error.message,
      source: error.rule,
    };
  });
  view.dispatch(setDiagnostics(view.state, diagnostics));
}

const theme = EditorView.theme({
  '&': { height: '100%', fontSize: '0.9rem', backgroundColor: 'var(--raised)', color: 'var(--ink)' },
  '.cm-scroller': { fontFamily: 'ui-monospace, "DejaVu Sans Mono", monospace', lineHeight: '1.5' },
  '.cm-gutters': {
    backgroundColor: 'var(--sheet)',
    color: 'var(--quiet)',
    borderRight: '1px solid var(--line)',
  },
  '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: 'var(--ground)' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)', borderLeftWidth: '2px' },
  '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': {
    backgroundColor: 'var(--line) !important',
  },
  '.cm-tooltip': { backgroundColor: 'var(--sheet)', color: 'var(--ink)', border: '1px solid var(--quiet)' },
  '.cm-tooltip-autocomplete > ul > li[aria-selected]': {
    backgroundColor: 'var(--petrol)',
    color: 'var(--on-petrol)',
  },
  '.cm-diagnostic-error': { borderLeftColor: 'var(--crimson)' },
});
const colours = HighlightStyle.define([
  { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: 'var(--petrol)', fontWeight: '700' },
  { tag: tags.comment, color: 'var(--quiet)', fontStyle: 'italic' },
  { tag: [tags.punctuation, tags.separator, tags.squareBracket, tags.brace], color: 'var(--quiet)' },
  { tag: [tags.string, tags.content], color: 'var(--ink)' },
]);

onMounted(() => {
  view = new EditorView({
    parent: host.value!,
    state: EditorState.create({
      doc: props.modelValue,
      extensions: [
        lineNumbers(),
        foldGutter(),
        lintGutter(),
        history(),
        drawSelection(),
        indentOnInput(),
        indentUnit.of('  '),
        bracketMatching(),
        closeBrackets(),
        highlightActiveLine(),
        highlightActiveLineGutter(),
        yaml(),
        syntaxHighlighting(colours),
        syntaxHighlighting(defaultHighlightStyle, { fallback: true }),
        autocompletion({ override: [complete], activateOnTyping: true }),
        theme,
        EditorView.contentAttributes.of({ 'aria-label': props.label, tabindex: '0' }),
        keymap.of([
          ...closeBracketsKeymap,
          ...defaultKeymap,
          ...historyKeymap,
          ...foldKeymap,
          ...completionKeymap,
          ...lintKeymap,
          indentWithTab,
        ]),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) emit('update:modelValue', update.state.doc.toString());
        }),
      ],
    }),
  });
  showErrors();
  if (props.line) goTo(props.line);
});
onBeforeUnmount(() => view?.destroy());
watch(
  () => props.modelValue,
  (text) => {
    if (view && text !== view.state.doc.toString())
      view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: text } });
  },
);
watch(() => props.errors, showErrors);

/** Puts the cursor on a line and shows it. */
function goTo(line: number) {
  if (!view) return;
  const at = view.state.doc.line(Math.min(Math.max(1, line), view.state.doc.lines));
  view.dispatch({
    selection: { anchor: at.from },
    effects: EditorView.scrollIntoView(at.from, { y: 'center' }),
  });
  view.focus();
}
defineExpose({ goTo });
</script>

<template>
  <div ref="host" class="code"></div>
</template>

<style scoped>
.code {
  height: min(66vh, 900px);
  border: 1px solid var(--quiet);
  border-radius: 3px;
  overflow: hidden;
}
</style>
