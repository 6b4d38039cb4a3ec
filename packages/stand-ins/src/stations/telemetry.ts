import { encodeMessage, encodeTelemetry, encodeTelemetryDefinition, type TelemetryDefinition } from '@tombolo/core';
import type { Radio } from '../radio/channel';
import type { World } from '../sim/world';
import { packetFrom, sendPacket } from './packets';

export interface TelemetryOptions {
  readonly everyS: number;
  readonly path: readonly string[];
  /** Sent with the first report and again after each `definitionEvery` reports. */
  readonly definitions: readonly TelemetryDefinition[];
  readonly definitionEvery: number;
  /** Five values and eight bits. */
  readonly measure: () => { readonly analog: readonly number[]; readonly bits: string };
}

/** Sends what it measures, and now and then what its channels mean. */
export function runTelemetry(world: World, radio: Radio, options: TelemetryOptions): void {
  const { call } = radio.station;
  const chance = world.random(`telemetry/${call}`);
  let sequence = 0;
  const send = () => {
    const { analog, bits } = options.measure();
    const report = encodeTelemetry(sequence, analog, bits);
    if (!report.ok) throw new Error(`a stand-in made telemetry that cannot be sent: ${report.error.reason}`);
    sendPacket(radio, packetFrom(call, options.path, report.value));
    if (sequence % options.definitionEvery === 0)
      options.definitions.forEach((definition, i) =>
        world.after((i + 1) * 15_000, () => {
          const message = encodeMessage({ addressee: call, text: encodeTelemetryDefinition(definition) });
          if (message.ok) sendPacket(radio, packetFrom(call, options.path, message.value));
        }),
      );
    sequence++;
    world.after(1000 * options.everyS * (0.95 + 0.1 * chance()), send);
  };
  world.after(1000 * options.everyS * chance(), send);
}
