import { octetsOfText } from '../octets';
import { emergencyOf, tellsState } from './emergency';
import { decodeInformation } from './information';

const read = (info: string, destination = 'APRS') => {
  const decoded = decodeInformation(octetsOfText(info), destination);
  if (!decoded.ok) throw new Error(decoded.error.reason);
  return decoded.value;
};

describe('a call for help', () => {
  it('is known by the message of Mic-E: bits 000 in the destination (Protocol Reference 1.0.1, ch. 10)', () => {
    // The Reference's example (S32UVT, “Returning”, from memory), its three message bits taken away: S, 3, 2 become 3, 3, 2.
    expect(emergencyOf(read('`(_fn"Oj/', '332UVT'))).toEqual({ drill: false, by: 'the message that its operator set' });
    expect(emergencyOf(read('`(_fn"Oj/', 'S32UVT'))).toBeNull();
  });

  it.each([
    ['its symbol', '!4114.55N\\04327.36W!', false],
    ['its symbol', '!4114.55N\\04327.36W!Drill of the lifeboat', true],
    ['its words', '>EMERGENCY boat adrift', false],
    ['its words', '=4114.55N/04327.36W-EMERGENCY EXERCISE', true],
  ])('is known by %s: %s', (by, info, drill) => expect(emergencyOf(read(info))).toEqual({ drill, by }));

  it.each([
    '>Sound Emergency Net on the hour',
    '>EMERGENCY NET on 146.520',
    '=4114.55N/04327.36W-No emergency',
    ':QT1NC    :EMERGENCY',
  ])('is not in %s', (info) => expect(emergencyOf(read(info))).toBeNull());

  it('is over when a packet of its own says otherwise; texts and telemetry say nothing of it', () => {
    expect(['=4114.55N/04327.36W-', '>all well'].map((info) => tellsState(read(info)))).toEqual([true, true]);
    expect([':QT1NC    :Hello', 'T#005,199,000,255,073,123,01101001'].map((info) => tellsState(read(info)))).toEqual([
      false,
      false,
    ]);
  });
});
