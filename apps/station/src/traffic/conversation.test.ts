import type { ItemSummary } from '@tombolo/contract';
import { eachWithModem, eventually, itemWhen } from '../testing/harness';
import { listPerson } from '../testing/listed';
import { DESK, keepServices, PHONE } from '../testing/services';
import { textTo } from '../testing/written';

const at = eachWithModem();
const wordsWith = async (who: string, more = ''): Promise<string[]> => {
  const { rows } = await at.api.get<{ rows: ItemSummary[] }>(`/items?with=${encodeURIComponent(who)}${more}`);
  return rows.map(({ body }) => body).sort();
};
const arrived = (body: string) =>
  eventually(async () => (await at.api.get<{ rows: ItemSummary[] }>('/items')).rows.some((row) => row.body === body));

describe('a conversation', () => {
  it('is all that passed with somebody, by whatever address, and through services', async () => {
    await keepServices(at.api, PHONE, DESK);
    await listPerson(
      at.api,
      'Dr Hallow',
      { call: 'QT5VC', phone: '+00 555 0177', mail: 'hallow@clinic.example' },
      true,
    );
    await at.api.post('/items', textTo('QT5VC', 'By radio'));
    await at.api.post('/items', textTo('QT1NC', 'To somebody else'));
    const question = textTo('TELTXT', '');
    const byPhone = {
      ...question,
      content: { is: 'command', command: 'text', values: { to: '005550177', text: 'By phone' } },
    };
    await at.api.post('/items', byPhone);
    const strange = {
      ...byPhone,
      id: crypto.randomUUID(),
      content: { ...byPhone.content, values: { to: '005550199', text: 'x' } },
    };
    await at.api.post('/items', strange);
    await itemWhen(at.api, question.id!, ({ status }) => status.rung === 'sent');
    at.modem.hear('QT1GW-10>APRS:}TELTXT>APRS,TCPIP,QT1GW-10*::QT2AR-7  :005550177: From the phone{1');
    at.modem.hear('QT5VC>APRS::QT2AR-7  :From the radio{2');
    await arrived('005550177: From the phone');
    await arrived('From the radio');
    const all = ['005550177: By phone', '005550177: From the phone', 'By radio', 'From the radio'];
    for (const who of ['Dr Hallow', 'dr hallow', 'qt5vc', '+00 555 0177', 'hallow@clinic.example'])
      expect(await wordsWith(who)).toEqual(all);
    expect(await wordsWith('Dr Hallow', '&text=phone')).toEqual(['005550177: By phone', '005550177: From the phone']);
    // A stranger is known by the address that was named, and by nothing else.
    expect(await wordsWith('QT1NC')).toEqual(['To somebody else']);
    // What is asked about a station, and told of it, did not pass with it.
    const where = {
      ...byPhone,
      ...textTo('ASKDSK', ''),
      content: { is: 'command', command: 'where', values: { call: 'QT1NC' } },
    };
    await at.api.post('/items', where);
    await itemWhen(at.api, where.id!, ({ status }) => status.rung === 'sent');
    at.modem.hear('QT1GW-10>APRS:}ASKDSK>APRS,TCPIP,QT1GW-10*::QT2AR-7  :QT1NC is at 41 10.00N 043 20.00W{9');
    await arrived('QT1NC is at 41 10.00N 043 20.00W');
    expect(await wordsWith('QT1NC')).toEqual(['To somebody else']);
    expect(await wordsWith("x' or 'a'='a")).toEqual([]);
  });

  it('holds what somebody else is to bring to them, and not what only speaks of them', async () => {
    await listPerson(at.api, 'Ferry Office', { mail: 'office@ferry.example' });
    await at.api.post('/items', textTo('QT5LS', 'Ferry Office: When do you run'));
    await at.api.post('/items', textTo('QT5LS', 'Ferry Offices: are shut'));
    await at.api.post('/items', textTo('QT5LS', 'Ask the Ferry Office: soon?'));
    expect(await wordsWith('ferry office')).toEqual(['Ferry Office: When do you run']);
    expect(await wordsWith('office@ferry.example')).toEqual(['Ferry Office: When do you run']);
    // A stranger is nobody's name.
    expect(await wordsWith('Ask the')).toEqual([]);
  });

  it('with a group is what was said in it, here and there', async () => {
    const group = { id: 'group', title: 'Group', kind: 'group' as const };
    const said = { id: 'text', title: 'Text', kind: 'text' as const };
    await keepServices(at.api, {
      address: 'ROLLCL',
      name: 'Groups',
      purpose: 'Groups',
      commands: [{ id: 'say', title: 'Say', fields: [group, said], template: 'SAY {group} {text}' }],
    });
    const item = {
      ...textTo('ROLLCL', ''),
      content: { is: 'command', command: 'say', values: { group: 'SOUNDNET', text: 'Hello' } },
    };
    await at.api.post('/items', item);
    at.modem.hear('QT1GW-10>APRS:}ROLLCL>APRS,TCPIP,QT1GW-10*::QT2AR-7  :SOUNDNET QT1NC: Roll call{1');
    await arrived('SOUNDNET QT1NC: Roll call');
    expect(await wordsWith('soundnet')).toEqual(['SAY SOUNDNET Hello', 'SOUNDNET QT1NC: Roll call']);
  });
});
