import { TCP_FIELDS, tcpAddress, tcpWords } from '../address-fields';
import type { ConsoleKind } from '../kind';
import { MODEM_FIELDS, MODEM_SWITCHES, ModemDetails, modemSettingsOf } from '../modem/modem-form';
import { packets } from '../packets/composer';

export const kissTcp: ConsoleKind<'kiss-tcp'> = {
  id: 'kiss-tcp',
  title: 'A modem, KISS over TCP',
  hint: 'Sends and receives packets; boards and mail go over it too.',
  words: 'Modem, KISS over TCP, ',
  where: tcpWords,
  form: {
    fields: [...TCP_FIELDS, ...MODEM_FIELDS],
    switches: MODEM_SWITCHES,
    config: (entry) => ({ kind: 'kiss-tcp', ...tcpAddress(entry), ...modemSettingsOf(entry) }),
  },
  Details: ModemDetails,
  composer: packets,
  modem: {
    by: 'tcp',
    config: (at, keyed) => ({
      kind: 'kiss-tcp',
      host: at.by === 'tcp' ? at.host : '',
      port: at.by === 'tcp' ? at.port : NaN,
      ...keyed,
    }),
    isAt: ({ host, port }, at) => at.by === 'tcp' && at.host === host && at.port === port,
  },
};
