import type { ItemSummary } from '@tombolo/contract';
import { eachWithModem, eventually } from '../testing/harness';
import { readBack } from '../testing/pdf';
import { conversationPdf } from './conversation-pdf';

const AT = new Date('2026-11-25T14:05:00Z');
const line = (n: number, more: Partial<ItemSummary> = {}) =>
  ({
    direction: n % 2 ? 'in' : 'out',
    sender: 'QT1NC',
    addressee: 'QT1NC',
    subject: null,
    body: `Text number ${n}`,
    createdAt: new Date(AT.getTime() + n * 60_000).toISOString(),
    status: { words: n % 2 ? 'arrived' : 'delivered, acknowledged by QT1NC' },
    ...more,
  }) as ItemSummary;
async function* pages(...all: ItemSummary[][]) {
  yield* all;
}
async function made(who: string, ...all: ItemSummary[][]) {
  const pieces: Uint8Array[] = [];
  for await (const piece of conversationPdf(who, 'QT2AR-7', pages(...all), AT)) pieces.push(piece);
  return readBack(Buffer.concat(pieces));
}

describe('a conversation as a document', () => {
  it('is read by another program with who, when, what and how far, oldest first', async () => {
    const { text, info } = await made('QT1NC', [line(0), line(1)], [line(2, { subject: 'Ferry' })]);
    expect(
      text
        .split('\n')
        .map((one) => one.trim())
        .filter(Boolean),
    ).toEqual([
      'With QT1NC',
      'Station QT2AR-7. Times in UTC. Written 2026-11-25 14:05Z.',
      '2026-11-25 14:05Z to QT1NC',
      'Text number 0',
      'delivered, acknowledged by QT1NC',
      '2026-11-25 14:06Z from QT1NC',
      'Text number 1',
      'arrived',
      '2026-11-25 14:07Z to QT1NC',
      'Ferry – Text number 2',
      'delivered, acknowledged by QT1NC',
      'That is all.',
    ]);
    expect(info).toMatch(/Title:\s+With QT1NC/);
    expect(info).toMatch(/Page size:\s+595\.28 x 841\.89 pts \(A4\)/);
  });

  it('goes over pages, ends somewhere, and says of letters that the typeface has not what they were', async () => {
    const many = Array.from({ length: 2100 }, (_, n) => line(n));
    const { text, info } = await made('QT1NC', many);
    expect(Number(/Pages:\s+(\d+)/.exec(info)![1])).toBeGreaterThan(50);
    expect(text).toContain('Text number 1999');
    expect(text).not.toContain('Text number 2000');
    expect(text).toContain('Only the first 2000 items stand here');
    const odd = await made('مرحبا', [line(0, { body: 'Größe 5 µm\n雨 👍 \u0000\u202e “so”' })]);
    expect(odd.text).toContain('With ?????');
    expect(odd.text).toMatch(/Größe 5 µm\n\? OK \?+ “so”/);
    expect((await made('QT9XX')).text).toContain('Nothing passed.');
  });
});

describe('the document of the station', () => {
  const at = eachWithModem();
  it('has all that passed with them, and nothing of others', async () => {
    at.modem.hear('QT1NC>APZTOM::QT2AR-7  :Water is rising{1');
    at.modem.hear('QT6CL>APZTOM::QT2AR-7  :Something else{1');
    await eventually(async () => (await at.api.get<{ rows: unknown[] }>('/items')).rows.length === 2);
    const answer = await at.api.send('/exports/conversation.pdf?with=QT1NC');
    expect(answer.headers.get('content-type')).toBe('application/pdf');
    expect(answer.headers.get('content-disposition')).toMatch(/^attachment; filename="conversation-.*\.pdf"$/);
    const { text } = readBack(new Uint8Array(await answer.arrayBuffer()));
    expect(text).toContain('Water is rising');
    expect(text).not.toContain('Something else');
    expect((await at.api.send('/exports/conversation.pdf')).status).toBe(422);
  });
});
