import { writingRoutes } from '@tombolo/contract/routes/writing';
import { stationAnswers } from '../testing/render';
import { api } from './api';
import { exportUrl } from './exports';
import { ask, type StationProblem } from './ask';

const problemOf = (work: Promise<unknown>): Promise<StationProblem> =>
  work.then(
    () => Promise.reject(new Error('it should have failed')),
    (error: StationProblem) => error,
  );

describe('answers of the station', () => {
  it('tell the operator what the station said was wrong', async () => {
    stationAnswers({
      'POST /api/v1/items': {
        status: 422,
        body: {
          type: 'tombolo:invalid',
          title: 'Not queued',
          status: 422,
          detail: 'The text is empty.',
          fields: { body: 'empty' },
        },
      },
    });
    const problem = await problemOf(ask(writingRoutes.queueItem, { body: {} as never }));
    expect(problem).toMatchObject({ title: 'Not queued', message: 'The text is empty.', code: 'invalid' });
    expect(problem.fields).toEqual({ body: 'empty' });
  });
  it('that do not come say that nothing is lost', async () => {
    stationAnswers({});
    expect(await problemOf(api.settings())).toMatchObject({
      code: 'away',
      message: expect.stringContaining('loaded again by itself'),
    });
    // What was pressed is not done again by itself, and nothing else is said.
    expect(await problemOf(api.holdEverything(true))).toMatchObject({
      code: 'away',
      message: expect.stringMatching(/was not done, or nobody knows.*press again/),
    });
  });
  it('of another version are not shown as if they were understood', async () => {
    stationAnswers({ 'GET /api/v1/stations': { body: [{ call: 7 }] } });
    expect(await problemOf(api.stations())).toMatchObject({ code: 'version' });
  });
  it('carry filters in the address of an export', () => {
    expect(exportUrl('heard.pcap', { text: 'a&b', station: '', kind: undefined })).toBe(
      '/api/v1/exports/heard.pcap?text=a%26b',
    );
  });
});
