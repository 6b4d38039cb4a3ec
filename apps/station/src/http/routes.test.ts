import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import SwaggerParser from '@apidevtools/swagger-parser';
import { allRoutes, pathOf } from '@tombolo/contract';
import { createDatabase, startTestStation, type TestDatabase } from '../testing/harness';
import type { Station } from '../station';
import { openApiDocument } from './open-api';

let database: TestDatabase;
let station: Station;
beforeAll(async () => {
  database = await createDatabase();
  station = await startTestStation(database.url);
});
afterAll(async () => {
  await station.stop();
  await database.drop();
});

describe('the routes of the contract', () => {
  it('are described in a document that a general validator accepts', async () => {
    // The validator changes what it reads.
    const document = JSON.parse(JSON.stringify(openApiDocument())) as never;
    await expect(SwaggerParser.validate(document)).resolves.toMatchObject({ openapi: '3.1.0' });
  });

  it('are each said once', () => {
    const names = allRoutes.map(({ method, path }) => `${method} ${path}`);
    expect(new Set(names).size).toBe(names.length);
  });

  it('are all served: each is known, and answers what does not fit with a problem', async () => {
    const unknown = await fetch(`${station.url}/api/v1/nothing-of-the-kind`);
    expect(await unknown.json()).toMatchObject({ type: 'tombolo:no-such-resource' });
    for (const { method, path, body } of allRoutes) {
      const url = `${station.url}/api/v1${pathOf(path, { id: 'x', call: 'x'.repeat(13), unit: 'x', address: 'X' })}`;
      const answer = await fetch(url, {
        method: method.toUpperCase(),
        ...(body && { headers: { 'content-type': 'application/json' }, body: '[]' }),
      });
      const text = await answer.text();
      expect({ path, text }).not.toEqual({ path, text: expect.stringContaining('no-such-resource') });
      expect({ path, status: answer.status < 500 }).toEqual({ path, status: true });
      if (answer.status >= 400) expect(JSON.parse(text)).toHaveProperty('detail');
    }
  });

  it('are served by the one function that reads them, so that none is outside of the document', () => {
    const folder = join(__dirname, 'routes');
    for (const file of readdirSync(folder)) {
      const text = readFileSync(join(folder, file), 'utf8');
      expect({ file, found: /router\s*\.\s*(?:get|post|put|patch|delete|all|use)\b/.exec(text)?.[0] }).toEqual({
        file,
        found: undefined,
      });
    }
  });
});
