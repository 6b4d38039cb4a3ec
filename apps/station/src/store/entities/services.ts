import type { Service } from '@tombolo/core';
import { instant, integer, json, key, table, text, uuid } from '../table';

/** A service of the directory. */
export const ServiceEntity = table('service', {
  address: key(text()),
  definition: json<Service>(),
  revision: integer(),
  changedAt: instant(),
});

/** An answer of a service that fits several questions, until somebody says which it belongs to. */
export const AnswerOfferEntity = table('answer_offer', {
  itemId: key(uuid()),
  legId: key(uuid()),
});
