import { evidenceOf, givesFigures } from '@rounds/core/catalogue';
import {
  drawEvidence,
  EVIDENCE_ON_PAPER,
  type EvidenceColours,
  evidenceSvg,
} from '@rounds/core/drawing/evidence';
import { shippedClasses, shippedPack } from '@rounds/core/testing';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openBrowser } from '../tools/browser';

/**
 * Drawings as pixels: at 96 px and in black and white alone a fault must still look other than its sound part, in every
 * row of every class.
 */
let browser: Awaited<ReturnType<typeof openBrowser>>;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser?.close());

const SIZE = 96;
/** Black lines on white with one grey, as a poor copier leaves it. */
const BLACK_AND_WHITE: EvidenceColours = {
  ...EVIDENCE_ON_PAPER,
  quiet: '#000000',
  shade: '#ffffff',
  deep: '#000000',
  glow: '#ffffff',
};
/** Pixels of 9,216 that must turn from black to white or back: a broken wire, the smallest thing drawn, turns more. */
const LEAST_PIXELS = 12;
/** Where the state is a word or a number to be read, one digit is enough. */
const LEAST_OF_WORDS = 4;
const READ = new Set(['display', 'breaker', 'plate', 'document']);

it('at 96 px, in black and white, every fault that is drawn looks other than its sound part', async () => {
  const rows = shippedClasses().flatMap((id) => {
    const pack = shippedPack(id);
    return pack.faults.flatMap((fault) =>
      fault.cues.flatMap((cue) => {
        const check = pack.checkpoints.find((each) => each.id === fault.checkpoint)!;
        const evidence = cue.drawing && evidenceOf(check, fault, cue.method);
        const sound = evidenceOf(check, null, cue.method);
        if (!evidence || sound?.kind !== evidence.kind) return [];
        const figures = { figures: givesFigures(cue.method) };
        const [one, other] = [drawEvidence(sound, figures)!, drawEvidence(evidence, figures)!];
        // A fault may look sound to one sense and show itself to another; that is no matter of pixels.
        if (JSON.stringify(one) === JSON.stringify(other)) return [];
        return [
          {
            name: `${fault.id} by ${cue.method}`,
            least: READ.has(evidence.kind) ? LEAST_OF_WORDS : LEAST_PIXELS,
            svgs: [one, other].map((each) => evidenceSvg(each, BLACK_AND_WHITE, SIZE)),
          },
        ];
      }),
    );
  });
  expect(rows.length).toBeGreaterThan(1400);
  const page = await browser.context.newPage();
  const changed = await page.evaluate(
    async ({ rows: all, size }) => {
      const black = async (svg: string) => {
        const image = new Image();
        image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
        await image.decode();
        const canvas = document.createElement('canvas');
        canvas.width = canvas.height = size;
        const context = canvas.getContext('2d', { willReadFrequently: true })!;
        context.fillStyle = '#fff';
        context.fillRect(0, 0, size, size);
        context.drawImage(image, 0, 0, size, size);
        const { data } = context.getImageData(0, 0, size, size);
        return Array.from({ length: size * size }, (_, i) => data[4 * i]! < 128);
      };
      const found: number[] = [];
      for (const { svgs } of all) {
        const [sound, fault] = [await black(svgs[0]!), await black(svgs[1]!)];
        found.push(sound.filter((each, i) => each !== fault[i]).length);
      }
      return found;
    },
    { rows, size: SIZE },
  );
  const alike = rows.flatMap(({ name, least }, i) =>
    changed[i]! < least ? [`${name}: ${changed[i]} pixels`] : [],
  );
  expect(alike).toEqual([]);
});
