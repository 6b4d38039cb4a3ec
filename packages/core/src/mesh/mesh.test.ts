import { createCipheriv, createHash } from 'node:crypto';
import { ecb } from '@noble/ciphers/aes';
import fc from 'fast-check';
import { octetsOfHex, octetsOfText } from '../octets';
import { loraAirTimeMs, loraSensitivityDbm } from './air-time';
import { formatInvitation, parseInvitation } from './invitation';
import { EVERYBODY } from './number';
import { channelMark, openPayload, SEAL_OCTETS, sealPayload } from './seal';
import { checkMeshText, mostMeshTextOctets } from './text';

const hex = (text: string) => octetsOfHex(text)!;

describe('LoRa time on air', () => {
  // Source: the chip maker's LoRa modem designer's guide, worked out with exact fractions in a second program.
  it.each([
    [7, 125, 1, 20, 8, 0, 56.576],
    [8, 125, 1, 50, 8, 0, 174.592],
    [9, 125, 4, 50, 16, 0, 508.928],
    [10, 250, 1, 200, 8, 0, 922.624],
    [11, 125, 4, 20, 16, 1, 1118.208],
    [12, 125, 1, 50, 8, 1, 2301.952],
    [12, 125, 1, 50, 8, 0, 2138.112],
    [7, 250, 4, 200, 8, 0, 247.936],
  ])(
    'SF%i at %i kHz, 4/(4+%i), %i octets, preamble %i, DE %i: %d ms',
    (sf, kHz, codingRate, octets, preamble, de, ms) => {
      const setting = {
        spreadingFactor: sf,
        bandwidthHz: kHz * 1000,
        codingRate,
        preambleSymbols: preamble,
        lowDataRate: de === 1,
      };
      expect(loraAirTimeMs(octets, setting)).toBeCloseTo(ms, 9);
    },
  );
  it('counts symbols as a second derivation does', () => {
    // By hand: the payload symbols come in blocks of CR+4 for every 4·(SF−2·DE) bits beyond the first eight symbols.
    fc.assert(
      fc.property(
        fc.integer({ min: 7, max: 12 }),
        fc.integer({ min: 1, max: 4 }),
        fc.nat(255),
        (sf, codingRate, octets) => {
          const setting = { spreadingFactor: sf, bandwidthHz: 125_000, codingRate, preambleSymbols: 8 };
          const de = 2 ** sf / 125 > 16 ? 2 : 0;
          let bits = 8 * octets + 16 + 28 - 4 * sf;
          let symbols = 8;
          while (bits > 0) {
            bits -= 4 * (sf - de);
            symbols += codingRate + 4;
          }
          expect(loraAirTimeMs(octets, setting)).toBeCloseTo(((8 + 4.25 + symbols) * 2 ** sf) / 125, 9);
        },
      ),
    );
  });
  it('hears weaker signals the slower it is', () => {
    const at = (spreadingFactor: number) => loraSensitivityDbm({ spreadingFactor, bandwidthHz: 125_000 });
    expect(at(7)).toBeCloseTo(-124.5, 1);
    expect(at(12)).toBeCloseTo(-137, 1);
  });
});

