import type { BearerKindId } from '@tombolo/contract';
import { double, instant, json, key, maybe, table, text, uuid } from '../table';

export const PredictionEntity = table('prediction', {
  legId: key(uuid()),
  at: instant(),
  bearerKind: text<BearerKindId>(),
  proven: double(),
  low: double(),
  high: double(),
  basis: text<'evidence' | 'map'>(),
  rests: json<readonly string[]>(),
  reckoned: maybe(double()),
});
