import fc from 'fast-check';
import { answersQuestion, checkService, endsWhenTaken, farOf, readServiceWord } from './answers';
import { readField } from './fields';
import { fieldsOf, fillCommand, previewOf, readTemplate, roomFor } from './fill';
import { proposePattern } from './learn';
import { FIELD_KINDS, type Service, type ServiceCommand } from './service';

const value = (kind: Parameters<typeof readField>[0], typed: string) => {
  const read = readField(kind, typed);
  return read.ok ? read.value : `! ${read.error.reason}`;
};
const field = (id: string, kind: ServiceCommand['fields'][number]['kind'], optional = false) => ({
  id,
  title: id.toUpperCase(),
  kind,
  optional,
  offers: [],
});
const command = (id: string, template: string, fields: ServiceCommand['fields']): ServiceCommand => ({
  id,
  title: id,
  fields,
  template,
  asksAcknowledgement: true,
  positionFirst: false,
  answerWithinS: 120,
  leftBy: null,
  cautions: [],
});
const phone = command('text', '{to}: {text}', [field('to', 'phone'), field('text', 'text')]);
const spot = command('spot', 'SPOT AT {place} ON {mhz} BY {mode}[: {text}]', [
  field('place', 'reference'),
  field('mhz', 'frequency'),
  field('mode', 'mode'),
  field('text', 'text', true),
]);
const desk: Service = {
  address: 'DESK',
  name: 'Desk',
  purpose: 'Asks',
  reached: '',
  commands: [phone, spot],
  answers: [
    { pattern: '^Text to (?<to>\\d+) taken', proves: 'taken', of: ['text'] },
    { pattern: '^(?<to>\\d{3,20}): (?<text>.*)$', proves: 'answer', of: ['text'] },
    { pattern: '^Spotted (?<place>\\S+) on (?<mhz>\\S+)', proves: 'taken', of: ['spot'] },
    { pattern: '^Not (?:sent|spotted): (?<reason>.*)$', proves: 'refused', of: [] },
  ],
};

describe('a field', () => {
  it.each([
    ['phone', '+00 555 0142', '005550142'],
    ['phone', '(00) 555-01.42', '005550142'],
    ['phone', '0055 five', '! “f” is no digit'],
    ['phone', '12', '! a phone number has 3 to 20 digits, this has 2'],
    ['mail', ' office@Ferry.EXAMPLE ', 'office@ferry.example'],
    ['mail', 'office ferry@x.example', '! no blanks within a mail address'],
    ['mail', 'office', '! an “@” is missing'],
    ['mail', 'office@', '! nothing stands behind the “@”'],
    ['mail', 'office@\r\nferry.example', '! no blanks within a mail address'],
    ['group', 'soundnet', 'SOUNDNET'],
    ['group', 'sound net', '! one to nine letters and digits'],
    ['call', 'qt4lb-8', 'QT4LB-8'],
    ['call', 'QT4LB-99', '! an SSID is a number from 0 to 15'],
    ['reference', 'hs-014', 'HS-014'],
    ['reference', 'HS014', '! a reference such as HS-014'],
    ['frequency', '7,185', '7.185'],
    ['frequency', '7.185 MHz', '7.185'],
    ['frequency', '7.185.0', '! a frequency in MHz, such as 7.185'],
    ['frequency', '0', '! between 0.1 and 300000 MHz'],
    ['mode', 'ssb', 'SSB'],
    ['place', 'IO91wm', 'IO91wm'],
    ['place', 'Veil: x', '! a locator or the name of a place, at most 30 letters and digits'],
    ['text', 'two\nlines  here', 'two lines here'],
    ['text', 'a {b', '! “{” cannot be sent'],
    ['text', 'a|b', '! “|” cannot be sent'],
    ['text', '   ', '! it is missing'],
  ] as const)('of %s: “%s” is %s', (kind, typed, wanted) => {
    if (wanted.startsWith('! an SSID')) expect(value(kind, typed)).toMatch(/^! /);
    else expect(value(kind, typed)).toBe(wanted);
  });

  // RFC 5321, 4.5.3.1 (lengths), RFC 5322, 3.2.3 and 3.4.1 (dot-atom), and addresses of RFC 5322, appendix A.1.1.
  it.each(['jdoe@machine.example', 'john.q.public@example.com', 'mary@example.net', `${'a'.repeat(64)}@x.example`])(
    'takes the address %s',
    (address) => expect(value('mail', address)).toBe(address),
  );
  it.each([
    '.jdoe@x.example',
    'jdoe.@x.example',
    'j..doe@x.example',
    `${'a'.repeat(65)}@x.example`,
    'j@x',
    'j@-x.example',
    'a@b@c.example',
    '"j d"@x.example',
  ])('refuses the address %s', (address) => expect(value('mail', address)).toMatch(/^! /));

  it('is read whatever is typed, and what was read is read again as the same', () => {
    fc.assert(
      fc.property(fc.constantFrom(...FIELD_KINDS), fc.string({ unit: 'binary' }), (kind, typed) => {
        const read = readField(kind, typed);
        if (read.ok) expect(readField(kind, read.value)).toEqual(read);
      }),
    );
  });
});