describe('the seal of a private channel', () => {
  const context = { mark: '3fa2', sender: '01D1-0005', addressee: EVERYBODY, number: '0000002a' };
  it('is the AES of FIPS 197, appendix C.3', () => {
    const key = hex('000102030405060708090a0b0c0d0e0f101112131415161718191a1b1c1d1e1f');
    const block = ecb(key, { disablePadding: true }).encrypt(hex('00112233445566778899aabbccddeeff'));
    expect(block).toEqual(hex('8ea2b7ca516745bfeafc49904b496089'));
  });
  it('is the GCM of NIST, as another implementation computes it', () => {
    // The key and nonce of test case 16 of the GCM submission to NIST (from memory), checked with the library of Node.js.
    const key = hex('feffe9928665731c6d6a8f9467308308feffe9928665731c6d6a8f9467308308');
    const nonce = hex('cafebabefacedbaddecaf888');
    const payload = octetsOfText('Three people and forty sheep');
    // The header by hand: version 1 and sealed, mark, sender, everybody, number, hops left out.
    const header = hex('11 3fa2 005a100005 ffffffffff 0000002a 00');
    const cipher = createCipheriv('aes-256-gcm', key, nonce).setAAD(header);
    const theirs = Buffer.concat([nonce, cipher.update(payload), cipher.final(), cipher.getAuthTag()]);
    expect(Buffer.from(sealPayload(payload, key, nonce, context))).toEqual(theirs);
    expect(theirs).toHaveLength(payload.length + SEAL_OCTETS);
  });
  it('opens with its key alone, whole and in its own packet', () => {
    const key = new Uint8Array(32).fill(7);
    const sealed = sealPayload(octetsOfText('insulin'), key, new Uint8Array(12).fill(1), context);
    expect(openPayload(sealed, key, context)).toEqual({ ok: true, value: octetsOfText('insulin') });
    expect(openPayload(sealed, new Uint8Array(32).fill(8), context).ok).toBe(false);
    for (const other of [{ sender: '01D1-0006' }, { number: '0000002b' }, { addressee: '01D1-0002' }, { mark: '3fa3' }])
      expect(openPayload(sealed, key, { ...context, ...other }).ok).toBe(false);
    fc.assert(
      fc.property(fc.nat(sealed.length - 1), fc.integer({ min: 1, max: 255 }), (at, change) => {
        const damaged = sealed.slice();
        damaged[at]! ^= change;
        expect(openPayload(damaged, key, context).ok).toBe(false);
      }),
    );
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 60 }), (octets) =>
        expect(openPayload(octets, key, context).ok).toBe(false),
      ),
    );
  });
  it('marks channels by name and key', () => {
    expect(channelMark('Sound', null)).toMatch(/^[0-9a-f]{4}$/);
    // SHA-256 of the name and a zero octet, by the library of Node.js.
    expect(channelMark('Sound', null)).toBe(createHash('sha256').update('Sound\0').digest('hex').slice(0, 4));
    expect(channelMark('Sound', null)).not.toBe(channelMark('Sound Relief', new Uint8Array(32)));
  });
});

describe('an invitation', () => {
  it('comes back as it was', () => {
    fc.assert(
      fc.property(
        fc
          .string({ minLength: 1, maxLength: 24, unit: 'grapheme' })
          .filter((name) => name.trim() !== '' && name.length <= 24 && !/\p{Cs}/u.test(name)),
        fc.option(fc.uint8Array({ minLength: 32, maxLength: 32 })),
        (name, key) => {
          const invitation = { name, key: key ? Buffer.from(key).toString('base64') : null };
          expect(parseInvitation(` ${formatInvitation(invitation)}\n`)).toEqual({ ok: true, value: invitation });
        },
      ),
    );
  });
  it('that is none or not whole says so', () => {
    for (const text of [
      '',
      'hello',
      'tombolo-channel:1:',
      'tombolo-channel:1:a:short',
      'tombolo-channel:1:%zz:',
      'tombolo-channel:1:a:b:c',
    ])
      expect(parseInvitation(text).ok).toBe(false);
  });
});

it('a text for the mesh is counted in octets, as its frame is', () => {
  expect(mostMeshTextOctets(false)).toBe(255 - 18 - 6);
  expect(mostMeshTextOctets(true)).toBe(255 - 18 - 28 - 6);
  expect(checkMeshText('ä'.repeat(101), true).ok).toBe(true);
  expect(checkMeshText('ä'.repeat(102), false).ok).toBe(true);
  expect(checkMeshText('ä'.repeat(102), true)).toMatchObject({
    ok: false,
    error: { reason: expect.stringContaining('204 of 203') },
  });
  expect(checkMeshText('a\u0007', false).ok).toBe(false);
  expect(checkMeshText('two\nlines', false).ok).toBe(true);
});
