import type { ItemSummary } from '@tombolo/contract';
import { minute, openDocument, printable, type PdfDocument } from './pdf-document';

/** More would be a book: the rest is left out, and the file says so. */
const MOST_ITEMS = 2000;

/** All that passed with somebody as a document on A4, oldest first: who, when, what, and how far it came. */
export async function* conversationPdf(
  who: string,
  own: string,
  pages: AsyncIterable<readonly ItemSummary[]>,
  at: Date,
): AsyncGenerator<Uint8Array> {
  const document = await openDocument(`With ${who}`, own, at);
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

function line(document: PdfDocument, item: ItemSummary): void {
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
