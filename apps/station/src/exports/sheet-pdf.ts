import { tickHolds, type Tick } from '@tombolo/contract';
import { SHEET_SUBJECTS, type SheetDifference, type SheetLine } from '@tombolo/core';
import { minute, openDocument, printable, type PdfDocument } from './pdf-document';

const BOX_PT = 9;
const INDENT_PT = 18;
/** A line of a sheet with its reason stands on one page. */
const LINE_PT = 76;

export interface SheetOnPaper {
  readonly piece: string;
  readonly whose: string;
  readonly own: string;
  readonly lines: readonly SheetLine[];
  /** The last word on each line. */
  readonly ticks: ReadonlyMap<string, Tick>;
  /** To our own sheet; null where it is ours. */
  readonly differences: readonly SheetDifference[] | null;
  readonly at: Date;
}

/** A set-up sheet as a document on A4: every line with a box, why, what it looks like when it is right, and who ticked it when. */
export async function* sheetPdf({
  piece,
  whose,
  own,
  lines,
  ticks,
  differences,
  at,
}: SheetOnPaper): AsyncGenerator<Uint8Array> {
  const document = await openDocument(`${piece}, for ${whose}`, own, at);
  if (differences) {
    document.font('bold').fontSize(12);
    document.text(differences.length === 0 ? 'Nothing differs from our own sheet' : 'What differs from our own sheet');
    document.font('plain').fontSize(11);
    for (const { what, ours, theirs } of differences)
      document.text(printable(`${what}: ${theirs ?? 'not asked'}; ours: ${ours ?? 'not asked'}`));
    document.moveDown();
  }
  for (const subject of SHEET_SUBJECTS) {
    const those = lines.filter((line) => line.subject === subject);
    those.forEach((line, n) => {
      // A heading stands above its first line.
      if (document.y > document.page.height - document.page.margins.bottom - LINE_PT) document.addPage();
      if (n === 0)
        document
          .font('bold')
          .fontSize(13)
          .text(`${subject[0]!.toUpperCase()}${subject.slice(1)}`)
          .moveDown(0.3);
      sheetLine(document, line, ticks.get(line.id));
    });
  }
  if (lines.length === 0) document.font('plain').fontSize(11).text('Nothing has to be keyed into it.');
  document.end();
  for await (const octets of document) yield octets as Uint8Array;
}

function sheetLine(document: PdfDocument, line: SheetLine, tick: Tick | undefined): void {
  const { left } = document.page.margins;
  const done = tickHolds(tick, line);
  const top = document.y + 1;
  document.lineWidth(0.8).rect(left, top, BOX_PT, BOX_PT).stroke();
  if (done)
    document
      .moveTo(left + 2, top + BOX_PT / 2)
      .lineTo(left + BOX_PT / 2 - 0.5, top + BOX_PT - 2)
      .lineTo(left + BOX_PT - 1.5, top + 1.5)
      .stroke();
  const at = left + INDENT_PT;
  document
    .font('bold')
    .fontSize(11)
    .text(printable(`${line.what}: ${line.value}`), at, top - 1);
  document
    .font('plain')
    .fontSize(10)
    .text(printable(line.why), at)
    .text(printable(`Right when: ${line.right}`), at);
  if (tick && done) document.text(printable(`Ticked by ${tick.by}, ${minute(tick.at)}`), at);
  document.x = left;
  document.moveDown(0.6);
}
