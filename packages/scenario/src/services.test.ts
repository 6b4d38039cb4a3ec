import { service as schema } from '@tombolo/contract';
import { checkService } from '@tombolo/core';
import { services } from './services';

describe('the services that ship', () => {
  it('fit the schema as they stand, and can be worked with', () => {
    for (const one of services) {
      expect(schema.parse(one)).toEqual(one);
      expect(checkService(one)).toMatchObject({ ok: true });
    }
  });
});
