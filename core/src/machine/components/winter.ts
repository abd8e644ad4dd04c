import { z } from 'zod';
import { amount, component, condition, figure, truth } from '../component';
import { TICK } from '../decay';

const held = (value: number, least: number, most: number) => Math.min(most, Math.max(least, value));

/** A plough or wing: how high it is and how far it is swung. */
function blade(kind: 'plough' | 'wing', says: string) {
  return component({
    kind,
    says,
    parameters: z.strictObject({
      raisedWhen: condition.optional(),
      loweredWhen: condition.optional(),
      leftWhen: condition.optional(),
      rightWhen: condition.optional(),
      raiseSeconds: amount('time'),
      swingSeconds: amount('time').default(4),
      top: amount('length').default(1),
      start: amount('length').default(0),
      swingDegrees: amount('angle').default(35),
    }),
    states: ({ top, start, swingDegrees }) => ({
      height: figure('length', start, [0, top]),
      angle: figure('angle', 0, [-swingDegrees, swingDegrees]),
    }),
    tick: (given) => (own) => {
      const up = Number(own.holds('raisedWhen')) - Number(own.holds('loweredWhen'));
      const side = Number(own.holds('rightWhen')) - Number(own.holds('leftWhen'));
      const height = own.figure('height') + (up * given.top * TICK) / given.raiseSeconds;
      const angle = own.figure('angle') + (side * 2 * given.swingDegrees * TICK) / given.swingSeconds;
      own.set('height', height < 1e-9 ? 0 : height > given.top - 1e-9 ? given.top : height);
      own.set('angle', held(angle, -given.swingDegrees, given.swingDegrees));
    },
  });
}
export const plough = blade('plough', 'A plough in front: its height and its angle');
export const wing = blade('wing', 'A wing at the side: its height');

/** A spreader, started and stopped by presses. */
export const spreader = component({
  kind: 'spreader',
  says: 'A spreader: whether it runs, and how much it lays',
  parameters: z.strictObject({
    startedWhen: condition,
    stoppedWhen: condition,
    gramsPerSquareMetre: z.number().min(0).max(100).default(20),
  }),
  states: ({ gramsPerSquareMetre }) => ({ on: truth(), rate: figure(null, 0, [0, gramsPerSquareMetre]) }),
  tick:
    ({ gramsPerSquareMetre }) =>
    (own) => {
      const on = (own.truth('on') || own.holds('startedWhen')) && !own.holds('stoppedWhen');
      own.set('on', on);
      own.set('rate', on ? gramsPerSquareMetre : 0);
    },
});
