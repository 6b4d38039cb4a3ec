import type { ItemDetail } from '@tombolo/contract';
import { rowsOf } from '../store/database';
import { appendEvents } from '../store/events';
import { addEvidence } from '../store/evidence';
import { eachWithModem, eventually } from '../testing/harness';
import { textTo } from '../testing/written';
import { cancelItem, releaseItem } from './actions';

const at = eachWithModem();

describe('a text of which a try is just being put on record', () => {
  it.each([
    ['cancelled', cancelItem],
    ['released', releaseItem],
  ])('can be %s: neither waits for the other in a circle', async (_, act) => {
    const { database } = at.station.context;
    // Nothing else tries it meanwhile.
    await at.api.put('/hold', { held: true });
    const { id } = await at.api.post<{ id: string }>('/items', textTo('QT4LB-8', 'Stay where you are'));
    const [leg] = await rowsOf<{ id: string }>(database, 'select id from leg where item_id = $1', [id]);
    let acting: Promise<void> | null = null;
    await database.transaction(async (manager) => {
      await manager.query('select 1 from leg where id = $1 for update', [leg!.id]);
      acting = act(database, id, new Date());
      await eventually(async () => {
        const waiting = await database.query(
          `select 1 from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'`,
        );
        return waiting.length > 0;
      });
      const record = { itemId: id, legId: leg!.id, attempt: 1, kind: 'not taken' as const, at: new Date() };
      await addEvidence(manager, { key: 'just now', ...record });
      await appendEvents(manager, [{ type: 'item', data: { id } }], new Date());
    });
    await acting;
    const { evidence } = await at.api.get<ItemDetail>(`/items/${id}`);
    expect(evidence.map(({ kind }) => kind)).toContain('not taken');
  });
});
