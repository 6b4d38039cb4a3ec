import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A document as pdftotext and pdfinfo (Poppler) read it. */
export function readBack(pdf: Uint8Array): { readonly text: string; readonly info: string } {
  const folder = mkdtempSync(join(tmpdir(), 'pdf-'));
  const file = join(folder, 'x.pdf');
  writeFileSync(file, pdf);
  try {
    return {
      text: String(execFileSync('pdftotext', ['-layout', file, '-'])),
      info: String(execFileSync('pdfinfo', [file])),
    };
  } finally {
    rmSync(folder, { recursive: true });
  }
}
