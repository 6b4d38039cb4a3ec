import type { BearerConfig } from '@tombolo/contract';
import { channelMark, MESH_PREAMBLE_SYMBOLS } from '@tombolo/core';

/** Channel of its announcements: it announces itself in the clear, and where there is no open channel not at all. */
function openMark(channels: BearerConfig<'mesh-mqtt'>['channels']): string | null {
  const open = channels.find(({ key }) => key === null);
  return open ? channelMark(open.name, null) : null;
}

/**
 * How a node is to be set (docs/mesh.md, `setup`): it keeps to it, and says so. `silent`: while nothing may go out it transmits nothing by
 * itself either, and hears on.
 */
export const setupOf = (config: BearerConfig<'mesh-mqtt'>, silent: boolean) => ({
  v: 2,
  silent,
  tag: config.tag,
  name: config.name,
  carrier: config.carrier,
  announceMin: config.announceMin,
  hopLimit: config.hopLimit,
  mark: openMark(config.channels),
  radio: config.radio,
  preambleSymbols: MESH_PREAMBLE_SYMBOLS,
});
