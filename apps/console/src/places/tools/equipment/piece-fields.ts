import { LINE_SPEEDS_BD, ON_AIR_SPEEDS_BD, type PieceKind } from '@tombolo/core';

interface OfField {
  /** Where it stands in the piece, with `_` between the steps. */
  readonly key: string;
  readonly label: string;
  readonly hint?: string;
  /** It is asked only while another field has this value. */
  readonly when?: { readonly key: string; readonly is: string | boolean };
}

/** A question of the form of a piece. */
export type PieceField = OfField &
  (
    | { readonly sort: 'text' | 'number' | 'bands'; readonly start: string }
    | {
        readonly sort: 'one-of' | 'number-of';
        readonly options: readonly { readonly id: string; readonly title: string; readonly hint?: string }[];
        readonly start: string;
      }
    | { readonly sort: 'yes'; readonly start: boolean }
    /** The piece that it belongs to. */
    | { readonly sort: 'owner'; readonly start: '' }
  );

const name = (hint: string): PieceField => ({ sort: 'text', key: 'name', label: 'Name', hint, start: '' });
const power = (start: string): PieceField => ({ sort: 'number', key: 'powerW', label: 'Power, W', start });
const bands: PieceField = {
  sort: 'bands',
  key: 'bandsMHz',
  label: 'Bands, MHz',
  hint: 'From and to, several with commas between: 144-148, 430-450',
  start: '',
};
const onAir = (key: string, when?: OfField['when']): PieceField => ({
  sort: 'number-of',
  key,
  label: 'Speed on the air',
  options: ON_AIR_SPEEDS_BD.map((speed) => ({ id: String(speed), title: `${speed} Bd` })),
  start: '1200',
  when,
});
const delay = (key: string, start: string, when?: OfField['when']): PieceField => ({
  sort: 'number',
  key,
  label: 'Transmit delay, ms',
  hint: 'In practice about 200 for a set in a vehicle with a modem inside, 600 for a hand-held; its book comes first.',
  start,
  when,
});
const lineSpeed = (key: string, label: string, start: string, when?: OfField['when']): PieceField => ({
  sort: 'number-of',
  key,
  label,
  options: LINE_SPEEDS_BD.map((speed) => ({ id: String(speed), title: `${speed} Bd` })),
  start,
  when,
});
const INSIDE = { key: 'hasModem', is: true } as const;

/** What is asked of each kind, in order. */
export const PIECE_FIELDS: Readonly<Record<PieceKind, readonly PieceField[]>> = {
  radio: [
    name('What you call it, such as hand-held or set in the truck'),
    bands,
    power('5'),
    {
      sort: 'number-of',
      key: 'receivers',
      label: 'Receivers at once',
      options: [
        { id: '1', title: 'One' },
        { id: '2', title: 'Two' },
      ],
      start: '1',
    },
    {
      sort: 'yes',
      key: 'hasModem',
      label: 'A packet modem is inside',
      hint: 'It sends and reads packets without a computer.',
      start: false,
    },
    {
      sort: 'number-of',
      key: 'modem_receiver',
      label: 'The modem works on',
      options: [
        { id: '1', title: 'The first receiver' },
        { id: '2', title: 'The second receiver' },
      ],
      start: '1',
      when: INSIDE,
    },
    onAir('modem_onAirBd', INSIDE),
    delay('modem_txDelayMs', '600', INSIDE),
    {
      sort: 'yes',
      key: 'modem_stopsWithWireless',
      label: 'The modem goes off when a wireless link comes up',
      hint: 'Some sets do that without a word: nothing goes out any more.',
      start: false,
      when: INSIDE,
    },
    {
      sort: 'one-of',
      key: 'positionFrom',
      label: 'Its position comes from',
      options: [
        { id: 'own', title: 'A receiver inside' },
        { id: 'port', title: 'A receiver on its port' },
        { id: 'none', title: 'Nowhere: it is typed in' },
      ],
      start: 'none',
      when: INSIDE,
    },
    {
      sort: 'yes',
      key: 'scans',
      label: 'It scans a list of channels',
      hint: 'While it stands on another one it hears no packets.',
      start: false,
    },
  ],
  modem: [
    name('What you call it'),
    { sort: 'owner', key: 'radioId', label: 'It keys', start: '' },
    {
      sort: 'one-of',
      key: 'connection_by',
      label: 'Connected by',
      options: [
        { id: 'serial', title: 'A serial line', hint: 'A cable, or a wireless link that looks like one.' },
        { id: 'tcp', title: 'The network' },
      ],
      start: 'serial',
    },
    {
      sort: 'text',
      key: 'connection_device',
      label: 'Device',
      hint: 'Such as /dev/ttyUSB0',
      start: '',
      when: { key: 'connection_by', is: 'serial' },
    },
    lineSpeed('connection_speedBd', 'Speed of the line', '9600', { key: 'connection_by', is: 'serial' }),
    {
      sort: 'text',
      key: 'connection_host',
      label: 'Host',
      start: '127.0.0.1',
      when: { key: 'connection_by', is: 'tcp' },
    },
    { sort: 'number', key: 'connection_port', label: 'Port', start: '8001', when: { key: 'connection_by', is: 'tcp' } },
    onAir('onAirBd'),
    delay('txDelayMs', '300'),
  ],
  antenna: [
    name('Such as whip, roof, wire'),
    { sort: 'owner', key: 'onId', label: 'It is on', start: '' },
    bands,
    { sort: 'number', key: 'gainDbi', label: 'Gain, dBi', start: '0' },
    { sort: 'number', key: 'heightM', label: 'Height above the ground, m', start: '1.5' },
  ],
  node: [
    name('Where or whose it is'),
    { sort: 'text', key: 'tag', label: 'Tag', hint: 'One to six letters or digits', start: '' },
    power('0.1'),
    {
      sort: 'one-of',
      key: 'role',
      label: 'Role',
      options: [
        { id: 'terminal', title: 'Terminal: does not repeat', hint: 'In a hand or a vehicle.' },
        { id: 'carrier', title: 'Carrier: repeats for others', hint: 'On a high place.' },
      ],
      start: 'terminal',
    },
    {
      sort: 'one-of',
      key: 'positionFrom',
      label: 'Its position comes from',
      options: [
        { id: 'own', title: 'A receiver inside' },
        { id: 'none', title: 'Nowhere: it is typed in' },
      ],
      start: 'none',
    },
    {
      sort: 'yes',
      key: 'chargeSwitch',
      label: 'The cell is charged only while its switch is on',
      hint: 'So it is on some boards.',
      start: false,
    },
  ],
  receiver: [
    name('What you call it'),
    lineSpeed('speedBd', 'It talks at', '4800'),
    { sort: 'owner', key: 'feedsId', label: 'It feeds', start: '' },
  ],
  cell: [
    name('What you call it'),
    { sort: 'number', key: 'capacityAh', label: 'Capacity, Ah', start: '' },
    { sort: 'number', key: 'voltageV', label: 'Voltage, V', start: '' },
    { sort: 'owner', key: 'feedsId', label: 'It feeds', start: '' },
  ],
};
