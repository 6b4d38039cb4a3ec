import { execFileSync } from 'node:child_process';
import ICAL from 'ical.js';
import Papa from 'papaparse';
import { readPeopleTable, readVcards, writePeopleTable, writeVcards, type PersonCard } from './cards';

const FERRY: PersonCard = {
  id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c99',
  name: 'Ferry Office; Pier 2, "north"',
  licensed: false,
  agreement: 'By text, any hour; mail: mornings only, "please"',
  addresses: [
    { sort: 'call', address: 'QT1NC-9' },
    { sort: 'phone', address: '+00 555 0142' },
    { sort: 'phone', address: '0555 0143' },
    { sort: 'mail', address: 'office@ferry.example' },
    { sort: 'node', address: 'FERRY' },
    { sort: 'board', address: 'QT1NC@QT1BB-4' },
  ],
};
const OTHER: PersonCard = {
  id: null,
  name: 'مرحبا בדיקה',
  licensed: null,
  agreement: null,
  addresses: [{ sort: 'mail', address: 'x@y.example' }],
};
const valueOf = <T>(read: { ok: true; value: T } | { ok: false; error: { reason: string } }): T => {
  if (!read.ok) throw new Error(read.error.reason);
  return read.value;
};
const crlf = (text: string) => text.replace(/\n/g, '\r\n');

describe('people as vCards', () => {
  it('come back as they went out, and stand in a form that a general reader of vCards knows', () => {
    const file = writeVcards([FERRY, OTHER]);
    expect(valueOf(readVcards(file))).toEqual([FERRY, OTHER]);
    expect(file.split('\r\n').every((line) => new TextEncoder().encode(line).length <= 75)).toBe(true);
    // Read back by ical.js.
    const [first] = ICAL.parse(file) as unknown as unknown[][];
    const card = new ICAL.Component(first as never);
    expect(card.getFirstPropertyValue('version')).toBe('4.0');
    expect(card.getFirstPropertyValue('fn')).toBe(FERRY.name);
    expect(card.getAllProperties('tel').map((tel) => tel.getFirstValue())).toEqual(['+00 555 0142', '0555 0143']);
  });

  it('are taken from the example of the standard', () => {
    // RFC 6350, section 8, shortened by what is no matter here.
    const read = readVcards(
      crlf(`BEGIN:VCARD
VERSION:4.0
FN:Simon Perreault
N:Perreault;Simon;;;ing. jr,M.Sc.
BDAY:--0203
GENDER:M
LANG;PREF=1:fr
ORG;TYPE=work:Viagenie
ADR;TYPE=work:;Suite D2-630;2875 Laurier;
 Quebec;QC;G1V 2M2;Canada
TEL;VALUE=uri;TYPE="work,voice";PREF=1:tel:+1-418-656-9254;ext=102
TEL;VALUE=uri;TYPE="work,cell,voice,video,text":tel:+1-418-262-6501
EMAIL;TYPE=work:simon.perreault@viagenie.ca
GEO;TYPE=work:geo:46.772673,-71.282945
URL;TYPE=home:http://nomis80.org
END:VCARD
`),
    );
    expect(valueOf(read)).toEqual([
      {
        id: null,
        name: 'Simon Perreault',
        licensed: null,
        agreement: null,
        addresses: [
          { sort: 'phone', address: '+1 418 656 9254' },
          { sort: 'phone', address: '+1 418 262 6501' },
          { sort: 'mail', address: 'simon.perreault@viagenie.ca' },
        ],
      },
    ]);
  });

  it('of version 3, folded, grouped and escaped, are read as well', () => {
    const read = readVcards(
      crlf(`BEGIN:VCARD
VERSION:3.0
N:Hallow;Renske;;Dr;
FN:Dr Renske\\, Ha
 llow
item1.TEL;TYPE=CELL:(00) 555-01.42
item1.X-ABLabel:other
EMAIL;TYPE=INTERNET:hallow@clinic.example
NOTE:One\\nTwo
END:VCARD
`),
    );
    expect(valueOf(read)).toMatchObject([
      {
        name: 'Dr Renske, Hallow',
        addresses: [
          { sort: 'phone', address: '00 555 01 42' },
          { sort: 'mail', address: 'hallow@clinic.example' },
        ],
      },
    ]);
  });

  it('of version 3, as another program writes them, are read as well', () => {
    // python3-vobject knows vCards of version 3 (RFC 2426).
    const written = execFileSync(
      '/usr/bin/python3',
      [
        '-c',
        `import sys,vobject
c=vobject.vCard()
c.add('n').value=vobject.vcard.Name(family='Hallow',given='Renske',prefix='Dr')
c.add('fn').value='Dr Renske Hallow; clinic, Veil'
for t in ('+00 555 0142','(00) 555-0143'): c.add('tel').value=t
e=c.add('email'); e.value='hallow@clinic.example'; e.type_param='INTERNET'
c.add('note').value='x'*300
sys.stdout.write(c.serialize())`,
      ],
      { encoding: 'utf8' },
    );
    expect(written).toContain('VERSION:3.0');
    expect(valueOf(readVcards(written))).toEqual([
      {
        id: null,
        name: 'Dr Renske Hallow; clinic, Veil',
        licensed: null,
        agreement: null,
        addresses: [
          { sort: 'phone', address: '+00 555 0142' },
          { sort: 'phone', address: '00 555 0143' },
          { sort: 'mail', address: 'hallow@clinic.example' },
        ],
      },
    ]);
  });

  it('that are none say why, whatever they are', () => {
    for (const text of [
      '',
      '\u0000',
      'hello',
      'BEGIN:VCARD',
      'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nEND:VCALENDAR\r\n',
      'BEGIN:VCARD\r\nVERSION:4.0\r\nFN;"x:y\r\nEND:VCARD\r\n',
      'x'.repeat(1_000_001),
      'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:A\r\nEND:VCARD\r\n'.repeat(501),
      '{"a":1}',
    ])
      expect(readVcards(text)).toMatchObject({ ok: false, error: { reason: expect.any(String) } });
    // Names that mean something to the language are names.
    const odd = readVcards(crlf('BEGIN:VCARD\nVERSION:4.0\n__PROTO__:x\nCONSTRUCTOR:y\nFN:toString\nEND:VCARD\n'));
    expect(valueOf(odd)).toEqual([{ id: null, name: 'toString', licensed: null, agreement: null, addresses: [] }]);
    expect(valueOf(readVcards(crlf('BEGIN:VCARD\nVERSION:4.0\nEND:VCARD\n')))[0]!.name).toBe('');
  });
});

