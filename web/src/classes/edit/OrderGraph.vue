<script setup lang="ts">
import { Graph, layout } from '@dagrejs/dagre';
import type { Pack, Procedure, Step } from '@rounds/core/catalogue';
import { wrapped } from '@rounds/core/text';
import { judge, judgementWords, loopWith, type Trace } from '@rounds/core/procedure';
import { Alert, Button, Switch } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';

/**
 * The order of a procedure as a graph: a line runs from a step to each that waits for it. Drag from step to step to put
 * one before the other; what would run in a circle is refused with the circle shown. A dry run tells what the judge
 * says of the steps tapped in any order.
 */
const props = defineProps<{ pack: Pack; procedure: Procedure }>();
const emit = defineEmits<{ after: [step: string, after: Step['after']] }>();
/** A draft leaves out what is as usual. */
const steps = computed(() =>
  props.procedure.steps.map((each): Step => ({
    ...each,
    after: each.after ?? [],
    holds: each.holds ?? [],
    optional: each.optional ?? false,
  })),
);
const nameOf = (id: string) => steps.value.find((each) => each.id === id)?.do ?? id;

const WIDTH = 190;
const LINE = 16;
const LETTERS = 26;
const lines = (words: string) => wrapped(words, LETTERS);
interface Edge {
  from: string;
  to: string;
  /** It is one of a group of which one is enough. */
  grouped: boolean;
}
const edges = computed<Edge[]>(() =>
  steps.value.flatMap((step) =>
    step.after.flatMap((each) =>
      (typeof each === 'string' ? [each] : each.anyOf)
        .filter((id) => steps.value.some((other) => other.id === id))
        .map((from) => ({ from, to: step.id, grouped: typeof each !== 'string' })),
    ),
  ),
);
const drawn = computed(() => {
  const graph = new Graph();
  graph.setGraph({ rankdir: 'TB', nodesep: 18, ranksep: 34, marginx: 8, marginy: 8 });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const step of steps.value)
    graph.setNode(step.id, { width: WIDTH, height: 22 + lines(step.do).length * LINE });
  for (const { from, to } of edges.value) graph.setEdge(from, to);
  layout(graph);
  const nodes = steps.value.map((step, i) => {
    const { x, y, height } = graph.node(step.id) as { x: number; y: number; height: number };
    return { step, n: i + 1, x, y, height, lines: lines(step.do) };
  });
  const ways = edges.value.map((edge) => {
    const { points } = graph.edge(edge.from, edge.to) as { points: { x: number; y: number }[] };
    return {
      ...edge,
      key: `${edge.from} ${edge.to}`,
      path: `M${points.map(({ x, y }) => `${x} ${y}`).join('L')}`,
    };
  });
  const { width = 0, height = 0 } = graph.graph();
  return { nodes, ways, width, height };
});

const problem = ref('');
const loop = ref<string[]>([]);
function connect(from: string, to: string) {
  problem.value = '';
  loop.value = [];
  if (from === to || edges.value.some((each) => each.from === from && each.to === to)) return;
  const circle = loopWith(steps.value, from, to);
  if (circle) {
    loop.value = circle;
    problem.value = `That would run in a circle: ${circle.map((id) => `“${nameOf(id)}”`).join(', then ')}. Nothing was changed.`;
    return;
  }
  const step = steps.value.find((each) => each.id === to)!;
  emit('after', to, [...step.after, from]);
}

/** Lines that are chosen: all lead to one step. */
const chosen = ref<string[]>([]);
const chosenEdges = computed(() =>
  edges.value.filter((each) => chosen.value.includes(`${each.from} ${each.to}`)),
);
const target = computed(() => chosenEdges.value[0]?.to ?? null);
function choose(edge: Edge) {
  const key = `${edge.from} ${edge.to}`;
  if (chosen.value.includes(key)) chosen.value = chosen.value.filter((each) => each !== key);
  else chosen.value = target.value === edge.to ? [...chosen.value, key] : [key];
}
/** What a step waits for without the chosen lines. */
function without(): Step['after'] {
  const gone = new Set(chosenEdges.value.map((each) => each.from));
  return steps.value
    .find((each) => each.id === target.value)!
    .after.flatMap((each): Step['after'] => {
      if (typeof each === 'string') return gone.has(each) ? [] : [each];
      const left = each.anyOf.filter((id) => !gone.has(id));
      if (left.length === 0) return [];
      return left.length === 1 ? [left[0]!] : [{ anyOf: left }];
    });
}
function change(added: Step['after']) {
  emit('after', target.value!, [...without(), ...added]);
  chosen.value = [];
}
const froms = computed(() => chosenEdges.value.map((each) => each.from));