describe('a template', () => {
  it('is read into words, fields and parts that may be left out; what is none is refused with its place', () => {
    const read = readTemplate('IN {group}[ {text}]');
    expect(read.ok && fieldsOf(read.value)).toEqual(['group', 'text']);
    for (const [wrong, at] of [
      ['a {B}', 2],
      ['a }', 2],
      ['[a [b]]', 3],
      ['a]', 1],
      ['[a]', 2],
      ['[{a}', 4],
    ] as const)
      expect(readTemplate(wrong)).toMatchObject({ ok: false, error: { at } });
    fc.assert(fc.property(fc.string(), (text) => void readTemplate(text)));
  });
});

describe('a command', () => {
  it('is worded by its template; parts with nothing in them are left out', () => {
    expect(fillCommand(phone, { to: '+00 555 0142', text: 'When does\nit run?' })).toEqual({
      ok: true,
      text: '005550142: When does it run?',
      values: { to: '005550142', text: 'When does it run?' },
    });
    const at = { place: 'hs-014', mhz: '7,185', mode: 'ssb' };
    expect(fillCommand(spot, at)).toMatchObject({ text: 'SPOT AT HS-014 ON 7.185 BY SSB' });
    expect(fillCommand(spot, { ...at, text: 'until noon' })).toMatchObject({
      text: 'SPOT AT HS-014 ON 7.185 BY SSB: until noon',
    });
  });

  it('is refused before it is sent, with each fault at its field', () => {
    expect(fillCommand(spot, { place: 'x', mode: 'SSB' })).toEqual({
      ok: false,
      faults: { place: 'a reference such as HS-014', mhz: 'it is missing' },
    });
    // 11 octets go before the text: 56 are left of 67 (Protocol Reference 1.0.1, ch. 14).
    expect(fillCommand(phone, { to: '005550142', text: 'x'.repeat(56) })).toMatchObject({ ok: true });
    expect(fillCommand(phone, { to: '005550142', text: 'x'.repeat(57) })).toMatchObject({
      faults: { text: expect.stringMatching(/^1 of 67 octets too many/) },
    });
    // Two octets each.
    expect(fillCommand(phone, { to: '005550142', text: 'é'.repeat(29) })).toMatchObject({ ok: false });
    expect(fillCommand(phone, JSON.parse('{"__proto__":{"to":"005550142"},"text":"x"}') as never)).toMatchObject({
      ok: false,
    });
    expect(fillCommand(command('x', '{constructor}', [field('constructor', 'group')]), {})).toEqual({
      ok: false,
      faults: { constructor: 'it is missing' },
    });
  });

  it('tells how much room is left, and shows what is missing', () => {
    expect(roomFor(phone, { to: '+00 555 0142' }, 'text')).toBe(56);
    expect(roomFor(spot, { place: 'HS-014', mhz: '7.185', mode: 'SSB' }, 'text')).toBe(
      67 - 'SPOT AT HS-014 ON 7.185 BY SSB: '.length,
    );
    expect(previewOf(spot, { place: 'hs-014' })).toBe('SPOT AT HS-014 ON ‹MHZ› BY ‹MODE›');
  });

  it('never grows longer than a text holds, and its room is what it says', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 90 }), (text) => {
        const filled = fillCommand(phone, { to: '005550142', text });
        if (filled.ok) expect(new TextEncoder().encode(filled.text).length).toBeLessThanOrEqual(67);
      }),
    );
  });
});

