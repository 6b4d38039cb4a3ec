import { MOST_POSITION_COMMENT_OCTETS } from '../aprs/own-position';
import { symbolInWords, symbolOf } from '../aprs/symbol';
import { degreesAndMinutes } from '../geo/written';
import { formatMHz } from '../radio/regions';
import { isInBands, piecesOn, type KeptPiece, type Radio } from './piece';
import type { SheetLine, SheetPlan } from './sheet-line';

/** `30 min`, `90 s`. */
const everyWords = (everyS: number): string => (everyS % 60 === 0 ? `${everyS / 60} min` : `${everyS} s`);

/** What is keyed into a radio; most of it only where its own modem sends. */
export function radioSheet(
  radio: Radio & { readonly id: string },
  pieces: readonly KeptPiece[],
  plan: SheetPlan,
): SheetLine[] {
  return [
    ...beforePower(radio, pieces, plan),
    ...(radio.modem ? ownModem(radio, pieces, plan) : []),
    ...receiveChannel(radio, pieces, plan),
  ];
}

function beforePower(
  radio: Radio & { readonly id: string },
  pieces: readonly KeptPiece[],
  { packetMHz }: SheetPlan,
): SheetLine[] {
  const antennas = piecesOn(radio.id, 'antenna', pieces);
  const fit = packetMHz === null ? antennas : antennas.filter((one) => isInBands(one.bandsMHz, packetMHz));
  return [
    {
      id: 'antenna',
      subject: 'before power',
      what: 'Antenna',
      value: (fit[0] ?? antennas[0])?.name ?? 'one for this band',
      why:
        antennas.length > 0 && fit.length === 0
          ? 'None that is entered here is for this band. A transmitter without a fitting antenna can destroy its output stage.'
          : 'Before power: a transmitter without one can destroy its output stage.',
      right: 'Screwed on hand-tight, upright, nothing touching it.',
    },
    {
      id: 'power',
      subject: 'before power',
      what: 'Power',
      value: `${radio.powerW} W or less`,
      why: 'No more than is needed: it saves the cell, and the distance to the antenna that your exposure rules ask for is shorter.',
      right: 'The display names the step that you chose.',
    },
  ];
}

function positionSource(
  radio: Radio & { readonly id: string },
  pieces: readonly KeptPiece[],
  plan: SheetPlan,
): SheetLine[] {
  const fixed = plan.place
    ? `typed in: ${degreesAndMinutes(plan.place)}`
    : 'typed in, or none: without a position no report goes out';
  if (radio.positionFrom === 'none' || (plan.place && radio.positionFrom === 'own'))
    return [
      {
        id: 'position',
        subject: 'position source',
        what: 'Position',
        value: fixed,
        why:
          radio.positionFrom === 'own'
            ? 'It stays where it is: a typed position saves the cell, and is there indoors too.'
            : 'It has no receiver for its position.',
        right: 'The position page shows these degrees and minutes, north or south, east or west as here.',
      },
    ];
  if (radio.positionFrom === 'own')
    return [
      {
        id: 'position',
        subject: 'position source',
        what: 'Position',
        value: 'own receiver, on',
        why: 'Without a fix nothing is sent, and nothing says so.',
        right: 'After some minutes under open sky the fix mark stands still and the position page agrees with a map.',
      },
    ];
  const [receiver] = piecesOn(radio.id, 'receiver', pieces);
  return [
    {
      id: 'position',
      subject: 'position source',
      what: 'Position',
      value: 'receiver on the port',
      why: 'Set to anything else, what the port brings is not read.',
      right: 'The position page agrees with a map within a few minutes.',
    },
    {
      id: 'position-speed',
      subject: 'position source',
      what: 'Speed of the position port',
      value: receiver ? `${receiver.speedBd} Bd` : '4800 Bd, unless its receiver says otherwise',
      why: 'Both ends need the same speed: at another one no sentence is read, and nothing says so.',
      right: 'Degrees appear within seconds of switching the receiver on; a fix may take longer.',
    },
  ];
}