const frame = ref<SVGSVGElement | null>(null);
const pulling = ref<{ from: string; x: number; y: number } | null>(null);
/** The step from which a line is drawn by keyboard. */
const armed = ref<string | null>(null);
function inDrawing(event: PointerEvent): { x: number; y: number } {
  const matrix = frame.value!.getScreenCTM()!.inverse();
  const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
  return { x, y };
}
function pull(event: PointerEvent, id: string) {
  if (trying.value) return;
  pulling.value = { from: id, ...inDrawing(event) };
  frame.value!.setPointerCapture(event.pointerId);
}
function move(event: PointerEvent) {
  if (pulling.value) pulling.value = { ...pulling.value, ...inDrawing(event) };
}
function drop(event: PointerEvent) {
  if (!pulling.value) return;
  const { from } = pulling.value;
  const { x, y } = inDrawing(event);
  pulling.value = null;
  const over = drawn.value.nodes.find(
    (each) => Math.abs(each.x - x) <= WIDTH / 2 && Math.abs(each.y - y) <= each.height / 2,
  );
  if (over) connect(from, over.step.id);
}
function press(id: string) {
  if (trying.value) {
    tapped.value = [...tapped.value, id];
    return;
  }
  if (armed.value === null) armed.value = id;
  else {
    connect(armed.value, id);
    armed.value = null;
  }
}

const trying = ref(false);
const tapped = ref<string[]>([]);
watch([trying, () => props.procedure.id], () => (tapped.value = []));
const said = computed(() => {
  if (!trying.value || tapped.value.length === 0) return [];
  const trace: Trace = {
    // A dry run has no clock: no time is judged by it.
    events: tapped.value.map((id, at) => ({
      token: steps.value.find((each) => each.id === id)?.token ?? id,
      at,
      unsure: true,
    })),
    broken: [],
    conditions: [],
    ended:
      tapped.value.length === steps.value.filter((each) => !each.optional).length
        ? tapped.value.length
        : null,
  };
  try {
    const { forbidden = [], sheet } = props.pack;
    const pack = { procedures: [{ ...props.procedure, steps: steps.value }], forbidden, sheet };
    return judgementWords(judge(pack, [props.procedure.id], trace, { promptCredit: 0.5 }), trace).filter(
      (each) => !each.says.startsWith('Not judged'),
    );
  } catch (error) {
    return [{ says: error instanceof Error ? error.message : 'It cannot be judged.', critical: true }];
  }
});
</script>