describe('an answer', () => {
  const read = (text: string) => readServiceWord(desk, text)!;
  it('is known by the first pattern that finds something, with what it proves', () => {
    expect(read('Text to 005550142 taken')).toMatchObject({ proves: 'taken', groups: { to: '005550142' }, n: 0 });
    expect(read('005550142: Tomorrow 0700')).toMatchObject({ proves: 'answer', groups: { text: 'Tomorrow 0700' } });
    expect(read('Not sent: no such number')).toMatchObject({ proves: 'refused', groups: { reason: 'no such number' } });
    expect(readServiceWord(desk, 'hello')).toBeNull();
  });

  it('fits the questions that it names, however they are written, and no other', () => {
    const question = (values: Record<string, string>, of = 'text') => ({ command: of, values });
    const taken = read('Text to 005550142 taken');
    expect(answersQuestion(taken, question({ to: '005550142', text: 'Hello' }))).toBe(true);
    expect(answersQuestion(taken, question({ to: '005550143' }))).toBe(false);
    expect(answersQuestion(taken, question({ to: '005550142' }, 'spot'))).toBe(false);
    const spotted = read('Spotted HS-014 on 7.185 by SSB');
    expect(answersQuestion(spotted, question({ place: 'hs-014', mhz: '7.185', mode: 'SSB' }, 'spot'))).toBe(true);
    expect(answersQuestion(spotted, question({ place: 'HS-014', mhz: '14.285' }, 'spot'))).toBe(false);
    // A refusal names nothing: it fits all.
    expect(answersQuestion(read('Not sent: full'), question({ to: '1234' }))).toBe(true);
    expect(farOf(read('005550142: yes'), { to: '005550142', text: 'x' })).toBe('005550142');
    expect(farOf(read('005550142: yes'), {})).toBe('005550142');
    expect(farOf(read('Not sent: full'), { to: '1234' })).toBeNull();
  });
});

describe('what can be proven of a command', () => {
  it('is that it was taken, where nobody answers it', () => {
    expect(endsWhenTaken(desk, 'text')).toBe(false);
    expect(endsWhenTaken(desk, 'spot')).toBe(true);
    expect(endsWhenTaken({ answers: [] }, 'text')).toBe(false);
  });
});

describe('a definition', () => {
  const wrong = (change: object) => {
    const checked = checkService({ ...desk, ...change });
    return checked.ok ? null : checked.error.reason;
  };
  it('is refused with what cannot be used in it', () => {
    expect(wrong({})).toBeNull();
    expect(wrong({ commands: [{ ...phone, template: '{to}: {txt}' }, spot] })).toBe(
      '“text”: its template has a field {txt} that is none of it',
    );
    expect(wrong({ commands: [{ ...phone, template: '{to}' }, spot] })).toBe(
      '“text”: its field “text” is not in the template',
    );
    expect(wrong({ commands: [{ ...phone, leftBy: 'out' }, spot] })).toMatch('nothing here is called “out”');
    expect(wrong({ answers: [{ pattern: '(', proves: 'taken', of: [] }] })).toMatch(/^the pattern “\(” cannot be used/);
    expect(wrong({ answers: [{ pattern: '(?=a)b', proves: 'taken', of: [] }] })).toMatch(/cannot be used/);
    expect(wrong({ answers: [{ pattern: 'a', proves: 'taken', of: ['x'] }] })).toMatch('is to answer “x”');
  });
});

describe('a pattern that is learnt', () => {
  const values = { to: '005550142', text: 'Hello' };
  const learnt = (text: string, proves: 'taken' | 'refused' | 'answer' | 'told', of: object | null = values) =>
    proposePattern(text, proves, of && { values: of as Record<string, string> });
  it('keeps the words, opens numbers, and makes groups of what was asked', () => {
    expect(learnt('Queued 005550142 as no. 17', 'taken')).toBe('^Queued (?<to>\\d+) as no\\. \\d+$');
    expect(learnt('Sorry: no route (yet)', 'refused')).toBe('^Sorry: (?<reason>.*)$');
    expect(learnt('005550142 says: Yes', 'answer')).toBe('^(?<to>\\d+) says: (?<text>.*)$');
    expect(learnt('Tide 2.4 m at 1310', 'told', null)).toBe('^Tide [\\d.]+ m at \\d+$');
  });

  it('knows the answer that it was made of, whatever that is', () => {
    fc.assert(
      fc.property(
        fc
          .string({ minLength: 1, maxLength: 67 })
          .filter((text) => text.trim() !== '' && !/[\n\r\u2028\u2029\u0085\u0000]/.test(text)),
        fc.constantFrom('taken' as const, 'refused' as const, 'answer' as const, 'told' as const),
        fc.record({
          to: fc
            .string({ minLength: 2, maxLength: 12 })
            .filter((text) => text.trim() === text && !/[\n\r\u2028\u2029\u0085\u0000]/.test(text)),
        }),
        (text, proves, of) => {
          const pattern = proposePattern(text, proves, { values: of });
          expect(readServiceWord({ answers: [{ pattern, proves, of: [] }] }, text.trim())).not.toBeNull();
        },
      ),
    );
  });
});
