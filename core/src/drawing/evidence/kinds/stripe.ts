import { choice, evidenceKind } from '../kind';
import { arrow, box, dashed, type Mark, poly, shape, stroke } from '../marks';

/** The mouth of a boom section against its coloured stripe. */
export const stripe = evidenceKind({
  id: 'stripe',
  title: 'Boom stripe',
  sound: 'the mouth on the stripe',
  params: {
    mouth: choice('Mouth', {
      on: '',
      short: 'the mouth short of the stripe',
      past: 'the mouth past the stripe',
    }),
    mark: choice('Stripe', { readable: '', worn: 'the stripe worn away' }),
  },
  draw: ({ mouth, mark }) => {
    const x = { on: 50, short: 34, past: 66 }[mouth];
    const marks: Mark[] = [shape(box(x - 2, 38, 98 - x, 24, 2), 'ground')];
    marks.push(mark === 'readable' ? shape(box(50, 38, 8, 24), 'deep', 2) : dashed(box(50, 38, 8, 24), 2));
    marks.push(shape(box(-2, 28, x + 2, 44, 2), 'shade'), stroke(poly(x, 24, x, 76), 5));
    if (mark === 'readable' && mouth === 'past') marks.push(dashed(box(50, 38, 8, 24), 1.6, 'quiet'));
    marks.push(...arrow(54, 10, 54, 34));
    return marks;
  },
});
