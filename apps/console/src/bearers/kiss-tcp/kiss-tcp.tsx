import { Body } from '../../ui/text';
import { TCP_FIELDS, tcpAddress, tcpWords } from '../address-fields';
import type { ConsoleKind } from '../kind';
import { packets } from '../packets/composer';
import { KEYING_FIELDS, Keying, keyingOf } from './keying';
import { megahertzOf, Tuning } from './tuning';

export const kissTcp: ConsoleKind<'kiss-tcp'> = {
  id: 'kiss-tcp',
  title: 'A modem, KISS over TCP',
  hint: 'Sends and receives packets; boards and mail go over it too.',
  words: 'Modem, KISS over TCP, ',
  where: tcpWords,
  form: {
    fields: [
      ...TCP_FIELDS,
      {
        name: 'frequencyMHz',
        label: 'Tuned to, MHz',
        hint: 'Said on the button that sends; the radio itself is tuned by you. Empty while you do not know',
      },
      ...KEYING_FIELDS,
    ],
    switches: [
      {
        name: 'confirms',
        label: 'It confirms each frame that it has sent',
        hint: 'An extension of KISS that some modems offer. Without it, “sent” means: given to the equipment, unconfirmed.',
      },
    ],
    config: ({ texts, ...entry }) => ({
      kind: 'kiss-tcp',
      ...tcpAddress({ texts, ...entry }),
      frequencyMHz: megahertzOf(texts.frequencyMHz ?? ''),
      ...keyingOf({ txDelayMs: texts.txDelayMs ?? '', usualPath: texts.usualPath ?? '' }),
      confirms: entry.switches.confirms ?? false,
    }),
  },
  Details: ({ bearer, config }) => (
    <>
      {config.confirms ? <Body soft>It confirms each frame that it has sent.</Body> : null}
      <Tuning bearer={bearer} config={config} />
      <Keying bearer={bearer} config={config} />
    </>
  ),
  composer: packets,
};
