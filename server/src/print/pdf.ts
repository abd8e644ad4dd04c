import { createRequire } from 'node:module';
import type { TDocumentDefinitions } from 'pdfmake/interfaces';

const require = createRequire(import.meta.url);

interface PdfMake {
  setFonts(fonts: Record<string, Record<string, string>>): void;
  setUrlAccessPolicy(policy: () => boolean): void;
  setLocalAccessPolicy(policy: (path: string) => boolean): void;
  createPdf(definition: TDocumentDefinitions): { getBuffer(): Promise<Buffer> };
}

const pdfmake = require('pdfmake') as PdfMake;
const font = (name: string) =>
  require.resolve(
    `@expo-google-fonts/atkinson-hyperlegible-next/${name}/AtkinsonHyperlegibleNext_${name}.ttf`,
  );
pdfmake.setFonts({
  Atkinson: {
    normal: font('400Regular'),
    bold: font('700Bold'),
    italics: font('400Regular_Italic'),
    bolditalics: font('700Bold_Italic'),
  },
});
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path) => path.endsWith('.ttf'));

export const INK = '#12302e';
/** Stands on every paper that says how work is done. */
export const CAUTION = 'The maker’s manual, the employer’s rules and local law come first.';
export const QUIET = '#4a5f5c';

/** Renders a document as PDF with its font embedded; nothing is fetched or read but the shipped fonts. */
export function render(definition: TDocumentDefinitions): Promise<Buffer> {
  return pdfmake
    .createPdf({
      ...definition,
      defaultStyle: { font: 'Atkinson', fontSize: 9.5, color: INK, lineHeight: 1.15 },
    })
    .getBuffer();
}
