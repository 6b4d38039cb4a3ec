import Papa from 'papaparse';

export type Cell = string | number | null;

/**
 * Comma-separated values (RFC 4180). Cells that a spreadsheet would take for a formula are
 * preceded by an apostrophe, so that a text from the air cannot run in the office.
 */
export function formatCsv(columns: readonly string[], rows: readonly (readonly Cell[])[]): string {
  return formatCsvRows([columns, ...rows]);
}

/** Further rows of a table, for one that is written in pieces. */
export const formatCsvRows = (rows: readonly (readonly Cell[])[]): string =>
  rows.length === 0
    ? ''
    : `${Papa.unparse(
        rows.map((row) => [...row]),
        { newline: '\r\n', escapeFormulae: /^[=+\-@\t\r\n|%]/ },
      )}\r\n`;
