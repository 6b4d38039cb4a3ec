import { NO_FILTER } from './filter';
import { filterOf, paramsOf } from './filter-address';

describe('a filter in the address', () => {
  it('is the same when it is read again', () => {
    const filter = {
      text: 'lifeboat',
      kind: 'moving' as const,
      withinKm: 25,
      withinMin: 60,
      bearerId: 'vhf',
      hidden: true,
    };
    expect(filterOf(JSON.parse(JSON.stringify(paramsOf(filter))))).toEqual(filter);
  });
  it('says nothing when nothing is hidden', () => {
    expect(Object.values(paramsOf(NO_FILTER)).every((value) => value === undefined)).toBe(true);
    expect(filterOf({})).toEqual(NO_FILTER);
  });
  it.each([[{ kind: 'ghosts' }], [{ km: '-5' }], [{ min: 'soon' }], [{ hidden: 'true', text: ['a', 'b'] }]])(
    'takes %j for none',
    (params) => expect(filterOf(params)).toEqual(NO_FILTER),
  );
});
