import { readServiceWord } from '@tombolo/core';
import { services } from '@tombolo/scenario';
import { Client } from 'pg';
import { insertBearer } from '../apps/station/src/http/routes/bearers';
import { provesSomething, questionsFor } from '../apps/station/src/services/questions';
import { apiOf, createDatabase, startTestStation } from '../apps/station/src/testing/harness';
import { launchBrowser } from '../scripts/lib/browser.mjs';
import { quantile, type Figure } from './figure';
import { framesDuring } from './frames';

const OPEN = 10_000;
const ASKED = 200;
const WITH = 'QT4LB-8';

/** Lines of a conversation that are there while it is scrolled. */
const LINES = 1000;
const SIZES = { phone: { width: 390, height: 844 }, wide: { width: 1280, height: 800 } };

/** How smoothly a long conversation is scrolled to and fro with a wheel. */
async function scrolled(url: string): Promise<Figure[]> {
  const browser = await launchBrowser();
  try {
    const figures: Figure[] = [];
    for (const [name, viewport] of Object.entries(SIZES)) {
      const page = await browser.newPage({ viewport });
      await page.goto(`${url}/traffic/with?who=${WITH}`);
      await page
        .getByRole('link', { name: /Text \d+/ })
        .first()
        .waitFor();
      const more = page.getByRole('button', { name: 'Show older', exact: true }).last();
      let lines = 100;
      page.on('response', (response) => {
        if (response.url().includes('before=')) lines += 100;
      });
      // A press while the last page is being drawn is lost.
      for (let presses = 0; lines < LINES && presses < 100; presses++) {
        await more.click();
        await page.waitForTimeout(200);
      }
      if (lines < LINES) throw new Error(`only ${lines} lines were loaded`);
      await page.mouse.move(viewport.width * 0.6, viewport.height / 2);
      const value = await framesDuring(page, async () => {
        for (let i = 0; i < 240; i++) await page.mouse.wheel(0, 90 * Math.sin(i / 20));
      });
      figures.push({
        name: `Conversation scrolled, ${name}`,
        value,
        unit: 'frames/s',
        goal: 50,
        better: 'more',
        note: `${LINES} lines of ${OPEN} loaded, by a wheel`,
      });
      await page.close();
    }
    return figures;
  } finally {
    await browser.close();
  }
}

/** Which of many open questions an answer of a service belongs to, and how soon a long conversation is there. */
export async function answers(): Promise<Figure[]> {
  const database = await createDatabase();
  const station = await startTestStation(database.url, { webFolder: process.env.TOMBOLO_WEB! });
  const owner = new Client({ connectionString: database.ownerUrl });
  await owner.connect();
  try {
    const api = apiOf(station);
    await api.post('/services', { format: 'tombolo services', version: 1, services });
    await insertBearer(station.context, 'radio', 'Radio', {
      kind: 'line-feed',
      host: '127.0.0.1',
      port: 1,
      answerOver: null,
    });
    // As many texts to phones, each to a number of its own, and as many to one station, some minutes old and unanswered.
    await owner.query(
      `insert into item (id, direction, kind, precedence, sender, addressee, body, acknowledgement_asked, created_at, refused, trace)
       select gen_random_uuid(), 'out', 'text', 'routine', 'QT2AR-7', case n % 2 when 0 then 'TELTXT' else $2 end,
         (1000000 + n)::text || ': Text ' || n, true,
         date_trunc('milliseconds', now()) - interval '20 minutes' - n * interval '10 ms', false, '{}'
       from generate_series(1, 2 * $1::int) n`,
      [OPEN, WITH],
    );
    await owner.query(
      `insert into leg (id, item_id, role, bearer_id, from_call, to_call, path, info, acknowledgement_asked, policy, created_at, detail)
       select gen_random_uuid(), id, 'convey', 'radio', sender, addressee, '{}', '', true, '{}', created_at,
         case when addressee = 'TELTXT' then jsonb_build_object('service', jsonb_build_object('address', addressee, 'command', 'text',
           'values', jsonb_build_object('to', split_part(body, ':', 1), 'text', 'Text'))) end
       from item`,
    );
    await owner.query(
      `insert into attempt (leg_id, n, intended_at, frame, identity) select id, 1, created_at, '', convert_to(id::text, 'UTF8') from leg`,
    );
    await owner.query('analyze');
    const service = services.find(({ address }) => address === 'TELTXT')!;
    const took: number[] = [];
    for (let n = 0; n < ASKED; n++) {
      const to = 1_000_000 + 2 * (1 + ((n * 47) % OPEN));
      const word = readServiceWord(service, `Text to ${to} taken`)!;
      if (!provesSomething(word)) throw new Error('it proves nothing');
      const begun = performance.now();
      const found = await questionsFor(station.context.database, service, word, Date.now());
      took.push(performance.now() - begun);
      if (found.length !== 1) throw new Error(`${found.length} questions for ${to}`);
    }
    const opened: number[] = [];
    for (let n = 0; n < 20; n++) {
      const begun = performance.now();
      const { rows } = await api.get<{ rows: unknown[] }>(`/items?with=${WITH}&limit=100`);
      opened.push(performance.now() - begun);
      if (rows.length !== 100) throw new Error(`${rows.length} lines`);
    }
    return [
      {
        name: 'answer to its question',
        value: quantile(took, 0.5),
        unit: 'ms',
        goal: 1,
        better: 'less',
        note: `among ${OPEN} open ones, asked of the database, median of ${ASKED}`,
      },
      {
        name: 'conversation opened',
        value: quantile(opened, 0.95),
        unit: 'ms',
        goal: 200,
        better: 'less',
        note: `of ${OPEN} lines, its first hundred by the API, 95th percentile`,
      },
      ...(await scrolled(station.url)),
    ];
  } finally {
    await owner.end();
    await station.stop();
    await database.drop();
  }
}
