import fc from 'fast-check';
import { octetsOfLatin1 } from '../octets';
import { explainInformation } from './explain';

const explain = (text: string) =>
  Object.fromEntries(
    explainInformation(octetsOfLatin1(text), 'APRS').map((f) => [f.name, [f.words, text.slice(f.from, f.to)]]),
  );

describe('a packet explained field by field', () => {
  it('points at the octets of a message', () => {
    expect(explain(':QT4LB-8  :Fuel low{01}AA')).toMatchObject({
      Type: ['message', ':'],
      Addressee: ['QT4LB-8, padded to nine characters', 'QT4LB-8  '],
      Text: ['Fuel low', 'Fuel low'],
      Number: ['01: an acknowledgement is asked for', '{01}AA'],
    });
    expect(explain(':QT2AR-7  :ack01').Answer).toEqual(['acknowledges number 01', 'ack01']);
    expect(explain(':BLN1     :Gale')).toMatchObject({ Type: ['bulletin', ':'], Text: ['Gale', 'Gale'] });
  });
  it('points at the octets of positions', () => {
    const plain = explain('@092345z4903.50N/07201.75W>088/036hello');
    expect(plain.Time).toEqual(['day 9, 23:45 UTC', '092345z']);
    expect(plain.Latitude![1]).toBe('4903.50N');
    expect(plain.Longitude).toEqual(['72° 1.75′ W', '07201.75W']);
    expect(plain['Course and speed']).toEqual(['88° at 36 knots', '088/036']);
    expect(explain('=/5L!!<*e7>7P[').Longitude![1]).toBe('<*e7');
  });
  it('points at the destination for what Mic-E keeps there', () => {
    const fields = explainInformation(octetsOfLatin1('`(_fn"Oj/'), 'S32UVT-1');
    const at = (name: string) => fields.find((field) => field.name === name);
    expect(at('Latitude')).toMatchObject({ part: 'destination', from: 0, to: 6 });
    expect(at('Message')).toMatchObject({
      part: 'destination',
      from: 0,
      to: 3,
      words: 'Returning, from the destination',
    });
    expect(at('Longitude')).toMatchObject({ part: 'information', from: 1, to: 4 });
    const inside = explainInformation(octetsOfLatin1('}A1A>S32UVT,TCPIP,G1G*:`(_fn"Oj/'), 'APRS');
    expect(inside.find(({ name }) => name === 'Inside: Latitude')).toMatchObject({ from: 0, to: 0 });
    expect(inside.find(({ name }) => name === 'Inside: Longitude')).toMatchObject({ from: 24, to: 27 });
  });
  it('goes into third-party packets and says why it stops', () => {
    const text = '}A1A>B,TCPIP,G1G*:>on duty';
    expect(explain(text)['Inside: Text']).toEqual(['on duty', 'on duty']);
    expect(explain('!4903').hasOwnProperty('Not understood')).toBe(true);
  });
  it('stays inside the packet whatever is in it', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 80 }), fc.constantFrom(...":!=/@}>`'T;)_?<$[{,#"), (octets, type) => {
        const info = Uint8Array.from([type.charCodeAt(0), ...octets]);
        for (const field of explainInformation(info, 'S32UVT')) {
          expect(field.from).toBeGreaterThanOrEqual(0);
          expect(field.to).toBeLessThanOrEqual(info.length);
        }
      }),
    );
  });
});
