import { createLineSplitter, MAX_MONITOR_LINE } from '@tombolo/core';
import type { BearerAdapter, BearerFactory } from '../bearer';
import { createEquipmentLink } from '../equipment-link';
import { openTcpLine } from '../tcp-line';

const COMMENT = 0x23;

/** A feed of packets as text lines; lines that begin with # are remarks of the feed. */
const createLineFeed: BearerFactory<'line-feed'> = (config, context) => {
  let splitter = createLineSplitter(MAX_MONITOR_LINE);
  const receive = (lines: ReturnType<typeof splitter.push>): boolean => {
    let room = true;
    for (const { octets, overlong } of lines) {
      if (octets.length === 0 || octets[0] === COMMENT) continue;
      room = context.heard({
        bearerId: context.id,
        importId: null,
        port: null,
        form: 'line',
        raw: octets,
        heardAtMs: context.now(),
        ...(overlong && { fault: { at: MAX_MONITOR_LINE, reason: `a line longer than ${MAX_MONITOR_LINE} octets` } }),
      });
    }
    return room;
  };
  const link = createEquipmentLink(() => openTcpLine(config), context, {
    onUp: () => undefined,
    onData: (chunk) => receive(splitter.push(chunk)),
    onDown: () => {
      receive(splitter.end());
      splitter = createLineSplitter(MAX_MONITOR_LINE);
    },
  });
  return { start: link.start, stop: link.stop, state: link.state };
};

export const lineFeed: BearerAdapter<'line-feed'> = {
  kind: 'line-feed',
  create: createLineFeed,
  // A feed alone never keys the radio; its operator may say that a modem answers for it.
  answersOver: ({ answerOver }) => answerOver ?? null,
};
