import type { KeptPiece, Modem, PositionReceiver } from './piece';
import type { SheetLine } from './sheet-line';

/** A modem of its own: the line to the computer, and the levels between it and its radio. */
export function modemSheet(modem: Modem, pieces: readonly KeptPiece[]): SheetLine[] {
  const radio = pieces.find(({ id }) => id === modem.radioId);
  const { connection } = modem;
  return [
    {
      id: 'cable',
      subject: 'modem',
      what: 'Cable to the radio',
      value: radio ? `into the data socket of ${radio.name}` : 'into the data socket of its radio',
      why: 'Sound in, sound out and the key line: one missing, and it hears without sending or keys without sound.',
      right: 'The radio keys when something is sent, and the modem’s carrier light follows the squelch.',
    },
    {
      id: 'link',
      subject: 'modem',
      what: connection.by === 'serial' ? 'Speed of the line to the computer' : 'Address on the network',
      value: connection.by === 'serial' ? `${connection.speedBd} Bd` : `${connection.host}, port ${connection.port}`,
      why:
        connection.by === 'serial'
          ? 'Both ends need the same speed: at another one every octet is garbled.'
          : 'It is asked for there.',
      right: 'Its bearer card says “up”.',
    },
    {
      id: 'kiss',
      subject: 'modem',
      what: 'Mode',
      value: 'KISS',
      why: 'The frames are made here; a modem that waits for commands answers with lines of text.',
      right: 'Packets of others appear in the monitor.',
    },
    {
      id: 'on-air-speed',
      subject: 'modem',
      what: 'Speed on the air',
      value: `${modem.onAirBd} Bd`,
      why: 'All on the channel use the same speed.',
      right: 'Packets of others are shown, not only heard as noise.',
    },
    {
      id: 'tx-delay',
      subject: 'modem',
      what: 'Transmit delay',
      value: `${modem.txDelayMs} ms, set from here`,
      why: 'Shorter, and the beginning of every packet is lost; longer, and the channel is taken for nothing.',
      right: 'A digipeater repeats what you send at the first try.',
    },
    {
      id: 'level',
      subject: 'modem',
      what: 'Sound to the radio',
      value: 'as low as is still read',
      why: 'Too loud is the common fault: it is clipped, and nobody can read it though all hear it.',
      right: 'Your packets sound no louder than those of others.',
    },
  ];
}

/** A position receiver: its speed, and what it is to say. */
export function receiverSheet(receiver: PositionReceiver, pieces: readonly KeptPiece[]): SheetLine[] {
  const fed = pieces.find(({ id }) => id === receiver.feedsId);
  const to = fed?.name ?? 'this computer';
  return [
    {
      id: 'position-speed',
      subject: 'position source',
      what: 'Speed of its line',
      value: `${receiver.speedBd} Bd, 8 data bits, no parity, 1 stop bit`,
      why: `It has to be that of ${to}. NMEA 0183 talks at 4800 Bd unless a receiver was set otherwise.`,
      right: 'Lines that begin with “$” and end with “*” and two digits.',
    },
    {
      id: 'wires',
      subject: 'position source',
      what: 'Wires',
      value: `its transmit line to the receive line of ${to}`,
      why: 'The other way round nothing arrives, and nothing breaks.',
      right: 'Lines arrive every second or two.',
    },
    {
      id: 'sentences',
      subject: 'position source',
      what: 'Sentences',
      value: 'RMC and GGA, once a second',
      why: 'The one brings date, course and speed, the other height and the quality of the fix.',
      right: 'Both names stand among the lines.',
    },
    {
      id: 'datum',
      subject: 'position source',
      what: 'Datum',
      value: 'WGS 84',
      why: 'Another one shifts you by some hundred metres.',
      right: 'The position agrees with a map at a corner that you can point at.',
    },
  ];
}