describe('people as a table', () => {
  it('come back as they went out, and are what a general reader of tables reads', () => {
    const file = writePeopleTable([FERRY, OTHER]);
    expect(valueOf(readPeopleTable(file))).toEqual([{ ...FERRY, id: null }, OTHER]);
    const rows = Papa.parse<string[]>(file, { skipEmptyLines: true }).data;
    expect(rows[1]!.slice(0, 2)).toEqual([FERRY.name, 'no']);
  });

  it('are read in any order of columns, with what a spreadsheet makes of them', () => {
    const read = readPeopleTable('\ufeffMail;Name;Shoe size\r\n;;\r\nx@y.example;Ann;41\r\n;Ben;\r\n');
    expect(valueOf(read)).toEqual([
      { id: null, name: 'Ann', licensed: null, agreement: null, addresses: [{ sort: 'mail', address: 'x@y.example' }] },
      { id: null, name: 'Ben', licensed: null, agreement: null, addresses: [] },
    ]);
    expect(valueOf(readPeopleTable('name,licensed,phone\nAnn,YES,"0555 1; (0555) 2"\n'))[0]).toMatchObject({
      licensed: true,
      addresses: [{ address: '0555 1' }, { address: '0555 2' }],
    });
  });

  it('that are none say why', () => {
    for (const text of ['', 'a,b\n1,2\n', 'name\n', `name\n${'A\n'.repeat(501)}`, 'name,mail\n"A,x\n', '\u0000'])
      expect(readPeopleTable(text)).toMatchObject({ ok: false, error: { reason: expect.any(String) } });
  });
});
