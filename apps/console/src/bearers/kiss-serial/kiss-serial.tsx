import { kissSerialConfig, type BearerConfigInput } from '@tombolo/contract';
import { readWhole } from '@tombolo/core';
import { Button } from '../../ui/button';
import type { ConsoleKind } from '../kind';
import { MODEM_FIELDS, MODEM_SWITCHES, ModemDetails, modemSettingsOf } from '../modem/modem-form';
import { packets } from '../packets/composer';

type Speed = BearerConfigInput<'kiss-serial'>['speedBd'];

export const kissSerial: ConsoleKind<'kiss-serial'> = {
  id: 'kiss-serial',
  title: 'A modem, KISS over a serial line',
  hint: 'By cable, or by a wireless link that looks like one. Tools, Serial lines finds the device and its speed.',
  words: 'Modem, KISS over a serial line, ',
  where: ({ device, speedBd }) => `${device}, ${speedBd} Bd`,
  form: {
    fields: [
      { name: 'device', label: 'Device', hint: 'Such as /dev/ttyUSB0' },
      {
        name: 'speedBd',
        label: 'Speed of the line, Bd',
        initial: String(kissSerialConfig.shape.speedBd.parse(undefined)),
        hint: 'That of the modem; not the speed on the air',
      },
      ...MODEM_FIELDS,
    ],
    switches: MODEM_SWITCHES,
    config: (entry) => ({
      kind: 'kiss-serial',
      device: entry.texts.device ?? '',
      // What is no speed is complained of by the contract's schema.
      speedBd: readWhole(entry.texts.speedBd ?? '') as Speed,
      ...modemSettingsOf(entry),
    }),
  },
  Details: (of) => (
    <>
      <ModemDetails {...of} />
      <Button title="Find the device or its speed" about={of.bearer.name} kind="plain" href="/tools/serial" />
    </>
  ),
  composer: packets,
  modem: {
    by: 'serial',
    config: (at, keyed) => ({
      kind: 'kiss-serial',
      device: at.by === 'serial' ? at.device : '',
      speedBd: (at.by === 'serial' ? at.speedBd : NaN) as Speed,
      ...keyed,
    }),
    isAt: ({ device }, at) => at.by === 'serial' && at.device === device,
  },
};