function ownModem(radio: Radio & { readonly id: string }, pieces: readonly KeptPiece[], plan: SheetPlan): SheetLine[] {
  const modem = radio.modem!;
  const line = (of: SheetLine): SheetLine => of;
  return [
    ...positionSource(radio, pieces, plan),
    line({
      id: 'modem',
      subject: 'modem',
      what: 'Packet modem',
      value: 'on, sending by itself',
      why: 'Switched off, or left to a computer that is not there, nothing goes out.',
      right: 'The packet mark is lit and stays lit after switching off and on.',
    }),
    ...(radio.receivers === 2
      ? [
          line({
            id: 'modem-receiver',
            subject: 'modem',
            what: 'Receiver that the modem works on',
            value: modem.receiver === 1 ? 'first' : 'second',
            why: 'On the other one it hears nothing and sends on the wrong channel.',
            right: 'The packet mark stands beside the packet channel.',
          }),
        ]
      : []),
    line({
      id: 'on-air-speed',
      subject: 'modem',
      what: 'Speed on the air',
      value: `${modem.onAirBd} Bd`,
      why: 'All on the channel use the same speed.',
      right: 'Packets of others are shown, not only heard as noise.',
    }),
    line({
      id: 'tx-delay',
      subject: 'modem',
      what: 'Transmit delay',
      value: `${modem.txDelayMs} ms`,
      why: 'Shorter, and the beginning of every packet is lost; longer, and the channel is taken for nothing.',
      right: 'A digipeater repeats what you send at the first try.',
    }),
    line({
      id: 'clear-channel',
      subject: 'modem',
      what: 'Wait for a clear channel',
      value: 'on',
      why: 'Else it sends over others.',
      right: 'It does not key while the channel is busy.',
    }),
    ...(modem.stopsWithWireless
      ? [
          line({
            id: 'wireless',
            subject: 'modem',
            what: 'Wireless link to a phone',
            value: 'off, or the modem switched on again after it came up',
            why: 'On this set the modem goes off when the link comes up, and nothing goes out any more.',
            right: 'The packet mark is lit while the phone is connected.',
          }),
        ]
      : []),
    line({
      id: 'call',
      subject: 'addresses',
      what: 'Own call sign',
      value: plan.call ?? 'yours, with its SSID',
      why: 'Capital letters: some sets let others through, and nobody answers them. Every SSID is a station of its own.',
      right: 'It stands before the “>” of your packets.',
    }),
    line({
      id: 'symbol',
      subject: 'symbol',
      what: 'Symbol',
      value: symbolValue(plan.symbol),
      why: 'Others see by it what you are.',
      right: `Table “${plan.symbol[0] ?? ''}”, code “${plan.symbol[1] ?? ''}” where the set asks for characters.`,
    }),
    line({
      id: 'path',
      subject: 'path',
      what: 'Path',
      value: plan.path.join(',') || 'none',
      why:
        plan.path.length > 0
          ? 'Each element is one digipeater more, and as much air time again. Local conventions come first.'
          : 'Only stations in direct range hear it; it costs the channel least.',
      right: 'Your packets carry exactly this behind the destination.',
    }),
    line({
      id: 'interval',
      subject: 'interval',
      what: 'Position reports',
      value: plan.reportEveryS === null ? 'by hand' : `by themselves, every ${everyWords(plan.reportEveryS)}`,
      why:
        plan.reportEveryS === null
          ? 'Nothing goes out that you did not press for.'
          : 'Half a minute is for a test bench; everybody shares the channel.',
      right:
        plan.reportEveryS === null
          ? 'The mark for automatic reports is dark.'
          : 'The mark for automatic reports is lit, and the first one goes out at once or with the first fix.',
    }),
    line({
      id: 'comment',
      subject: 'interval',
      what: 'Comment behind the position',
      value: plan.comment || 'empty',
      why: `At most ${MOST_POSITION_COMMENT_OCTETS} characters; each costs air time in every report.`,
      right: 'It reads the same on somebody else’s display.',
    }),
  ];
}

function symbolValue(text: string): string {
  const symbol = symbolOf(text);
  return symbol ? symbolInWords(symbol) : text;
}

function receiveChannel(
  radio: Radio & { readonly id: string },
  pieces: readonly KeptPiece[],
  { packetMHz }: SheetPlan,
): SheetLine[] {
  const hasModem = radio.modem !== null || piecesOn(radio.id, 'modem', pieces).length > 0;
  if (!hasModem) return [];
  const channel = packetMHz === null ? 'that of your region' : `${formatMHz(packetMHz)} MHz`;
  const outside = packetMHz !== null && radio.bandsMHz.length > 0 && !isInBands(radio.bandsMHz, packetMHz);
  return [
    {
      id: 'channel',
      subject: 'receive channel',
      what: radio.receivers === 2 && radio.modem ? 'Packet channel, on that receiver' : 'Packet channel',
      value: channel,
      why: outside
        ? 'This set does not reach that frequency, by its bands as they are entered here.'
        : 'No offset, narrow or wide as your region has it. Local plans come first.',
      right: 'Bursts of packets are heard with the squelch open.',
    },
    {
      id: 'tone',
      subject: 'receive channel',
      what: 'Tone squelch on the packet channel',
      value: 'off',
      why: 'Packets carry no tone: with it on, the set stays deaf to nearly all of them.',
      right: 'No tone mark stands beside the packet channel.',
    },
    ...(radio.scans
      ? [
          {
            id: 'scan',
            subject: 'receive channel' as const,
            what: 'List of channels that it scans',
            value: `with ${channel} in it, or scanning off`,
            why: 'While it stands on another channel it hears no packet.',
            right: 'It stays on the packet channel, or comes back to it within seconds.',
          },
        ]
      : []),
  ];
}
