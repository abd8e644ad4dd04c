import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { forkliftPack, shippedClasses, shippedPack } from '../testing';
import {
  DIRECTIONS,
  LESSON_SUBJECTS,
  lessonProcedure,
  lessonSeconds,
  lessonSlides,
  lessonStations,
  proposeLesson,
} from './index';

const fitOuts = shippedClasses().flatMap((id) => {
  const pack = shippedPack(id);
  return pack.variants.map(({ id: variant }) => ({ name: `${id}, ${variant}`, id, variant }));
});

describe.each(fitOuts)('a lesson on $name', ({ id, variant }) => {
  const pack = compose(shippedPack(id), { variant });
  it('shows everything that is planned, with something to read and something to say', () => {
    for (const subject of LESSON_SUBJECTS) {
      const plan = proposeLesson(pack, { subject });
      const slides = lessonSlides(pack, plan);
      expect(slides.map((each) => each.item)).toEqual(plan.items);
      for (const each of slides) {
        expect(each.heading.length).toBeGreaterThan(2);
        expect(each.seconds).toBeGreaterThan(0);
        if (['check', 'fault', 'step'].includes(each.item.kind)) expect(each.notes.length).toBeGreaterThan(0);
      }
    }
    for (const subject of ['startup', 'shutdown'] as const) {
      const steps = proposeLesson(pack, { subject }).items.filter((each) => each.kind === 'step');
      expect(steps.length).toBe(lessonProcedure(pack, subject)!.steps.length);
    }
  });

  it('passes every station once, either way round, from any start', () => {
    const all = lessonStations(pack, 'clockwise', null).map((each) => each.station.id);
    for (const direction of DIRECTIONS)
      for (const start of all) {
        const walked = lessonStations(pack, direction, start).map((each) => each.station.id);
        expect([...walked].sort()).toEqual([...all].sort());
      }
  });

  it('keeps to its minutes as far as its stations let it', () => {
    const plan = (minutes: number) => lessonSlides(pack, proposeLesson(pack, { subject: 'round', minutes }));
    const whole = plan(10_000);
    expect(whole.filter((each) => each.item.kind === 'check')).toHaveLength(pack.checkpoints.length);
    const short = plan(30);
    // Stations and schools are shown in any case, and one check, however long it takes.
    const kept = lessonSeconds(short.filter((each) => !['check', 'fault'].includes(each.item.kind)));
    const most = Math.max(...short.map((each) => each.seconds)) + 80;
    expect(lessonSeconds(short)).toBeLessThanOrEqual(Math.max(30 * 60, kept + most));
    expect(lessonSeconds(short)).toBeLessThanOrEqual(lessonSeconds(whole));
  });
});

describe('a lesson', () => {
  const pack = compose(forkliftPack(), { variant: 'diesel' });
  it('turns round: the second station one way is the last the other way', () => {
    const ring = (direction: (typeof DIRECTIONS)[number]) =>
      lessonStations(pack, direction, null)
        .map((each) => each.station)
        .filter((each) => !each.spurFrom)
        .map((each) => each.id);
    const [first, ...rest] = ring('clockwise');
    expect(ring('anticlockwise')).toEqual([first, ...rest.reverse()]);
  });

  it('calls out a condition where it first matters, and not again while it holds', () => {
    const slides = lessonSlides(pack, proposeLesson(pack, { subject: 'round', minutes: 10_000 }));
    const grounded = slides.filter((each) => each.band.some((one) => /resting on the ground/.test(one)));
    expect(grounded).toHaveLength(1);
    const first = slides.findIndex((each) => {
      const check = pack.checkpoints.find((one) => one.id === each.item.id);
      return each.item.kind === 'check' && check!.when.includes('attachment-grounded');
    });
    expect(slides[first]).toBe(grounded[0]);
    expect(slides.flatMap((each) => each.band).some((each) => /engine running/i.test(each))).toBe(true);
  });

  it('shows of a fault what each method shows, what to do and how grave it is', () => {
    const plan = proposeLesson(pack, { subject: 'round', minutes: 10_000 });
    const faults = lessonSlides(pack, plan).filter((each) => each.item.kind === 'fault');
    expect(faults.length).toBeGreaterThan(40);
    for (const each of faults) {
      const fault = pack.faults.find((one) => one.id === each.item.id)!;
      expect(each).toMatchObject({ heading: fault.title, grade: fault.grade });
      expect(each.senses.length).toBeGreaterThan(0);
      expect(each.ask!.answer).toContain(fault.do.slice(0, 12));
    }
  });

  it('says what the site chose where practitioners differ, and leaves out what is not there', () => {
    const [school] = pack.schools;
    const other = school!.options.find((each) => each.id !== school!.default)!;
    const chosen = compose(forkliftPack(), { variant: 'diesel', choices: { [school!.id]: other.id } });
    const plan = proposeLesson(chosen, { subject: 'round' });
    const slide = lessonSlides(chosen, plan).find((each) => each.item.id === school!.id)!;
    expect(slide.sentence).toContain(other.says.replace(/[.]$/, ''));
    const gone = { ...plan, items: [...plan.items, { kind: 'check', id: 'no-such-check' } as const] };
    expect(lessonSlides(chosen, gone)).toHaveLength(plan.items.length);
  });
});
