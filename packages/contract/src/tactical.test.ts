import { tacticalChange, tacticalNameOf, type TacticalView } from './tactical';

const given = (name: string, call: string, sinceH: number, untilH: number | null): TacticalView => {
  const at = (hour: number) => new Date(Date.UTC(2026, 10, 26, hour)).toISOString();
  return { id: crypto.randomUUID(), name, call, since: at(sinceH), until: untilH === null ? null : at(untilH) };
};
const names = [
  given('Shelter 2', 'QT6CL', 10, null),
  given('Shelter 2', 'QT7SH-5', 6, 10),
  given('School', 'QT7SH-5', 8, null),
  given('Gate', 'QT7SH-5', 7, 9),
];
const at = (hour: number, minute = 0) => new Date(Date.UTC(2026, 10, 26, hour, minute)).toISOString();

describe('a tactical name', () => {
  it('belongs to who had it then; of several the one that was given last', () => {
    expect(tacticalNameOf(names, 'qt7sh-5', at(5, 59))).toBeNull();
    expect(tacticalNameOf(names, 'QT7SH-5', at(6))).toBe('Shelter 2');
    expect(tacticalNameOf(names, 'QT7SH-5', at(7, 30))).toBe('Gate');
    expect(tacticalNameOf(names, 'QT7SH-5', at(8, 30))).toBe('School');
    expect(tacticalNameOf(names, 'QT6CL', at(9, 59))).toBeNull();
    // From the moment on that it goes to another it is the other's alone.
    expect(tacticalNameOf(names, 'QT6CL', at(10))).toBe('Shelter 2');
    expect(tacticalNameOf(names.slice(0, 2), 'QT7SH-5', at(10))).toBeNull();
    expect(tacticalNameOf(names, 'QT7SH-5')).toBe('School');
    // Another SSID is another station.
    expect(tacticalNameOf(names, 'QT7SH')).toBeNull();
  });

  it('is never what could be taken for a call, and goes to a station', () => {
    const read = (name: string, call = 'QT6CL') => tacticalChange.safeParse({ name, call });
    expect(read(' Shelter 2 ', 'qt6cl-5')).toMatchObject({
      success: true,
      data: { name: 'Shelter 2', call: 'QT6CL-5' },
    });
    expect(read('École Nord').success).toBe(true);
    for (const name of ['', 'S', '2nd gate', 'QT1NC', 'qt1nc-4', 'a\nb', 'Gate\u202e', 'x'.repeat(25), '<b>'])
      expect([name, read(name).success]).toEqual([name, false]);
    expect(read('Gate', 'gate').success).toBe(false);
  });
});
