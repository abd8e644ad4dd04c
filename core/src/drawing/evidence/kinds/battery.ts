import { choice, evidenceKind, number } from '../kind';
import {
  box,
  closed,
  crackMarks,
  ellipse,
  filledBox,
  filledEllipse,
  type Mark,
  poly,
  rustMarks,
  shape,
  solid,
  stroke,
  THICK,
  THIN,
  toAndFro,
} from '../marks';

/** A battery: terminals, plates, case, what holds it, and its charge for whoever reads it. */
export const battery = evidenceKind({
  id: 'battery',
  title: 'Battery',
  sound: 'terminals clean and tight, case whole, held down',
  params: {
    terminals: choice('Terminals', {
      clean: '',
      crust: 'a crust on a terminal',
      loose: 'a terminal turns by hand',
      corroded: 'a terminal eaten away',
    }),
    plates: choice('Plates', { covered: '', bare: 'plates stand out of the liquid' }),
    case: choice('Case', {
      whole: '',
      cracked: 'the case cracked',
      bulged: 'the case bulged',
      bloom: 'a bloom on the case',
    }),
    charge: number('charge', '%', [0, 0, 100], () => ''),
    'hold-down': choice('Hold-down', { tight: '', loose: 'the hold-down loose' }),
    gate: choice(
      'Gate',
      { none: '', latched: '', out: 'the gate stands out' },
      { latched: 'its gate latched' },
    ),
    lead: choice('Lead', { whole: '', cut: 'a lead cut' }),
    vents: choice('Vent caps', { all: '', missing: 'a vent cap missing' }),
    tray: choice('Tray', { dry: '', wet: 'the tray wet' }),
  },
  draw: (v) => {
    const bulge = v.case === 'bulged' ? 10 : 0;
    const marks: Mark[] = [
      shape(`M14 38H86Q${86 + bulge} 62 86 86H14Q${14 - bulge} 62 14 38Z`),
      stroke('M26 30C26 12 10 20 4 8', THICK),
      ...(v.lead === 'cut'
        ? [
            stroke('M74 30C74 22 80 20 82 18', THICK),
            stroke('M88 14L97 8', THICK),
            stroke(`${poly(79, 20, 85, 24)}${poly(85, 10, 91, 17)}`, THIN),
          ]
        : [stroke('M74 30C74 12 90 20 97 8', THICK)]),
      shape(box(20, v.terminals === 'loose' ? 25 : 29, 12, 9), 'shade'),
      shape(box(68, 29, 12, 9), 'shade'),
      ...filledBox(24, v.plates === 'bare' ? 76 : 54, 52, v.plates === 'bare' ? 6 : 28, 'clear'),
      ...[30, 40, 50, 60, 70].map((x) => stroke(poly(x, 62, x, 81), THICK, 'quiet')),
      stroke(box(24, 50, 52, 32, 2), THIN),
    ];
    for (const x of [40, 50, 60])
      marks.push(
        v.vents === 'missing' && x === 50
          ? solid(ellipse(x, 38, 3))
          : shape(box(x - 3, 34, 6, 4), 'shade', THIN),
      );
    if (v.terminals === 'crust') marks.push(...filledEllipse(26, 30, 12, 9, 'bloom'));
    if (v.terminals === 'corroded')
      marks.push(solid(closed(18, 22, 27, 27, 24, 34, 34, 30, 33, 40, 20, 40)), ...rustMarks(26, 32, 9));
    if (v.terminals === 'loose') marks.push(...toAndFro(14, 18, 38, 18));
    if (v.case === 'cracked') marks.push(...crackMarks(86, 42, 70, 86));
    if (v.case === 'bloom') marks.push(...filledEllipse(20, 68, 9, 12, 'bloom'));
    const down = v['hold-down'];
    marks.push(
      down === 'tight'
        ? stroke(poly(8, 92, 8, 45, 92, 45, 92, 92), 2.2, 'quiet')
        : stroke(poly(4, 92, 8, 62, 88, 38, 94, 92), 2.2, 'quiet'),
    );
    if (down === 'loose') marks.push(...toAndFro(96, 56, 96, 74));
    if (v.gate === 'latched') marks.push(stroke(poly(92, 48, 92, 92), 4));
    if (v.gate === 'out') marks.push(stroke(poly(92, 92, 99, 50), 4));
    if (v.tray === 'wet') marks.push(...filledEllipse(50, 94, 34, 4, 'clear'));
    else marks.push(stroke(poly(4, 94, 96, 94)));
    return marks;
  },
});
