import { QueryFailedError, QueryRunnerAlreadyReleasedError, QueryRunnerProviderAlreadyReleasedError } from 'typeorm';
import { FAILURE_WORDS, storeFailure } from './failure';

const coded = (code: string) => Object.assign(new Error('x'), { code });

describe('why something could not be stored', () => {
  // SQLSTATE: PostgreSQL 15 manual, appendix A.
  it.each<[string, unknown, ReturnType<typeof storeFailure>]>([
    ['a refused connection', coded('ECONNREFUSED'), 'away'],
    ['a shutdown', coded('57P01'), 'away'],
    ['a database that lets nobody in', coded('55000'), 'away'],
    ['the same inside a statement', new QueryFailedError('select 1', [], coded('57P01')), 'away'],
    ['a connection that broke between two statements', new QueryRunnerAlreadyReleasedError(), 'away'],
    ['the same in a transaction', new QueryRunnerProviderAlreadyReleasedError(), 'away'],
    ['a full disk', coded('53100'), 'full'],
    ['a key that is there already', coded('23505'), 'data'],
    ['a table that is not there', coded('42P01'), 'other'],
    ['what is no error at all', { message: undefined }, 'other'],
  ])('%s', (_, error, failure) => {
    expect(storeFailure(error)).toBe(failure);
    expect(FAILURE_WORDS[storeFailure(error)]).toBeTruthy();
  });
});
