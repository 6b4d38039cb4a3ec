import type { BearerKindId } from '@tombolo/contract';
import { board } from './board/board';
import type { Composer, ConsoleKind } from './kind';
import { kissSerial } from './kiss-serial/kiss-serial';
import { kissTcp } from './kiss-tcp/kiss-tcp';
import { lineFeed } from './line-feed/line-feed';
import { meshMqtt } from './mesh-mqtt/mesh-mqtt';
import { radioMail } from './radio-mail/radio-mail';

const kinds = new Map<string, ConsoleKind<never>>();

/** Makes it known how a kind of bearer is shown. */
export function registerConsoleKind<Id extends BearerKindId>(kind: ConsoleKind<Id>): void {
  if (kinds.has(kind.id)) throw new Error(`there is a kind ${kind.id} already`);
  kinds.set(kind.id, kind as unknown as ConsoleKind<never>);
}

/** How a kind is shown. */
export function consoleKind<Id extends BearerKindId>(id: Id): ConsoleKind<Id> {
  const kind = kinds.get(id);
  if (!kind) throw new Error(`there is no kind ${id}`);
  return kind as unknown as ConsoleKind<Id>;
}

/** All kinds, in the order in which they are offered. */
export const consoleKinds = (): ConsoleKind[] => [...kinds.values()] as unknown as ConsoleKind[];

/** The parts of Write, each once. */
export const composers = (): Composer[] => [
  ...new Map(
    consoleKinds().flatMap(({ composer }) =>
      composer ? [composer, ...(composer.further ?? [])].map((one) => [one.id, one] as const) : [],
    ),
  ).values(),
];

registerConsoleKind(kissTcp);
registerConsoleKind(kissSerial);
registerConsoleKind(meshMqtt);
registerConsoleKind(board);
registerConsoleKind(radioMail);
registerConsoleKind(lineFeed);
