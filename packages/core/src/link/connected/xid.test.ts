import { decodeXid, encodeXid } from './xid';

describe('what stations offer each other (AX.25 v2.2 §4.3.3.7)', () => {
  const offer = { selectiveReject: true, window: 4, fieldOctets: 256 };
  it('is the general format with its parameters (octets from memory of the standard)', () => {
    expect([...encodeXid(offer)]).toEqual([
      0x82, 0x80, 0, 16, 2, 2, 0x21, 0, 3, 3, 0x86, 0xa4, 0x02, 6, 2, 0x08, 0x00, 8, 1, 4,
    ]);
    expect(decodeXid(encodeXid(offer))).toEqual({ ok: true, value: offer });
    expect(decodeXid(encodeXid({ ...offer, selectiveReject: false }))).toMatchObject({
      value: { selectiveReject: false },
    });
  });
  it('has the defaults where a parameter is left out, and passes over those that are not known', () => {
    expect(decodeXid(Uint8Array.of(0x82, 0x80, 0, 0))).toEqual({
      ok: true,
      value: { selectiveReject: false, window: 4, fieldOctets: 256 },
    });
    expect(decodeXid(Uint8Array.of(0x82, 0x80, 0, 5, 99, 0, 8, 1, 2))).toMatchObject({ value: { window: 2 } });
  });
  it.each([[[]], [[0x82, 0x81, 0, 0]], [[0x82, 0x80, 0, 9]], [[0x82, 0x80, 0, 1, 3]], [[0x82, 0x80, 0, 3, 3, 9, 1]]])(
    'is refused when cut off or of another format: %p',
    (octets) => {
      expect(decodeXid(Uint8Array.from(octets)).ok).toBe(false);
    },
  );
});
