import type { Person, WaysQuestion, WaysView } from '@tombolo/contract';
import { eachWithModem } from '../testing/harness';
import { listPerson } from '../testing/listed';

const at = eachWithModem();
const waysTo = (to: string, more: Partial<WaysQuestion> = {}) =>
  at.api.post<WaysView>('/ways', { to, text: 'When do you run again', ...more });
const handed = ({ ways }: WaysView) => ways.filter(({ send }) => send.broughtBy !== null);

/** The ferry office has a mailbox alone; the farm, which a modem reaches, brings it in about 40 minutes. */
async function ferryByFarm(aboutMin = 40): Promise<{ ferry: Person; farm: Person }> {
  const farm = await listPerson(at.api, 'Oskar Pellmund', { call: 'QT5LS', mail: 'farm@skerra.example' });
  const { id } = await listPerson(at.api, 'Ferry Office', { mail: 'office@ferry.example' });
  const ferry = await at.api.put<Person>(`/people/${id}`, {
    name: 'Ferry Office',
    licensed: false,
    addresses: [{ sort: 'mail', address: 'office@ferry.example' }],
    broughtBy: [{ person: farm.id, aboutMin }],
  });
  return { ferry, farm };
}

describe('a way by the hand of somebody', () => {
  it('goes to them with the name in front, and proves no more than that they have it', async () => {
    await ferryByFarm();
    const own = (await waysTo('Oskar Pellmund', { text: 'Ferry Office: When do you run again' })).ways[0]!;
    const [way] = handed(await waysTo('Ferry Office'));
    expect(way).toMatchObject({
      title: `By hand of Oskar Pellmund: ${own.title}`,
      send: { to: 'QT5LS', broughtBy: 'Oskar Pellmund', command: null },
      proof: { rung: 'accepted' },
      hands: 1,
      airS: own.airS,
      strips: [
        { from: 'you', to: 'Oskar Pellmund', chance: expect.closeTo(own.arrives.chance, 8) },
        { from: 'Oskar Pellmund', to: 'Ferry Office', seen: false },
      ],
    });
    expect(way!.sentences[0]).toContain('as far as Oskar Pellmund');
    expect(way!.cautions.join(' ')).toContain('in about 40 min as noted under People');
    // 8 of 10 are brought.
    expect(way!.arrives.chance).toBeCloseTo(0.8 * own.arrives.chance, 5);
    // Mail in the hands of the farm is no text that somebody keeps at hand.
    expect(handed(await waysTo('Ferry Office')).every(({ send }) => send.way.by === 'packets')).toBe(true);
  });

  it('comes too late where it takes longer than there is time', async () => {
    await ferryByFarm(40);
    const [unhurried] = handed(await waysTo('Ferry Office', { withinMin: 24 * 60 }));
    const [hurried] = handed(await waysTo('Ferry Office', { withinMin: 50 }));
    expect(hurried!.arrives.chance).toBeLessThan(0.7 * unhurried!.arrives.chance);
    const late = await waysTo('Ferry Office', { withinMin: 10 });
    expect(handed(late)).toEqual([]);
    expect(late.excluded).toContainEqual(
      expect.objectContaining({
        title: expect.stringContaining('By hand of Oskar Pellmund'),
        remedy: 'Give it more time.',
      }),
    );
  });

  it('is gone with whoever brings it, and there again when they are put back', async () => {
    const { farm, ferry } = await ferryByFarm();
    await at.api.send(`/people/${farm.id}`, { method: 'DELETE' });
    expect(handed(await waysTo('Ferry Office'))).toEqual([]);
    expect((await at.api.get<Person[]>('/people')).find(({ id }) => id === ferry.id)!.broughtBy).toEqual([]);
    await at.api.put(`/people/${farm.id}`, farm);
    expect(handed(await waysTo('Ferry Office'))).not.toEqual([]);
  });

  it('tells why it does not go', async () => {
    await ferryByFarm();
    await at.api.patch('/settings', { licenceConfirmed: false });
    const { ways, excluded } = await waysTo('Ferry Office');
    expect(ways).toEqual([]);
    expect(excluded).toContainEqual(
      expect.objectContaining({
        title: expect.stringMatching(/^By hand of Oskar Pellmund: /),
        remedy: 'Answer this in Settings.',
      }),
    );
  });
});
