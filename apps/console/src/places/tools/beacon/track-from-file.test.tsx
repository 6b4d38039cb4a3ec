import { fireEvent, screen, waitFor } from '@testing-library/react';
import { renderPiece } from '../../../testing/render';
import { readTrackFile, TrackFromFile, type NamedTrack } from './track-from-file';

/** A file of some pieces, as a browser gives it. */
function fileOf(pieces: readonly string[]) {
  let cancelled = false;
  const octets = pieces.map((piece) => new Uint8Array(Buffer.from(piece)));
  let n = 0;
  return {
    name: 'walk.gpx',
    size: octets.reduce((sum, { length }) => sum + length, 0),
    cancelled: () => cancelled,
    stream: () => ({
      getReader: () => ({
        read: async () => (n < octets.length ? { done: false, value: octets[n++] } : { done: true, value: undefined }),
        cancel: async () => void (cancelled = true),
      }),
    }),
  };
}
type AnyFile = Parameters<typeof readTrackFile>[0];
const point = (second: number) =>
  `<trkpt lat="41.${second}" lon="-43"><time>2026-11-25T08:00:${String(second).padStart(2, '0')}Z</time></trkpt>`;
const GPX = ['<gpx><trk><trkseg>', point(10), point(20).slice(0, 20), point(20).slice(20), '</trkseg></trk></gpx>'];
const never = () => false;

describe('a track out of a file of this device', () => {
  it('is read piece by piece, with its progress', async () => {
    const shares: number[] = [];
    const read = await readTrackFile(fileOf(GPX) as unknown as AnyFile, (share) => shares.push(share), never);
    expect(read).toMatchObject({ ok: true, value: { leftOut: 0, points: [{ latitude: 41.1 }, { latitude: 41.2 }] } });
    expect(shares).toHaveLength(5);
    expect(shares.at(-1)).toBe(1);
  });

  it('is left as soon as it is stopped, or makes no sense', async () => {
    const file = fileOf(GPX);
    let asked = 0;
    expect(
      await readTrackFile(
        file as unknown as AnyFile,
        () => undefined,
        () => ++asked > 2,
      ),
    ).toBeNull();
    expect(file.cancelled()).toBe(true);
    const other = fileOf(['{"no":"track"}', 'x'.repeat(100), 'y']);
    expect(await readTrackFile(other as unknown as AnyFile, () => undefined, never)).toMatchObject({ ok: false });
    expect(other.cancelled()).toBe(true);
  });

  it('is handed on by its name, and one that is none is said to be none', async () => {
    const taken: NamedTrack[] = [];
    renderPiece(<TrackFromFile take={(track) => taken.push(track)} />);
    const input = screen.getByLabelText('Track file');
    fireEvent.change(input, { target: { files: [fileOf(['hello'])] } });
    expect(
      await screen.findByText('neither GPX nor sentences of NMEA 0183. GPX and NMEA 0183 are read.'),
    ).toBeInTheDocument();
    fireEvent.change(input, { target: { files: [fileOf(GPX)] } });
    await waitFor(() => expect(taken).toMatchObject([{ name: 'walk.gpx' }]));
    expect(screen.queryByText('That is no track')).toBeNull();
  });
});
