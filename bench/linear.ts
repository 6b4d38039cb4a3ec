import {
  createCaptureReader,
  createKissDecoder,
  createLineSplitter,
  decodeInformation,
  decodeMessage,
  decodeNmea,
  formatMbox,
  joinOctets,
  octetsOfLatin1,
  parseInvitation,
  parseMonitorLine,
  pcapHeader,
  pcapRecord,
  readServiceWord,
  readTemplate,
} from '@tombolo/core';
import type { Figure } from './figure';

/** Time of the processor that this process took, ms: what others do on the machine meanwhile does not count. */
const processorMs = (): number => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
};

/**
 * Work that grows with the square of the input takes 16 times as long for 4 times as much. The smaller one is long enough to be
 * measured, both are run in turn so that a slow while of the machine meets both, the best of several runs is taken, and the limit lies far
 * from both.
 */
function growth(run: (length: number) => void, small: number): number {
  const least = { small: Infinity, large: Infinity };
  run(small);
  for (let i = 0; i < 5; i++)
    for (const [size, length] of [
      ['small', small],
      ['large', 4 * small],
    ] as const) {
      const start = processorMs();
      run(length);
      least[size] = Math.min(least[size], processorMs() - start);
    }
  return least.large / Math.max(least.small, 0.2);
}

const text = (head: string, of: string, length: number, tail = '') => octetsOfLatin1(head + of.repeat(length) + tail);
const whatever =
  (kind: string, of: string, tail = '') =>
  (length: number) =>
    void decodeInformation(text(kind, of, length, tail), 'APRS');
const inPieces = (reader: { push(chunk: Uint8Array): unknown }, octets: Uint8Array) => {
  for (let at = 0; at < octets.length; at += 3) reader.push(octets.subarray(at, at + 3));
};

const PARSERS: readonly [string, (length: number) => void, number][] = [
  ['line ends inside a message', (n) => void decodeMessage(text(':QT2AR-7  :', '\r', n, 'x')), 30_000],
  ['an answer with blanks behind it', (n) => void decodeMessage(text(':QT2AR-7  :ack1', ' ', n, 'x')), 30_000],
  ['blanks inside a sentence of a receiver', (n) => void decodeNmea(`$GPGGA,${' '.repeat(n)}x`), 30_000],
  [
    'empty lines inside a mail',
    (n) => {
      const octets = text('', '\n', n, 'x');
      formatMbox([{ sender: 'a@b.example', at: new Date(0), octets }]);
    },
    30_000,
  ],
  [
    'quotes before “From ” in a mail',
    (n) => {
      formatMbox([{ sender: 'a@b.example', at: new Date(0), octets: text('', '>', n, 'x') }]);
    },
    30_000,
  ],
  ...['@', 'a', 'Mail to ', '0', ': '].map((of): [string, (length: number) => void, number] => [
    `“${of}” over and over from a service with a pattern that backtracks elsewhere`,
    (n) =>
      void readServiceWord(
        { answers: [{ pattern: '^(?:(?:a+)+|(?:\\S+ ?)+)+: x$', proves: 'taken', of: [] }] },
        of.repeat(n),
      ),
    20_000,
  ]),
  ['fields of a template', (n) => void readTemplate('{a}['.repeat(n)), 20_000],
  ['words of a template', (n) => void readTemplate('x'.repeat(n)), 20_000],
  ['an invitation', (n) => void parseInvitation(`tombolo-channel:1:a:${'='.repeat(n)}x`), 30_000],
  ['path elements', (n) => void parseMonitorLine(text('A>B', ',C*', n, ':x'), { escapes: true }), 30_000],
  ['escapes', (n) => void parseMonitorLine(text('A>B:', '\\x4', n), { escapes: true }), 30_000],
  ['comments with slashes', whatever('!4112.00N/04324.00W-', '/A=', 'x'), 20_000],
  ['comments with bars', whatever('!4112.00N/04324.00W-', '|', 'x'), 20_000],
  ['comments with exclamation marks', whatever('!4112.00N/04324.00W-', '!W', 'x'), 20_000],
  ['weather with blanks', whatever('_10090556', ' ', 'x'), 20_000],
  ['weather with letters', whatever('_10090556c220s004', 'g005', 'x'), 20_000],
  ['telemetry with commas', whatever('T#005', ',', 'x'), 20_000],
  ['telemetry definitions', whatever(':QT2AR-7  :PARM.', ',', 'x'), 20_000],
  ['capabilities', whatever('<', '=,', 'x'), 20_000],
  ['a status with blanks', whatever('>', ' ', 'x'), 20_000],
  ['wrapping inside wrapping', whatever('}', 'A>B:}', 'x'), 20_000],
  ['anything that is no packet', whatever('#', '!', 'x'), 20_000],
  [
    'a record of a capture in small pieces',
    (n) => {
      inPieces(createCaptureReader(), joinOctets([pcapHeader(), pcapRecord(new Uint8Array(n), 0)]));
    },
    15_000,
  ],
  ['a KISS frame in small pieces', (n) => inPieces(createKissDecoder(), text('\xc0\x00', 'x', n)), 15_000],
  ['a line in small pieces', (n) => inPieces(createLineSplitter(1 << 20), text('', 'x', n, '\n')), 15_000],
];

const MOST = 10;
/** Takes time with the square of its input: what is measured here would find it. */
const square = (n: number) => void /(\r+)$/.exec(`${'\r'.repeat(n)}x`);

/** How much longer parsers take for four times as much, of what is meant to keep them busy. Static checks look for such patterns besides. */
export async function linear(): Promise<Figure[]> {
  const figure = (name: string, value: number): Figure => ({
    name,
    value,
    unit: 'times as long',
    goal: MOST,
    better: 'less',
    note: 'for four times the input; the square would be 16',
  });
  return [
    ...PARSERS.map(([name, run, small]) => figure(name, growth(run, small))),
    { ...figure('one that does take the square', growth(square, 3_000)), better: 'more' },
  ];
}
