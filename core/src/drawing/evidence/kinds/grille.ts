import { evidenceKind, fault, howMuch, number, several } from '../kind';
import { box, ellipse, filledBox, type Mark, poly, shape, stroke } from '../marks';

/** A radiator, screen or other way for air: how much of it is closed. */
export const grille = evidenceKind({
  id: 'grille',
  title: 'Air way',
  sound: 'clear',
  params: {
    clogged: number(
      'Clogged',
      '',
      [0, 0, 1, 0.05],
      howMuch([0.02, 'a little dirt in it'], [0.2, 'partly clogged'], [0.6, 'clogged']),
    ),
    'bent-fins': number('Bent fins', '', [0, 0, 12], several('fin bent', 'fins bent')),
    nest: fault('Nest', 'a nest in it'),
  },
  draw: (v) => {
    const marks: Mark[] = [shape(box(8, 10, 84, 80, 4), 'ground')];
    const bent = v['bent-fins'];
    for (let i = 0; i < 12; i++) {
      const x = 16 + i * 6.2;
      marks.push(
        i >= 5 && i < 5 + Math.max(bent, 0) * 2
          ? stroke(`M${x} 14L${x + 6} 46L${x - 4} 58L${x} 86`, 2.4)
          : stroke(poly(x, 14, x, 86), 2.2, 'quiet'),
      );
    }
    if (v.clogged > 0) {
      const h = 74 * v.clogged;
      marks.push(
        ...filledBox(11, 87 - h, 78, h, 'dirty'),
        stroke(`M11 ${87 - h}q10 -5 20 0t20 0t20 0t18 0`, 2),
      );
    }
    if (v.nest === 'yes')
      marks.push(
        shape(ellipse(50, 56, 26, 14), 'shade', 2),
        stroke('M26 56L66 44M34 64L72 52M30 48L70 66M40 68L60 46M28 60L74 60', 2),
        shape(ellipse(44, 52, 5, 4), 'ground', 2),
        shape(ellipse(56, 52, 5, 4), 'ground', 2),
      );
    return marks;
  },
});
