import type { ModemSettings } from '@tombolo/contract';
import { Body } from '../../ui/text';
import type { BearerField, BearerSwitch, Entry } from '../kind';
import { Keying, KEYING_FIELDS, keyingOf } from './keying';
import type { OfModem } from './of-modem';
import { megahertzOf, Tuning } from './tuning';

/** What is asked of every modem, behind where it is. */
export const MODEM_FIELDS: readonly BearerField[] = [
  {
    name: 'frequencyMHz',
    label: 'Tuned to, MHz',
    hint: 'Said on the button that sends; the radio itself is tuned by you. Empty while you do not know',
  },
  ...KEYING_FIELDS,
];

export const MODEM_SWITCHES: readonly BearerSwitch[] = [
  {
    name: 'confirms',
    label: 'It confirms each frame that it has sent',
    hint: 'An extension of KISS that some modems offer. Without it, “sent” means: given to the equipment, unconfirmed.',
  },
];

export const modemSettingsOf = ({ texts, switches }: Entry): Omit<ModemSettings, 'modemPort'> => ({
  frequencyMHz: megahertzOf(texts.frequencyMHz ?? ''),
  ...keyingOf({
    txDelayMs: texts.txDelayMs ?? '',
    persistencePercent: texts.persistencePercent ?? '',
    slotMs: texts.slotMs ?? '',
    usualPath: texts.usualPath ?? '',
  }),
  confirms: switches.confirms ?? false,
});

/** More on the card of a modem. */
export const ModemDetails = ({ bearer, config }: OfModem) => (
  <>
    {config.confirms ? <Body soft>It confirms each frame that it has sent.</Body> : null}
    <Tuning bearer={bearer} config={config} />
    <Keying bearer={bearer} config={config} />
  </>
);
