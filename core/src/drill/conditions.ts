import {
  type Checkpoint,
  COMMON_CONDITIONS,
  conditionIn,
  type EffectivePack,
  LIVE_CONDITIONS,
} from '../catalogue';

/**
 * The state of the machine as far as a reading depends on it: what its power is, how warm it is, and what else was
 * brought about.
 */
export interface MachineState {
  power: Power;
  temperature: Temperature;
  /** Conditions that are neither power nor temperature and hold. */
  others: readonly string[];
}

export const POWERS = ['engine-off', 'isolated', 'key-on', 'engine-running', 'moved-off'] as const;
export type Power = (typeof POWERS)[number];
export const TEMPERATURES = ['cold', 'warm'] as const;
export type Temperature = (typeof TEMPERATURES)[number];

/** What else holds with a power: what is isolated is off, what moves runs and has its key on. */
const IMPLIED: Readonly<Record<Power, readonly Power[]>> = {
  'engine-off': ['engine-off'],
  isolated: ['isolated', 'engine-off'],
  'key-on': ['key-on'],
  'engine-running': ['engine-running', 'key-on'],
  'moved-off': ['moved-off', 'engine-running', 'key-on'],
};

/** Seconds that bringing a condition about takes, where it takes any worth naming (common practice). */
const WAITS: Readonly<Record<string, number>> = { cold: 1800, warm: 300 };

const isPower = (id: string): id is Power => (POWERS as readonly string[]).includes(id);
const isTemperature = (id: string): id is Temperature => (TEMPERATURES as readonly string[]).includes(id);

/** A machine as it is found at the start of a shift: off and cold, with what the class says holds then. */
export function machineAtStart(pack: EffectivePack): MachineState {
  return {
    power: 'engine-off',
    temperature: 'cold',
    others: pack.conditions.filter((each) => each.atStart).map((each) => each.id),
  };
}

/** A group of conditions that a learner can bring about. */
export interface ConditionGroup {
  name: 'Power' | 'Temperature' | 'Made sure';
  conditions: { id: string; says: string }[];
}

/** The conditions that checks of a class ask for, by kind; of power every one, for one ends the other. */
export function conditionGroups(pack: EffectivePack): ConditionGroup[] {
  const asked = new Set(pack.checkpoints.flatMap((each) => each.when));
  asked.delete('any');
  const say = (id: string) => ({ id, says: conditionIn(pack, id) });
  const live = [...asked].some((each) => LIVE_CONDITIONS.includes(each));
  const powers = POWERS.filter(
    (each) => asked.has(each) || each === 'engine-off' || (live && each === 'engine-running'),
  );
  const own = new Set(pack.conditions.map((each) => each.id));
  const others = [...Object.keys(COMMON_CONDITIONS).filter((each) => !own.has(each)), ...own].filter(
    (each) => asked.has(each) && !isPower(each) && !isTemperature(each),
  );
  const groups: ConditionGroup[] = [
    { name: 'Power', conditions: powers.map(say) },
    {
      name: 'Temperature',
      conditions: TEMPERATURES.some((each) => asked.has(each)) ? TEMPERATURES.map(say) : [],
    },
    { name: 'Made sure', conditions: others.map(say) },
  ];
  // A power or a temperature that is the only one is no choice.
  return groups.filter(({ name, conditions }) => conditions.length > (name === 'Made sure' ? 0 : 1));
}

/**
 * Brings a condition about. A power ends the one before; warming up needs the machine alive, cooling needs it off;
 * a condition ends those that the class says it excludes. `seconds` is how long it takes.
 * `refused` says in words why it cannot be brought about now; the state is then as it was.
 */
export function bringAbout(
  pack: EffectivePack,
  state: MachineState,
  id: string,
): { state: MachineState; seconds: number; refused?: string } {
  const alive = IMPLIED[state.power].includes('engine-running');
  if (isPower(id)) return { state: { ...state, power: id }, seconds: 0 };
  if (isTemperature(id)) {
    if (state.temperature === id) return { state, seconds: 0 };
    if (id === 'warm' && !alive)
      return { state, seconds: 0, refused: 'It warms up only while it runs. Start it first.' };
    if (id === 'cold' && !IMPLIED[state.power].includes('engine-off'))
      return { state, seconds: 0, refused: 'It cools down only while it is off. Stop it first.' };
    return { state: { ...state, temperature: id }, seconds: WAITS[id]! };
  }
  const exclusionsOf = (one: string) => pack.conditions.find((each) => each.id === one)?.excludes ?? [];
  const stays = (other: string) =>
    other !== id && !exclusionsOf(id).includes(other) && !exclusionsOf(other).includes(id);
  return { state: { ...state, others: [...state.others.filter(stays), id] }, seconds: 0 };
}

/** Whoever walks to another place is no longer in the seat. */
export function leavePlace(state: MachineState): MachineState {
  return state.others.includes('seated')
    ? { ...state, others: state.others.filter((each) => each !== 'seated') }
    : state;
}

/** Every condition that holds. */
export function conditionsHolding(state: MachineState): string[] {
  return ['any', ...IMPLIED[state.power], state.temperature, ...state.others];
}

/**
 * Conditions of a check that do not hold. Of two powers that no machine can have at once (felt while moving, looked at
 * while isolated) one is enough.
 */
export function unmetConditions(checkpoint: Checkpoint, state: MachineState): string[] {
  const holding = new Set(conditionsHolding(state));
  const powers = checkpoint.when.filter(isPower);
  const together = POWERS.some((power) => powers.every((each) => IMPLIED[power].includes(each)));
  const met = !together && powers.some((each) => holding.has(each));
  return checkpoint.when.filter((each) => !holding.has(each) && !(met && isPower(each)));
}

/** The conditions to bring about, in order, so that a check counts; empty where it counts already. */
export function waysTo(pack: EffectivePack, checkpoint: Checkpoint, state: MachineState): string[] {
  const unmet = unmetConditions(checkpoint, state);
  const powers = checkpoint.when.filter(isPower);
  const power =
    POWERS.find((each) => powers.every((one) => IMPLIED[each].includes(one))) ?? (powers[0] as Power);
  const ways: string[] = [];
  let now = state;
  const take = (id: string) => {
    ways.push(id);
    now = bringAbout(pack, now, id).state;
  };
  const temperature = unmet.find(isTemperature);
  if (temperature === 'warm' && !IMPLIED[now.power].includes('engine-running')) take('engine-running');
  if (temperature === 'cold' && !IMPLIED[now.power].includes('engine-off')) take('engine-off');
  if (temperature) take(temperature);
  if (powers.length > 0 && unmetConditions(checkpoint, now).some(isPower)) take(power);
  for (const id of unmet) if (!isPower(id) && !isTemperature(id)) take(id);
  return ways;
}
