import type { BearerConfig, BearerView } from '@tombolo/contract';

/** A modem that speaks KISS, whatever line leads to it. */
export interface OfModem {
  readonly bearer: BearerView;
  readonly config: BearerConfig<'kiss-tcp' | 'kiss-serial'>;
}
