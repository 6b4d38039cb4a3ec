import type { BearerConfig, BearerKindId } from '@tombolo/contract';
import type { BearerAdapter } from './bearer';
import { board, radioMail } from './in-sessions/called';
import { kissSerial } from './kiss-serial/kiss-serial';
import { kissTcp } from './kiss-tcp/kiss-tcp';
import { lineFeed } from './line-feed/line-feed';
import { meshMqtt } from './mesh-mqtt/mesh-mqtt';

const adapters = new Map<string, BearerAdapter<never>>();

/** Makes it known how the station works a kind of bearer. */
export function registerBearerAdapter<Kind extends BearerKindId>(adapter: BearerAdapter<Kind>): void {
  if (adapters.has(adapter.kind)) throw new Error(`there is an adapter for ${adapter.kind} already`);
  adapters.set(adapter.kind, adapter as unknown as BearerAdapter<never>);
}

/** The adapter of a configuration's kind. */
export function adapterOf<Kind extends BearerKindId>({ kind }: BearerConfig<Kind>): BearerAdapter<Kind> {
  const adapter = adapters.get(kind);
  if (!adapter) throw new Error(`there is no adapter for ${kind}`);
  return adapter as unknown as BearerAdapter<Kind>;
}

registerBearerAdapter(kissTcp);
registerBearerAdapter(kissSerial);
registerBearerAdapter(lineFeed);
registerBearerAdapter(board);
registerBearerAdapter(radioMail);
registerBearerAdapter(meshMqtt);
