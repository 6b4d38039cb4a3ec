import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { formatMbox } from '../formats/mbox';
import { octetsOfText } from '../octets';
import { parseDeliveryStatus } from './delivery-report';

describe('a delivery report', () => {
  it('is read as RFC 3464 §9 shows it', () => {
    // The message/delivery-status part of the example in §9.1 ("simple DSN"), from memory.
    const report = parseDeliveryStatus(
      [
        'Reporting-MTA: dns; cs.utk.edu',
        '',
        'Original-Recipient: rfc822;louisl@larry.slip.umd.edu',
        'Final-Recipient: rfc822;louisl@larry.slip.umd.edu',
        'Action: failed',
        'Status: 4.0.0',
        'Diagnostic-Code: smtp; 426 connection timed out',
        'Last-Attempt-Date: Thu, 7 Jul 1994 17:15:49 -0400',
      ].join('\r\n'),
    );
    expect(report).toEqual({
      envelopeId: null,
      reportingSystem: 'cs.utk.edu',
      recipients: [
        {
          recipient: 'louisl@larry.slip.umd.edu',
          action: 'failed',
          status: '4.0.0',
          diagnostic: '426 connection timed out',
        },
      ],
    });
  });
  it('for several recipients tells each, and whose submission it was', () => {
    const report = parseDeliveryStatus(
      'Original-Envelope-Id: 7b0f\nReporting-MTA: dns; mail.example\n\nFinal-Recipient: rfc822; a@b.example\nAction: Delivered\nStatus: 2.0.0\n\nFinal-Recipient: rfc822; c@b.example\nAction: relayed\nStatus: 2.0.0\nRemark: folded\n over lines\n',
    );
    expect(report.envelopeId).toBe('7b0f');
    expect(report.recipients.map(({ recipient, action }) => [recipient, action])).toEqual([
      ['a@b.example', 'delivered'],
      ['c@b.example', 'relayed'],
    ]);
  });
  it('never makes the reader throw', () => {
    fc.assert(
      fc.property(fc.string(), (text) => expect(Array.isArray(parseDeliveryStatus(text).recipients)).toBe(true)),
    );
  });
});

describe('an mbox archive', () => {
  it('is read back by a general mail library, lines that begin with From unharmed', () => {
    const folder = mkdtempSync(join(tmpdir(), 'tombolo-mbox-'));
    try {
      const message = (subject: string, body: string) =>
        octetsOfText(`From: a@b.example\r\nSubject: ${subject}\r\n\r\n${body}\r\n`);
      const archive = formatMbox([
        {
          sender: 'a@b.example',
          at: new Date('2026-11-05T07:40:00Z'),
          octets: message('One', 'From here on\r\n>From there'),
        },
        { sender: 'bad sender', at: new Date('2026-11-25T07:40:00Z'), octets: message('Two', 'x') },
      ]);
      const file = join(folder, 'mail.mbox');
      writeFileSync(file, archive);
      // Source: the mailbox module of Python.
      const script =
        'import mailbox,json,sys\nbox=mailbox.mbox(sys.argv[1])\nprint(json.dumps([[m["Subject"],m.get_from(),m.get_payload()] for m in box]))';
      const read = JSON.parse(
        execFileSync('/usr/bin/python3', ['-c', script, file], { encoding: 'utf8' }),
      ) as string[][];
      expect(read.map(([subject, from]) => [subject, from])).toEqual([
        ['One', 'a@b.example Thu Nov  5 07:40:00 2026'],
        ['Two', 'badsender Wed Nov 25 07:40:00 2026'],
      ]);
      expect(read[0]![2]).toBe('>From here on\n>>From there\n');
    } finally {
      rmSync(folder, { recursive: true });
    }
  });
});
