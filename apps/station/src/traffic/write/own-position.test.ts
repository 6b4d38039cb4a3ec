import { randomUUID } from 'node:crypto';
import { decodeFrame, formatMonitorLine, packetOfFrame, textOfOctets } from '@tombolo/core';
import type { NewPositionReport, TransmissionView } from '@tombolo/contract';
import { eachWithModem, eventually } from '../../testing/harness';

const at = eachWithModem();

const report = (more: Partial<NewPositionReport> = {}): NewPositionReport => ({
  id: randomUUID(),
  bearerId: 'radio',
  path: ['WIDE1-1', 'WIDE2-1'],
  ...more,
});
const lineOf = (octets: Uint8Array) => {
  const frame = decodeFrame(octets);
  const packet = frame.ok ? packetOfFrame(frame.value) : frame;
  if (!packet.ok) throw new Error(packet.error.reason);
  return textOfOctets(formatMonitorLine(packet.value, { escapes: true }));
};
const listed = async () => (await at.api.get<{ rows: TransmissionView[] }>('/transmissions')).rows;

describe('our own position', () => {
  it('goes out once, and its repeats are its evidence', async () => {
    const wanted = report({ comment: 'Skerra school' });
    expect(await at.api.post<TransmissionView>('/position-reports', wanted)).toMatchObject({
      id: wanted.id,
      role: 'convey',
    });
    await eventually(() => at.modem.sent.length === 1);
    const line = lineOf(at.modem.sent[0]!);
    expect(line).toMatch(/^QT2AR-7>APZTOM,WIDE1-1,WIDE2-1:=4116\.14N.04317\.10W.Skerra school$/);
    // The modem has it a moment before it is on record as sent.
    await eventually(async () => (await listed())[0]?.evidence.some(({ kind }) => kind === 'sent'));
    at.modem.hear(line.replace('WIDE1-1,', 'QT0BR-1*,'));
    const [sent] = await eventually(async () => {
      const rows = await listed();
      return rows[0]?.evidence.some(({ kind }) => kind === 'relayed') && rows;
    });
    expect(sent!.evidence.map(({ kind }) => kind)).toEqual(['queued', 'intended', 'sent', 'relayed']);
    expect(sent!.evidence.at(-1)).toMatchObject({ by: 'QT0BR-1' });
    expect(sent!.nextAt).toBeNull();
    // Pressed again it is the same one.
    expect(await at.api.post<TransmissionView>('/position-reports', wanted)).toMatchObject({ id: wanted.id });
    expect(at.modem.sent).toHaveLength(1);
  });

  it('leaves digits blank where that is wanted', async () => {
    await at.api.post('/position-reports', report({ ambiguity: 2, path: [] }));
    await eventually(() => at.modem.sent.length === 1);
    expect(lineOf(at.modem.sent[0]!)).toMatch(/^QT2AR-7>APZTOM:=4116\. {2}N.04317\. {2}W.$/);
  });

  it('is queued once of two that are pressed at once, and not while one waits', async () => {
    await at.api.put('/hold', { held: true });
    const answers = await Promise.all([1, 2, 3].map(() => at.api.post<object>('/position-reports', report())));
    expect(answers.filter((answer) => 'evidence' in answer)).toHaveLength(1);
    expect(answers.filter((answer) => 'status' in answer && answer.status === 409)).toHaveLength(2);
    expect(await listed()).toHaveLength(1);
  });

  it('is refused in words where it cannot go out', async () => {
    expect(await at.api.post('/position-reports', report({ comment: 'on|off' }))).toMatchObject({ status: 422 });
    expect(await at.api.post('/position-reports', report({ ambiguity: 9 as never }))).toMatchObject({ status: 422 });
    expect(await at.api.post('/position-reports', report({ bearerId: 'gone' }))).toMatchObject({ status: 422 });
    await at.api.patch('/settings', { position: null });
    expect(await at.api.post('/position-reports', report())).toMatchObject({
      status: 409,
      title: 'It is not known where this station is',
    });
    await at.api.patch('/settings', { antennaConfirmed: false });
    expect(await at.api.post('/position-reports', report())).toMatchObject({
      status: 409,
      title: 'The transmitter is locked',
    });
    expect(await listed()).toEqual([]);
  });
});