<template>
  <section class="graph" aria-label="Order of the steps">
    <div class="row spread">
      <h3>Order of the steps</h3>
      <label class="row"><Switch v-model:checked="trying" aria-label="Dry run" /> Dry run</label>
    </div>
    <p class="quiet">
      {{
        trying
          ? 'Tap the steps in any order; the judge says what it thinks of it.'
          : 'Drag from a step to the one that must wait for it, or press Enter on one and then on the other. Tap a line to choose it.'
      }}
    </p>
    <Alert v-if="problem" type="error" :message="problem" role="alert" />
    <div v-if="chosen.length && !trying" class="row" role="group" aria-label="Chosen lines">
      <Button danger @click="change([])">{{
        chosen.length === 1 ? 'Remove the line' : `Remove ${chosen.length} lines`
      }}</Button>
      <Button v-if="chosen.length > 1" @click="change([{ anyOf: froms }])">One of these is enough</Button>
      <Button v-if="chosenEdges.some((each) => each.grouped)" @click="change(froms)"
        >All of these must come before</Button
      >
      <Button type="text" @click="chosen = []">Leave them</Button>
    </div>
    <div v-if="trying" class="row">
      <Button :disabled="tapped.length === 0" @click="tapped = tapped.slice(0, -1)"
        >Take the last back</Button
      >
      <Button :disabled="tapped.length === 0" @click="tapped = []">From the beginning</Button>
    </div>
    <ul v-if="trying" class="said" role="status">
      <li v-for="(each, i) in said" :key="i" :class="{ critical: each.critical }">{{ each.says }}</li>
    </ul>
    <div class="scrolls">
      <svg
        ref="frame"
        :viewBox="`0 0 ${drawn.width} ${drawn.height}`"
        :width="drawn.width"
        :height="drawn.height"
        @pointermove="move"
        @pointerup="drop"
        @pointercancel="pulling = null"
      >
        <defs>
          <marker
            id="order-arrow"
            viewBox="0 0 10 10"
            refX="9"
            refY="5"
            markerWidth="7"
            markerHeight="7"
            orient="auto"
          >
            <path d="M0 0L10 5L0 10Z" class="head" />
          </marker>
        </defs>
        <g
          v-for="each in drawn.ways"
          :key="each.key"
          class="way"
          :class="{ grouped: each.grouped, chosen: chosen.includes(each.key) }"
          role="button"
          tabindex="0"
          :aria-pressed="chosen.includes(each.key)"
          :aria-label="`${nameOf(each.from)} comes before ${nameOf(each.to)}${each.grouped ? ', one of several' : ''}`"
          @click="choose(each)"
          @keydown.enter.prevent="choose(each)"
          @keydown.space.prevent="choose(each)"
        >
          <path class="target" :d="each.path" />
          <path class="line" :d="each.path" marker-end="url(#order-arrow)" />
        </g>
        <path
          v-if="pulling"
          class="pull"
          :d="`M${drawn.nodes.find((each) => each.step.id === pulling!.from)!.x} ${drawn.nodes.find((each) => each.step.id === pulling!.from)!.y}L${pulling.x} ${pulling.y}`"
        />
        <g
          v-for="each in drawn.nodes"
          :key="each.step.id"
          class="node"
          :class="{
            critical: each.step.critical,
            optional: each.step.optional,
            armed: armed === each.step.id,
            looped: loop.includes(each.step.id),
            tapped: tapped.includes(each.step.id),
          }"
          role="button"
          tabindex="0"
          :aria-label="`${each.n}. ${each.step.do}`"
          :transform="`translate(${each.x - WIDTH / 2} ${each.y - each.height / 2})`"
          @pointerdown.prevent="pull($event, each.step.id)"
          @click="trying && press(each.step.id)"
          @keydown.enter.prevent="press(each.step.id)"
          @keydown.space.prevent="press(each.step.id)"
        >
          <rect :width="WIDTH" :height="each.height" rx="3" />
          <text v-for="(line, i) in each.lines" :key="i" x="10" :y="22 + i * LINE" aria-hidden="true">
            {{ i === 0 ? `${each.n}. ${line} ` : `${line} ` }}
          </text>
        </g>
      </svg>
    </div>
  </section>
</template>

<style scoped>
.graph {
  display: grid;
  gap: 0.5rem;
  margin-bottom: 1rem;
}
.scrolls {
  overflow: auto;
  max-height: 70vh;
  border: 1px solid var(--line);
  background: var(--ground);
}
svg {
  display: block;
  touch-action: none;
}
.node {
  cursor: grab;
}
.node rect {
  fill: var(--raised);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.node.critical rect {
  stroke-width: 3.5;
}
.node.optional rect {
  stroke-dasharray: 5 4;
}
.node.armed rect,
.node:focus-visible rect {
  stroke: var(--amber);
  stroke-width: 4;
}
.node.looped rect {
  stroke: var(--crimson);
  stroke-width: 4;
}
.node.tapped rect {
  fill: var(--machine);
}
.node text {
  font-size: 12.5px;
  fill: var(--ink);
  user-select: none;
}
.way {
  cursor: pointer;
}
.target {
  fill: none;
  stroke: transparent;
  stroke-width: 14;
}
.line {
  fill: none;
  stroke: var(--machine-deep);
  stroke-width: 2;
}
.grouped .line {
  stroke-dasharray: 6 4;
}
.chosen .line,
.way:focus-visible .line {
  stroke: var(--petrol);
  stroke-width: 4.5;
}
.head {
  fill: var(--machine-deep);
}
.pull {
  fill: none;
  stroke: var(--amber);
  stroke-width: 3;
  pointer-events: none;
}
.said {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.25rem;
}
.said .critical {
  font-weight: 700;
}
</style>
