import WebSocket from 'ws';
import { createDatabase, startModem, startWithModem } from '../apps/station/src/testing/harness';
import { textTo } from '../apps/station/src/testing/written';
import { quantile, type Figure } from './figure';

const ITEMS = 100;

/** From the moment one console sends a text until another one is told of the item and has read it. */
export async function secondConsole(): Promise<Figure[]> {
  const database = await createDatabase();
  const modem = await startModem();
  const station = await startWithModem(database.url, modem);
  const socket = new WebSocket(`${station.url.replace('http', 'ws')}/api/v1/live`);
  try {
    await new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject));
    const waiting = new Map<string, (at: number) => void>();
    socket.on('message', (data) => {
      const event = JSON.parse(String(data)) as { type: string; data: { id?: string } };
      const told = event.type === 'item' && event.data.id ? waiting.get(event.data.id) : undefined;
      if (!told) return;
      waiting.delete(event.data.id!);
      void station.api.get(`/items/${event.data.id}`).then(() => told(performance.now()));
    });
    const delays: number[] = [];
    for (let n = 0; n < ITEMS; n++) {
      const text = textTo('QT4LB-8', `Number ${n}`, { askAcknowledgement: false });
      const told = new Promise<number>((resolve) => waiting.set(text.id, resolve));
      const start = performance.now();
      await station.api.post('/items', text);
      delays.push((await told) - start);
    }
    return [
      {
        name: 'A new item on a second console',
        value: quantile(delays, 0.95),
        unit: 'ms',
        goal: 200,
        better: 'less',
        note: `95th percentile of ${ITEMS} texts, from sending to the item read (median ${quantile(delays, 0.5).toFixed(0)} ms)`,
      },
    ];
  } finally {
    socket.terminate();
    await station.stop();
    await modem.stop();
    await database.drop();
  }
}
