import { createRequire } from 'node:module';
import type { ItemSummary } from '@tombolo/contract';
import { transliterate } from '@tombolo/core';
import Pdf from 'pdfkit';

// From the program that runs: this file may stand alone, or within the bundled station.
const face = (weight: '400Regular' | '700Bold') =>
  createRequire(process.argv[1]!).resolve(
    `@expo-google-fonts/atkinson-hyperlegible/${weight}/AtkinsonHyperlegible_${weight}.ttf`,
  );

/** More would be a book: the rest is left out, and the file says so. */
const MOST_ITEMS = 2000;
const MARGIN_PT = 56;
/** What the typeface has: Latin with its marks, and the punctuation of printers. */
const NOT_IN_FACE = /[^\u0020-\u024f\u2010-\u2026\u2030-\u203a\u20ac]/u;
const CHARACTERS = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** A text in letters that the typeface has: the others in plain ones, or `?`. */
const printable = (text: string): string =>
  [...CHARACTERS.segment(text.normalize('NFC'))]
    .map(({ segment }) =>
      segment === '\n' ? segment : NOT_IN_FACE.test(segment) ? transliterate(segment).text : segment,
    )
    .join('');

const minute = (iso: string): string => `${iso.slice(0, 10)} ${iso.slice(11, 16)}Z`;

/** All that passed with somebody as a document on A4, oldest first: who, when, what, and how far it came. */
export async function* conversationPdf(
  who: string,
  own: string,
  pages: AsyncIterable<readonly ItemSummary[]>,
  at: Date,
): AsyncGenerator<Uint8Array> {
  const title = `With ${who}`;
  const document = new Pdf({
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
  let n = 0;
  let more = false;
  for await (const page of pages) {
    for (const item of page) {
      if (++n > MOST_ITEMS) {
        more = true;
        break;
      }
      line(document, item);
    }
    if (more) break;
  }
  document.font('bold').fontSize(10);
  document.text(
    n === 0
      ? 'Nothing passed.'
      : more
        ? `Only the first ${MOST_ITEMS} items stand here; there are more.`
        : 'That is all.',
  );
  document.end();
  for await (const piece of document) yield piece as Uint8Array;
}

function line(document: InstanceType<typeof Pdf>, item: ItemSummary): void {
  const whom = item.direction === 'out' ? `to ${item.addressee}` : `from ${item.sender}`;
  document
    .font('bold')
    .fontSize(10)
    .text(printable(`${minute(item.createdAt)}  ${whom}`));
  document
    .font('plain')
    .fontSize(12)
    .text(printable(item.subject ? `${item.subject} – ${item.body}` : item.body));
  document.fontSize(10).text(printable(item.status.words)).moveDown(0.7);
}
