import { createRequire } from 'node:module';
import { transliterate } from '@tombolo/core';
import type Pdf from 'pdfkit';

// From the program that runs: this file may stand alone, or within the bundled station.
const face = (weight: '400Regular' | '700Bold') =>
  createRequire(process.argv[1]!).resolve(
    `@expo-google-fonts/atkinson-hyperlegible/${weight}/AtkinsonHyperlegible_${weight}.ttf`,
  );

const MARGIN_PT = 56;
/** What the typeface has: Latin with its marks, and the punctuation of printers. */
const NOT_IN_FACE = /[^\u0020-\u024f\u2010-\u2026\u2030-\u203a\u20ac]/u;
const CHARACTERS = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** A text in letters that the typeface has: the others in plain ones, or `?`. */
export const printable = (text: string): string =>
  [...CHARACTERS.segment(text.normalize('NFC'))]
    .map(({ segment }) =>
      segment === '\n' ? segment : NOT_IN_FACE.test(segment) ? transliterate(segment).text : segment,
    )
    .join('');

export const minute = (iso: string): string => `${iso.slice(0, 10)} ${iso.slice(11, 16)}Z`;

export type PdfDocument = InstanceType<typeof Pdf>;

/** A document on A4 with its heading, and of which station it is. What writes it is loaded by the first one: a start need not wait for it. */
export async function openDocument(title: string, own: string, at: Date): Promise<PdfDocument> {
  const { default: PdfKit } = await import('pdfkit');
  const document = new PdfKit({
    size: 'A4',
    margin: MARGIN_PT,
    lang: 'en',
    displayTitle: true,
    info: { Title: title, CreationDate: at, ModDate: at, Producer: 'Tombolo', Creator: 'Tombolo' },
  });
  document.registerFont('plain', face('400Regular')).registerFont('bold', face('700Bold'));
  document.font('bold').fontSize(18).text(printable(title));
  document
    .font('plain')
    .fontSize(10)
    .text(printable(`${own ? `Station ${own}. ` : ''}Times in UTC. Written ${minute(at.toISOString())}.`))
    .moveDown();
  return document;
}
