import { choice, evidenceKind, howMuch, number } from '../kind';
import { box, filledBox, lettering, type Mark, poly, shape, stroke, type Texture, words } from '../marks';

/** A sight glass: how high the liquid stands between its marks. */
export const sightGlass = evidenceKind({
  id: 'sight-glass',
  title: 'Sight glass',
  sound: '',
  params: {
    level: number('Level', '', [0.6, 0, 1, 0.01], () => ''),
    low: number('Low mark', '', [0.3, 0, 1, 0.01], () => ''),
    high: number('High mark', '', [0.85, 0, 1, 0.01], () => ''),
    tint: choice('Tint', { clear: 'clear', amber: 'amber', dark: 'dark', milky: 'milky', foamy: 'foamy' }),
    water: number('Water below', '', [0, 0, 1, 0.05], howMuch([0.01, 'a layer of water below'])),
    pose: choice('Machine', { stowed: '', raised: 'the machine raised', tilted: 'the machine out of level' }),
  },
  says: {
    level: ({ level, low, high }) => {
      const near = Math.abs(level - low) <= 0.05;
      const where =
        level <= 0.02
          ? 'empty'
          : level < low
            ? near
              ? 'just below the low mark'
              : 'below the low mark'
            : near
              ? 'just at the low mark'
              : level > high + 0.02
                ? 'above the high mark'
                : 'between the marks';
      return `${where}, ${Math.round(level * 20) * 5} % full`;
    },
  },
  draw: ({ level, low, high, tint, water, pose }) => {
    const y = (at: number) => 90 - at * 80;
    const textures: Record<typeof tint, Texture> = {
      clear: 'clear',
      amber: 'hatch',
      dark: 'dark',
      milky: 'milky',
      foamy: 'foamy',
    };
    const marks: Mark[] = [shape(box(26, 4, 48, 92, 14), 'shade'), shape(box(34, 10, 32, 80, 8))];
    if (level > 0.01)
      marks.push(
        ...filledBox(36, y(level), 28, y(0) - y(level) - 1, textures[tint]),
        stroke(`M36 ${y(level)}q7 3 14 0t14 0`, 2.6),
      );
    if (water > 0)
      marks.push(
        ...filledBox(36, y(water), 28, y(0) - y(water) - 1, 'thin'),
        stroke(poly(36, y(water), 64, y(water)), 2),
      );
    marks.push(
      stroke(box(34, 10, 32, 80, 8), 3),
      stroke(poly(20, y(low), 34, y(low)), 4),
      stroke(poly(20, y(high), 34, y(high)), 4),
      words('low', 18, y(low) + 3, 8.6, { anchor: 'end', bold: true }),
      words('high', 18, y(high) + 3, 8.6, { anchor: 'end', bold: true }),
    );
    if (pose !== 'stowed')
      marks.push(
        ...lettering(pose === 'raised' ? 'raised' : 'out of level', 87, 20, { letters: 6, size: 8 }),
      );
    return marks;
  },
});
