// Each makes its kind known when it is loaded. Named so, no build leaves one out of which nothing else is used, and all are known before the
// first configuration is read, whatever is loaded first.
import './kiss-tcp';
import './kiss-serial';
import './line-feed';
import './board';
import './radio-mail';
import './mesh-mqtt';
import { z } from 'zod';
import { bearerKinds, type BearerConfig, type BearerConfigInput } from './kind';

/** The configuration of any kind that is registered. */
export const bearerConfig: z.ZodType<BearerConfig, BearerConfigInput> = z.lazy(
  () =>
    z.discriminatedUnion(
      'kind',
      bearerKinds().map(({ config }) => config) as unknown as [z.ZodObject<{ kind: z.ZodLiteral<string> }>],
    ) as unknown as z.ZodType<BearerConfig, BearerConfigInput>,
);
