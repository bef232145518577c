import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Content, CustomTableLayout, TDocumentDefinitions } from 'pdfmake/interfaces';

// pdfmake is CommonJS and keeps its fonts in one place for the whole process.
const require = createRequire(import.meta.url);
type PdfMake = {
  addFonts: (fonts: Record<string, Record<string, string>>) => void;
  setUrlAccessPolicy: (allowed: () => boolean) => void;
  setLocalAccessPolicy: (allowed: (path: string) => boolean) => void;
  addTableLayouts: (layouts: Record<string, CustomTableLayout>) => void;
  createPdf: (definition: TDocumentDefinitions) => { getBuffer: () => Promise<Buffer> };
};
let ready: PdfMake | undefined;

function pdfmake(): PdfMake {
  if (ready) return ready;
  const make = require('pdfmake') as PdfMake;
  const folder = join(dirname(require.resolve('@fontsource/atkinson-hyperlegible-next/package.json')), 'files');
  const file = (set: string, weight: number) => join(folder, `atkinson-hyperlegible-next-${set}-${weight}-normal.woff`);
  make.addFonts({
    Latin: { normal: file('latin', 400), bold: file('latin', 700) },
    LatinExt: { normal: file('latin-ext', 400), bold: file('latin-ext', 700) },
  });
  make.addTableLayouts(layouts);
  // Nothing in a paper of ours comes from elsewhere, and nothing but the fonts from this machine.
  make.setLocalAccessPolicy((path) => path.startsWith(folder));
  make.setUrlAccessPolicy(() => false);
  ready = make;
  return make;
}

/** A paper as plain data: functions do not cross between threads, so what pdfmake takes as one is named or a template here. */
export type Paper = {
  definition: Omit<TDocumentDefinitions, 'footer' | 'header'> & { header?: Content };
  /** What stands at the foot of each page; "{page}" and "{pages}" are filled in. */
  foot?: { says: string; page: string; color: string; margin: [number, number, number, number] };
};

/** How tables are ruled, by the name a definition says. */
const layouts: Record<string, CustomTableLayout> = {
  /** A line under the heading, thin ones between rows. */
  ruled: {
    hLineWidth: (i) => (i === 0 ? 0 : i === 1 ? 1 : 0.5),
    vLineWidth: () => 0,
    hLineColor: () => '#b9b2a3',
    paddingLeft: () => 4,
    paddingRight: () => 4,
    paddingTop: () => 3,
    paddingBottom: () => 3,
  },
  /** Nothing between the cells: a sheet of labels is cut already. */
  bare: {
    hLineWidth: () => 0,
    vLineWidth: () => 0,
    paddingLeft: () => 0,
    paddingRight: () => 0,
    paddingTop: () => 0,
    paddingBottom: () => 0,
  },
};

/** Draws a paper. Fonts are embedded; text stays text. */
export async function drawPaper({ definition, foot }: Paper): Promise<Uint8Array> {
  const footer =
    foot &&
    ((page: number, pages: number): Content => ({
      margin: foot.margin,
      columns: [
        { text: foot.says, fontSize: 7.5, color: foot.color },
        {
          text: foot.page.replace('{page}', String(page)).replace('{pages}', String(pages)),
          alignment: 'right',
          fontSize: 7.5,
          color: foot.color,
          width: 70,
        },
      ],
    }));
  const buffer = await pdfmake()
    .createPdf({
      ...definition,
      ...(footer ? { footer } : {}),
      defaultStyle: { font: 'Latin', fontSize: 9, lineHeight: 1.1, ...definition.defaultStyle },
    })
    .getBuffer();
  return new Uint8Array(buffer);
}
