import type { OwnCause, SymptomId } from '@tombolo/core';
import { flag, instant, json, key, table, text, uuid } from '../table';

/** A ready check that came to its end. */
export const CheckRunEntity = table('check_run', {
  id: key(uuid()),
  symptom: text<SymptomId>(),
  answers: json<Record<string, string>>(),
  found: text(),
  fixed: flag(),
  at: instant(),
});

export const OwnCauseEntity = table('own_cause', {
  id: key(uuid()),
  cause: json<Omit<OwnCause, 'id'>>(),
  createdAt: instant(),
});
